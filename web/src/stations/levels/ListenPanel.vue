<script setup lang="ts">
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, nextTick, onMounted, useTemplateRef, watch } from 'vue'
import { readClip } from './own-clip'
import { differencesOf } from '@iron-hush/core/report'
import { wavBytes } from '@iron-hush/core/media'
import { signed } from '@iron-hush/core/units'
import BlindChoice from '../../parts/BlindChoice.vue'
import DifferenceTable from '../../parts/DifferenceTable.vue'
import SegmentedChoice from '../../parts/SegmentedChoice.vue'
import VolumeSlider from '../../parts/VolumeSlider.vue'
import { download } from '../../state/download'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { useNotices } from '../../state/notices'
import HeardDrawing from './HeardDrawing.vue'
import type { useListening } from './listening'
import { useReturnFocus } from '../../parts/return-focus'

/** The selected run under two settings, played at equal loudness. */
const props = defineProps<{ listening: ReturnType<typeof useListening> }>()
const gear = useGear()
const {
  rendered,
  sides,
  progress,
  playing,
  side,
  heard,
  volumeDb,
  blind,
  tally,
  clip,
  radioM,
  kept,
  listen,
  play,
  stop,
  close,
  keep,
  prefer,
} = props.listening

const names = computed(() =>
  sides.value.map(({ name }, id) => ({ id, name: blind.value ? ['first', 'second'][id]! : name })),
)
const shown = computed(() => rendered.value[heard.value]?.heard)
const differing = computed(() => {
  const [one, other] = sides.value
  return one && other ? differencesOf(one.patch, other.patch, gear.shelf) : []
})
/** Distances at which a radio may be heard, a body between. */
const apart = [
  { metres: undefined, name: 'never drops out' },
  ...[10, 30, 100].map((metres) => ({ metres, name: `at ${metres} m, a body between` })),
]
const radio = computed(() => useScene().run?.points.some(({ kind }) => kind === 'radio'))
async function ownClip(event: Event): Promise<void> {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  try {
    clip.value = { name: file.name, samples: await readClip(file) }
    await listen()
  } catch (error) {
    useNotices().say(error instanceof Error ? error.message : String(error))
  }
}
function writeWav(): void {
  const file = rendered.value[heard.value]
  const named = sides.value[heard.value]
  if (!file || !named) return
  const name = `${named.patch.name} ${named.name}`.toLowerCase().replace(/[^a-z0-9]+/g, '-')
  download(wavBytes([file.samples], file.rateHz) as BlobPart, `${name}.wav`, 'audio/wav')
}
const madeUp = () => {
  clip.value = undefined
  void listen()
}
useReturnFocus()
/** It opens below the map, and grows once there is something to hear. */
const panel = useTemplateRef('panel')
const show = () => panel.value?.scrollIntoView({ block: 'nearest' })
onMounted(show)
watch(
  () => rendered.value.length > 0,
  () => void nextTick(show),
)
</script>

<template>
  <section ref="panel" class="listen" aria-label="Listen">
    <div class="row">
      <template v-if="progress !== undefined">
        <span role="status">Rendering ten seconds, {{ Math.round(progress * 100) }} %</span>
        <Button label="Stop" severity="secondary" size="small" @click="close()" />
      </template>
      <template v-else>
        <Button
          :label="playing ? 'Pause' : 'Play'"
          size="small"
          :disabled="rendered.length === 0"
          @click="playing ? stop() : play()"
        />
        <SegmentedChoice
          v-if="names.length > 1"
          v-model="side"
          framed
          :options="names"
          label="What is heard"
        />
        <span v-else class="quiet"
          >The chain as it is now. To hear a second version, press Balance, or save this one and change
          something.</span
        >
        <Button label="Save to compare" severity="secondary" size="small" @click="keep()" />
        <BlindChoice
          v-if="names.length > 1"
          v-model="blind"
          :names="[sides[0]!.name, sides[1]!.name]"
          :tally
          @prefer="prefer()"
        />
        <label v-if="radio" class="radio"
          >radio
          <Select
            v-model="radioM"
            :options="apart"
            option-label="name"
            option-value="metres"
            size="small"
            aria-label="Distance between the radios"
            @update:model-value="listen()"
        /></label>
        <label class="own"
          >{{ clip ? clip.name : 'Your own WAV'
          }}<input type="file" accept=".wav,audio/wav" aria-label="Your own WAV" @change="ownClip"
        /></label>
        <button
          v-if="rendered.length && !blind"
          type="button"
          class="link"
          title="What you hear, at the level at which it would be recorded"
          @click="writeWav"
        >
          Export WAV
        </button>
        <button v-if="clip" type="button" class="link" @click="madeUp">made-up voice</button>
        <button type="button" class="link" @click="close()">Close</button>
      </template>
    </div>
    <div class="row">
      <VolumeSlider v-model="volumeDb" />
      <span v-if="shown" class="quiet"
        >recorded at <span class="figure">{{ signed(shown.levelDbfsA) }} dBFS(A)</span>, played at one
        loudness</span
      >
      <span v-if="kept" class="quiet">a setting is kept</span>
    </div>
    <HeardDrawing v-if="shown" :heard="shown" />
    <details v-if="differing.length && !blind">
      <summary>What differs ({{ differing.length }})</summary>
      <DifferenceTable :differences="differing" :one="sides[0]!.name" :other="sides[1]!.name" />
    </details>
  </section>
</template>

<style scoped>
.listen {
  border-top: 1px solid var(--rule);
  padding-top: 6px;
  display: grid;
  gap: 6px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
.radio {
  display: flex;
  gap: 6px;
  align-items: center;
}
.own {
  position: relative;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
}
.own:focus-within {
  outline: 2px solid var(--brass);
}
.own input {
  position: absolute;
  inset: 0;
  opacity: 0;
  cursor: pointer;
}
.link {
  border: 0;
  background: none;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
  color: var(--quiet);
}
</style>
