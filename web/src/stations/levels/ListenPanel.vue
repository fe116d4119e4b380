<script setup lang="ts">
import Button from 'primevue/button'
import Select from 'primevue/select'
import Slider from 'primevue/slider'
import { computed } from 'vue'
import { readClip } from './own-clip'
import { differencesOf } from '@iron-hush/core/report'
import { wavBytes } from '@iron-hush/core/media'
import { download } from '../../state/download'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { useNotices } from '../../state/notices'
import type { useListening } from './listening'

/** What the run in hand would sound like, under two settings at one loudness. */
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

const names = computed(() => (blind.value ? ['first', 'second'] : sides.value.map(({ name }) => name)))
const shown = computed(() => rendered.value[heard.value]?.heard)
const loudest = computed(() => Math.max(...(shown.value?.bands.map(({ levelDbfs }) => levelDbfs) ?? [0])))
const bandRangeDb = 70
const bar = (levelDbfs: number) => Math.max(0, (levelDbfs - loudest.value + bandRangeDb) / bandRangeDb) * 46
/** Where a frequency lies among the thirds of an octave, which begin at 25 Hz. */
const xOf = (hz: number) => 10 + 200 * Math.log10(hz / 25)
const marks = [
  [100, '100 Hz'],
  [1000, '1 kHz'],
  [10_000, '10 kHz'],
] as const
const wave = computed(() => {
  const envelope = shown.value?.envelope ?? []
  const most = Math.max(1e-9, ...envelope.map(([low, high]) => Math.max(-low, high)))
  const top = envelope.map(([, high], index) => `${index},${24 - (high / most) * 22}`)
  const bottom = envelope.map(([low], index) => `${index},${24 - (low / most) * 22}`).reverse()
  return [...top, ...bottom].join(' ')
})
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
const db = (value: number) =>
  Number.isFinite(value) ? value.toFixed(1).replace('-', '\u2212') : '\u2212\u221E'

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
</script>

<template>
  <section class="listen" aria-label="Listen">
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
        <div v-if="names.length > 1" class="sides" role="radiogroup" aria-label="What is heard">
          <button
            v-for="(name, index) in names"
            :key="name"
            type="button"
            role="radio"
            :aria-checked="index === side"
            @click="side = index"
          >
            {{ name }}
          </button>
        </div>
        <span v-else class="quiet"
          >Now. Press Balance, or save this to compare and turn something, to hear a second.</span
        >
        <Button label="Save to compare" severity="secondary" size="small" @click="keep()" />
        <label v-if="names.length > 1" class="check"><input v-model="blind" type="checkbox" /> blind</label>
        <template v-if="blind && names.length > 1">
          <Button label="I prefer this one" severity="secondary" size="small" @click="prefer()" />
          <span class="quiet"
            >{{ tally[0] + tally[1] }} heard{{
              tally[0] + tally[1] >= 5
                ? `: ${sides[0]!.name} ${tally[0]}, ${sides[1]!.name} ${tally[1]}`
                : '; the result appears after five'
            }}</span
          >
        </template>
        <label v-if="radio" class="radio"
          >radio
          <Select
            v-model="radioM"
            :options="apart"
            option-label="name"
            option-value="metres"
            size="small"
            aria-label="How far the radios are apart"
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
          title="What is heard, at the level at which it would be recorded"
          @click="writeWav"
        >
          Export WAV
        </button>
        <button v-if="clip" type="button" class="link" @click="madeUp">made-up voice</button>
        <button type="button" class="link" @click="close()">Close</button>
      </template>
    </div>
    <div class="row">
      <span class="caution">Start low: hearing loss is permanent.</span>
      <label class="volume"
        >Volume
        <Slider v-model="volumeDb" :min="-60" :max="0" aria-label="Volume in dB" class="slider" />
        <span class="figure">{{ db(volumeDb) }} dB</span></label
      >
      <span v-if="shown" class="quiet"
        >recorded at <span class="figure">{{ db(shown.levelDbfsA) }} dBFS(A)</span>, played at one
        loudness</span
      >
      <span v-if="kept" class="quiet">a setting is kept</span>
    </div>
    <div v-if="shown" class="row drawn">
      <svg viewBox="0 0 240 48" preserveAspectRatio="none" role="img" aria-label="The wave that is heard">
        <polygon :points="wave" />
      </svg>
      <svg viewBox="0 0 600 48" role="img" aria-label="Its level in thirds of an octave, 25 Hz to 20 kHz">
        <rect
          v-for="(band, index) in shown.bands"
          :key="band.hz"
          :x="index * 20 + 2"
          :y="48 - bar(band.levelDbfs)"
          width="16"
          :height="bar(band.levelDbfs)"
        />
        <template v-for="[hz, words] in marks" :key="hz">
          <line :x1="xOf(hz)" :x2="xOf(hz)" y1="0" y2="48" />
          <text :x="xOf(hz) + 3" y="11">{{ words }}</text>
        </template>
      </svg>
    </div>
    <details v-if="differing.length && !blind">
      <summary>What differs ({{ differing.length }})</summary>
      <table>
        <thead>
          <tr>
            <th></th>
            <th>{{ sides[0]!.name }}</th>
            <th>{{ sides[1]!.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="each in differing" :key="each.what">
            <th scope="row">{{ each.what }}</th>
            <td class="figure">{{ each.one }}</td>
            <td class="figure">{{ each.other }}</td>
          </tr>
        </tbody>
      </table>
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
.sides {
  display: flex;
  border: 1px solid var(--ink);
  border-radius: 2px;
}
.sides button {
  border: 0;
  background: none;
  padding: 4px 12px;
  cursor: pointer;
}
.sides [aria-checked='true'] {
  background: var(--ink);
  color: var(--sheet);
}
.radio {
  display: flex;
  gap: 6px;
  align-items: center;
}
.check {
  display: flex;
  gap: 5px;
  align-items: center;
}
.volume {
  display: flex;
  gap: 10px;
  align-items: center;
}
.slider {
  width: 160px;
}
.caution {
  font-weight: 600;
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
details table {
  border-collapse: collapse;
  font-size: 12px;
}
details th {
  text-align: left;
  font-weight: 500;
  padding: 1px 16px 1px 0;
}
details td {
  padding: 1px 16px 1px 0;
}
.drawn svg {
  flex: 1;
  height: 48px;
  border: 1px solid var(--rule);
  background: var(--sheet);
}
polygon {
  fill: var(--brass);
}
rect {
  fill: var(--slate);
}
line {
  stroke: var(--quiet);
  stroke-dasharray: 2 2;
}
text {
  font-size: 11px;
  font-stretch: 85%;
  fill: var(--ink);
  paint-order: stroke;
  stroke: var(--sheet);
  stroke-width: 3px;
}
</style>
