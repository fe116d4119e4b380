<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { Drawn } from '@iron-hush/core/measure'
import type { Measurement, TimeRange } from '@iron-hush/core/model'
import { clock } from '@iron-hush/core/units'
import SegmentedChoice from '../../parts/SegmentedChoice.vue'
import { startDrawn } from '../../workers/compute'
import { useClipPlayer } from './clip-player'
import { useClipSpectra } from './clip-spectra'
import { useClipView } from './clip-view'
import FindingLanes from './FindingLanes.vue'
import type { ShownFinding } from '@iron-hush/core/report'
import LevelStrip from './LevelStrip.vue'
import SpectrumStrip from './SpectrumStrip.vue'
import { useWaveGestures } from './wave-gestures'
import WaveStrip from './WaveStrip.vue'

/** The waves of a clip with its findings under them: to look closer, move along and listen. */
const { measurement, findings, marks, file } = defineProps<{
  measurement: Measurement
  findings: readonly ShownFinding[]
  /** Marks from Roll. */
  marks: readonly { atS: number; words: string }[]
  /** The clip itself, while it is at hand. */
  file: Blob | undefined
}>()
const view = useClipView(() => measurement.lengthS)
const player = useClipPlayer()
const area = useTemplateRef('area')
const selected = shallowRef<{ range: TimeRange; finding: ShownFinding }>()
watch(
  () => measurement,
  () => {
    selected.value = undefined
    player.stop()
  },
)

/** The recorder's name for a channel; empty if it has none. */
const nameOf = (channel: number) => measurement.stream.channelNames?.[channel] ?? ''
/** One channel has the height of the screen to itself, several share it. */
const waveHeight = computed(() => Math.max(92, Math.round(240 / Math.max(1, measurement.channels.length))))

/** The stored wave has 600 slices; a part of it is read again from the file, as fine as the screen. */
const drawn = shallowRef<Drawn>()
const slices = 900
watchDebounced(
  () => [view.fromS.value, view.toS.value, file, measurement] as const,
  async ([fromS, toS]) => {
    if (!file || view.isWhole.value) return void (drawn.value = undefined)
    const read = await startDrawn(file, measurement.clip, fromS, toS, slices).result.catch(() => undefined)
    if (view.fromS.value === fromS && view.toS.value === toS) drawn.value = read
  },
  { debounce: 60 },
)
const finerOf = (channel: number) => {
  const read = drawn.value
  if (!read?.envelopes[channel] || read.toS < view.fromS.value || read.fromS > view.toS.value)
    return undefined
  return { fromS: read.fromS, toS: read.toS, envelope: read.envelopes[channel] }
}

type Shown = 'wave' | 'levels' | 'spectrum'
const views: { id: Shown; name: string }[] = [
  { id: 'wave', name: 'Wave' },
  { id: 'levels', name: 'Levels' },
  { id: 'spectrum', name: 'Spectrum' },
]
const shown = ref<Shown>('wave')
const mainsHz = computed(() => {
  const hum = findings.find(({ code }) => code === 'hum')
  return hum?.code === 'hum' ? hum.figures.mainsHz : undefined
})
const spectra = useClipSpectra(
  () => shown.value === 'spectrum',
  () => ({ file, measurement, fromS: view.fromS.value, toS: view.toS.value }),
)

const { down, move, up, key } = useWaveGestures(area, view)

function show(range: TimeRange, finding: ShownFinding): void {
  selected.value = { range, finding }
  view.show(range)
}
function listen(): void {
  if (player.playing.value) player.stop()
  else if (file) void player.play(file, measurement.clip, view.fromS.value, view.toS.value).catch(player.stop)
}
defineExpose({ show, draw: (as: Shown) => (shown.value = as) })
</script>

<template>
  <section class="waves" aria-label="Wave">
    <div class="bar">
      <button type="button" @click="view.zoom(0.5)">Closer</button>
      <button type="button" :disabled="view.isWhole.value" @click="view.zoom(2)">Farther</button>
      <button type="button" :disabled="view.isWhole.value" @click="view.showAll()">Whole clip</button>
      <span class="figure quiet">{{ clock(view.fromS.value, 2) }} to {{ clock(view.toS.value, 2) }}</span>
      <SegmentedChoice v-model="shown" class="shown" :options="views" label="View" />
      <span class="gap"></span>
      <template v-if="file">
        <button type="button" :aria-pressed="player.playing.value" @click="listen()">
          {{ player.playing.value ? 'Stop' : 'Listen from here' }}
        </button>
        <label><input v-model="player.looped.value" type="checkbox" /> over and over</label>
        <slot></slot>
      </template>
      <span v-else class="quiet">Drop the clip again to look closer and to listen.</span>
    </div>
    <div
      ref="area"
      class="area"
      tabindex="0"
      role="group"
      aria-label="Wave: + and - look closer and farther, arrows move along, 0 shows all"
      @keydown="key"
      @pointerdown="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="up"
    >
      <div v-for="(channel, index) in measurement.channels" :key="index" class="wave">
        <span v-if="measurement.channels.length > 1" class="number">
          <span class="figure">{{ index + 1 }}</span> {{ nameOf(index) }}
        </span>
        <LevelStrip
          v-if="shown === 'levels'"
          :channel
          :from-s="view.fromS.value"
          :to-s="view.toS.value"
          :length-s="measurement.lengthS"
          :height="waveHeight"
          :label="`Channel ${index + 1} ${nameOf(index)}`.trim()"
        />
        <SpectrumStrip
          v-else-if="shown === 'spectrum'"
          :channel
          :lines="spectra[index]"
          :mains-hz="mainsHz"
          :height="waveHeight"
          :label="`Channel ${index + 1} ${nameOf(index)}`.trim()"
        />
        <WaveStrip
          v-else
          :channel
          :from-s="view.fromS.value"
          :to-s="view.toS.value"
          :length-s="measurement.lengthS"
          :finer="finerOf(index)"
          :selected="selected?.range"
          :height="waveHeight"
          :label="`Channel ${index + 1} ${nameOf(index)}`.trim()"
        />
      </div>
      <i
        v-if="player.atS.value !== undefined && shown !== 'spectrum'"
        class="cursor"
        :style="{
          left: `${((player.atS.value - view.fromS.value) / (view.toS.value - view.fromS.value)) * 100}%`,
        }"
      ></i>
    </div>
    <FindingLanes :findings :marks :from-s="view.fromS.value" :to-s="view.toS.value" @show="show" />
  </section>
</template>

<style scoped>
.waves {
  display: grid;
  gap: 4px;
}
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 10px;
  align-items: center;
  font-size: var(--small);
}
.bar button {
  border: 1px solid var(--rule);
  background: var(--sheet);
  border-radius: 2px;
  padding: 3px 10px;
  cursor: pointer;
}
.bar button:disabled {
  opacity: 0.45;
  cursor: default;
}
.shown {
  display: flex;
  border: 1px solid var(--rule);
}
.shown :deep(button) {
  border: 0;
  background: none;
}
.shown :deep([aria-checked='true']) {
  background: var(--ink);
  color: var(--sheet);
}
.gap {
  flex: 1;
}
.area {
  position: relative;
  display: grid;
  gap: 4px;
  touch-action: pan-y;
  cursor: grab;
}
.wave {
  position: relative;
}
.number {
  position: absolute;
  z-index: 1;
  left: 4px;
  top: 2px;
  padding: 0 4px 0 0;
  background: var(--sheet);
  color: var(--quiet);
}
.cursor {
  position: absolute;
  top: 0;
  bottom: 17px;
  width: 1px;
  background: var(--ink);
}
@media (max-width: 700px) {
  .bar button {
    min-height: 44px;
  }
}
</style>
