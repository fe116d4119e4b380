<script setup lang="ts">
import { computed } from 'vue'
import {
  type Brief,
  movedLevels,
  NoiseSpectrum,
  type Source,
  withNewPlace,
  withNoise,
  withoutNoise,
  withoutSource,
  withSource,
} from '@iron-hush/core/model'
import { useScene } from '../../state/scene'
import InlineChoice from '../../parts/InlineChoice.vue'
import InlineNumber from '../../parts/InlineNumber.vue'

/** Everything that the brief holds: sources, noises and places, each added, named, changed and removed. */
const scene = useScene()
const brief = computed(() => scene.patch!.brief)
const change = (to: Partial<Brief>, name: string) => scene.change([{ kind: 'change brief', to }], name)

type Line = Extract<Source, { kind: 'line' }>
type Noise = Brief['noises'][number]
const moments = ['quietest', 'typical', 'loudest'] as const
const kinds = [
  { kind: 'speech', name: 'speaker' },
  { kind: 'line', name: 'line feed' },
  { kind: 'music', name: 'music' },
  { kind: 'strike', name: 'strike' },
  { kind: 'machine', name: 'machine' },
] as const
const named = (event: Event) => (event.target as HTMLInputElement).value.trim()

function renameSource(id: string, event: Event): void {
  const name = named(event)
  if (name)
    change(
      { sources: brief.value.sources.map((each) => (each.id === id ? { ...each, name } : each)) },
      'the name',
    )
}
function changeLine(line: Line, to: Partial<Line['levelsDbu']>): void {
  const levelsDbu = movedLevels(line.levelsDbu, to)
  change(
    { sources: brief.value.sources.map((each) => (each.id === line.id ? { ...line, levelsDbu } : each)) },
    'the level of the feed',
  )
}
const changeNoise = (id: string, to: Partial<Noise>) =>
  change(
    { noises: brief.value.noises.map((each) => (each.id === id ? { ...each, ...to } : each)) },
    'the noise',
  )
function renamePlace(id: string, event: Event): void {
  const name = named(event)
  if (name)
    change(
      { places: brief.value.places.map((each) => (each.id === id ? { ...each, name } : each)) },
      'the name of the place',
    )
}
/** A microphone that stood there stands nowhere afterwards. */
function removePlace(id: string): void {
  const leaving = scene.patch!.boxes.filter(({ place }) => place === id)
  scene.change(
    [
      ...leaving.map((box) => ({ kind: 'place box' as const, box: box.id, place: null })),
      { kind: 'change brief', to: { places: brief.value.places.filter((each) => each.id !== id) } },
    ],
    'removing a place',
  )
}
</script>

<template>
  <details class="parts">
    <summary>Sources, noises and places: add, rename, remove</summary>
    <section aria-label="Who or what is heard">
      <h2>Who or what is heard</h2>
      <p v-for="source in brief.sources" :key="source.id">
        <input
          :value="source.name"
          maxlength="120"
          :aria-label="`Name of ${source.name}`"
          @change="renameSource(source.id, $event)"
        />
        <template v-if="source.kind === 'line'">
          <template v-for="moment in moments" :key="moment">
            {{ moment }}
            <InlineNumber
              :model-value="source.levelsDbu[moment]"
              :min="-80"
              :max="30"
              :decimals="1"
              unit="dBu"
              :label="`${moment} level of ${source.name}`"
              @update:model-value="changeLine(source, { [moment]: $event })"
            />
          </template>
        </template>
        <span v-else class="quiet">{{ source.kind }}, {{ source.levelsDba.typical }} dB(A) at 1 m</span>
        <button
          v-if="brief.sources.length > 1"
          type="button"
          :aria-label="`Remove ${source.name}`"
          @click="change(withoutSource(brief, source.id), `removing ${source.name}`)"
        >
          Remove
        </button>
      </p>
      <p class="add">
        Add
        <button
          v-for="each in kinds"
          :key="each.kind"
          type="button"
          @click="change(withSource(brief, each.kind), `adding a ${each.name}`)"
        >
          {{ each.name }}
        </button>
      </p>
    </section>
    <section aria-label="Noises of the place">
      <h2>Noises of the place</h2>
      <p v-for="noise in brief.noises" :key="noise.id">
        <input
          :value="noise.name"
          maxlength="120"
          :aria-label="`Name of ${noise.name}`"
          @change="named($event) && changeNoise(noise.id, { name: named($event) })"
        />
        <InlineChoice
          :model-value="noise.spectrum"
          :options="NoiseSpectrum.options.map((value) => ({ value, name: value }))"
          :label="`Spectrum of ${noise.name}`"
          @update:model-value="changeNoise(noise.id, { spectrum: $event })"
        />, at its loudest
        <InlineNumber
          :model-value="noise.loudestDba ?? noise.levelDba"
          :min="noise.levelDba"
          :max="150"
          unit="dB(A)"
          :label="`Loudest moment of ${noise.name}`"
          @update:model-value="changeNoise(noise.id, { loudestDba: $event })"
        />
        <label
          ><input
            type="checkbox"
            :checked="noise.inPicture"
            @change="changeNoise(noise.id, { inPicture: ($event.target as HTMLInputElement).checked })"
          />
          the picture explains it</label
        >
        <button
          type="button"
          :aria-label="`Remove ${noise.name}`"
          @click="change(withoutNoise(brief, noise.id), `removing ${noise.name}`)"
        >
          Remove
        </button>
      </p>
      <p class="add">
        Add <button type="button" @click="change(withNoise(brief), 'adding a noise')">noise</button>
      </p>
    </section>
    <section aria-label="Places for microphones">
      <h2>Places for microphones</h2>
      <p v-for="place in brief.places" :key="place.id">
        <input
          :value="place.name"
          maxlength="120"
          :aria-label="`Name of ${place.name}`"
          @change="renamePlace(place.id, $event)"
        />
        <button type="button" :aria-label="`Remove ${place.name}`" @click="removePlace(place.id)">
          Remove
        </button>
      </p>
      <p class="add">
        Add <button type="button" @click="change(withNewPlace(brief), 'adding a place')">place</button>
      </p>
    </section>
    <p>
      The result asks for speech-to-noise of
      <InlineNumber
        :model-value="brief.wantedSpeechToNoiseDb ?? 0"
        :min="0"
        :max="90"
        unit="dB"
        label="Speech-to-noise asked for"
        @update:model-value="change({ wantedSpeechToNoiseDb: $event }, 'what is asked for')"
      />.
    </p>
  </details>
</template>

<style scoped>
.parts {
  border-top: 1px solid var(--rule);
  padding-top: 8px;
}
summary {
  cursor: pointer;
  font-weight: 600;
}
section {
  padding: 8px 0 0;
}
p {
  padding: 2px 0;
}
p > * {
  margin-right: 8px;
}
section input:not([type]) {
  border: 1px solid var(--rule);
  background: var(--sheet);
  border-radius: 2px;
  padding: 2px 6px;
  width: 180px;
}
button {
  border: 0;
  background: none;
  padding: 0;
  cursor: pointer;
  color: var(--quiet);
  text-decoration: underline;
  text-underline-offset: 3px;
}
.add button {
  color: inherit;
}
label {
  accent-color: var(--ink);
}
</style>
