<script setup lang="ts">
import { computed } from 'vue'
import type { ClipSoFar } from '@iron-hush/core/measure'
import { amplitudeDb, signed } from '@iron-hush/core/units'
import { useMeasuring } from '../../state/measuring'
import { useScene } from '../../state/scene'

/** Clips that could not be read, those that are being read, and those that wait their turn. */
const measuring = useMeasuring()
const scene = useScene()
/** Most waiting clips listed: a whole card would fill the screen. */
const mostShown = 12
function heardSoFar(soFar: ClipSoFar | undefined): string {
  if (!soFar || !Number.isFinite(soFar.peakDbfs)) return 'reading'
  if (soFar.cut) return `reading; cut at full scale ${soFar.cut} times so far`
  return `reading; peaks ${signed(soFar.peakDbfs)} dBFS so far`
}
/** The wave as far as it is read, one bar a slice; in decibels, since soft clips would be a flat line. */
const lowestDbfs = -54
const heightOf = (high: number): number => Math.max(0.02, 1 - amplitudeDb(high) / lowestDbfs)
const waveOf = ({ highs }: ClipSoFar): string =>
  highs.map((high, slice) => `M${slice + 0.5} ${-heightOf(high)}V${heightOf(high)}`).join('')
const refused = computed(() => measuring.waiting.filter((each) => each.refused))
const toRead = computed(() => measuring.waiting.filter((each) => !each.refused))
const shown = computed(() => toRead.value.slice(0, mostShown))
const further = computed(() => toRead.value.length - shown.value.length)
/** Most sentences begin with the name of the file. */
const sentenceOf = ({ refused: sentence = '', name }: { refused?: string; name: string }): string =>
  sentence.includes(name) ? sentence : `${name}: ${sentence}`
const sceneOf = (each: { scene: string; sceneName: string }): string =>
  each.scene === scene.document?.id ? '' : `, for ${each.sceneName}`
</script>

<template>
  <ol v-if="refused.length" aria-label="Clips that could not be read">
    <li v-for="each in refused" :key="each.id" class="refused">
      <span class="mark" aria-hidden="true">&#x25B2;</span>
      <p>{{ sentenceOf(each) }}</p>
      <div>
        <button type="button" :aria-label="`Try ${each.name} again`" @click="measuring.again(each.id)">
          Try again
        </button>
        <button type="button" :aria-label="`Dismiss ${each.name}`" @click="measuring.stop(each.id)">
          Dismiss
        </button>
      </div>
    </li>
  </ol>
  <ol v-if="toRead.length" class="waiting" aria-label="Clips being read">
    <li v-for="each in shown" :key="each.id">
      <b :title="each.name">{{ each.name }}</b>
      <span class="figure">{{ Math.round(each.share * 100) }} %</span>
      <button type="button" :aria-label="`Stop ${each.name}`" @click="measuring.stop(each.id)">Stop</button>
      <svg
        v-if="each.soFar"
        :viewBox="`0 -1 ${each.soFar.slices} 2`"
        preserveAspectRatio="none"
        aria-hidden="true"
      >
        <path :d="waveOf(each.soFar)" />
      </svg>
      <progress :value="each.share" max="1" :aria-label="`Reading ${each.name}`"></progress>
      <small>{{ each.isBeingRead ? heardSoFar(each.soFar) : 'waiting' }}{{ sceneOf(each) }}</small>
    </li>
    <li v-if="further" class="further">
      <span>and {{ further }} more</span>
      <button type="button" @click="measuring.stopAll()">Stop all</button>
    </li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  gap: 1px 6px;
  align-items: center;
  padding: 8px 12px 8px 15px;
  border-bottom: 1px solid var(--rule);
}
b {
  font-stretch: 88%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
button {
  border: 1px solid var(--rule);
  border-radius: 2px;
  background: var(--sheet);
  padding: 2px 8px;
  cursor: pointer;
}
.further {
  grid-template-columns: minmax(0, 1fr) auto;
}
@media (max-width: 700px) {
  button {
    min-height: 44px;
  }
}
svg {
  width: 100%;
  height: 28px;
}
path {
  stroke: var(--ink);
  stroke-width: 0.7;
}
svg,
small,
progress {
  grid-column: 1 / -1;
}
.refused {
  grid-template-columns: 14px minmax(0, 1fr);
  align-items: baseline;
}
.refused p {
  margin: 0;
  font-stretch: 90%;
  line-height: 1.3;
  overflow-wrap: anywhere;
}
.refused div {
  grid-column: 2;
  display: flex;
  gap: 6px;
  padding-top: 4px;
}
.mark {
  color: var(--iron);
}
small {
  font-size: var(--small);
  font-stretch: 90%;
  color: var(--quiet);
  line-height: 1.25;
}
progress {
  width: 100%;
  accent-color: var(--brass);
}
</style>
