<script setup lang="ts">
import { computed } from 'vue'
import {
  type Brief,
  NoiseSpectrum,
  type Source,
  withFeedLevel,
  withNewPlace,
  withNoise,
  withoutNoise,
  withSource,
} from '@iron-hush/core/model'
import { placeRemoved, sourceRemoved } from '@iron-hush/core/edits'
import { useScene } from '../../state/scene'
import InlineChoice from '../../parts/InlineChoice.vue'
import NumberField from '../../parts/NumberField.vue'
import PartRow from './PartRow.vue'

/** Everything that the brief holds: sources, noises and places, each added, named, changed and removed. */
const scene = useScene()
const brief = computed(() => scene.openPatch.brief)
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
  { kind: 'audience', name: 'audience' },
  { kind: 'second language', name: 'second language' },
] as const
/** One entry of a list of the brief, changed. */
const changedIn = <T extends { id: string }>(all: readonly T[], id: string, to: Partial<T>): T[] =>
  all.map((each) => (each.id === id ? { ...each, ...to } : each))
const renameSource = (id: string, name: string) =>
  change({ sources: changedIn(brief.value.sources, id, { name }) }, 'the name')
const renamePlace = (id: string, name: string) =>
  change({ places: changedIn(brief.value.places, id, { name }) }, 'the name of the place')
const changeNoise = (id: string, to: Partial<Noise>) =>
  change({ noises: changedIn(brief.value.noises, id, to) }, 'the noise')
const changeLine = (line: Line, to: Partial<Line['levelsDbu']>) =>
  change(withFeedLevel(brief.value, line, to), 'the level of the feed')
</script>

<template>
  <details class="parts">
    <summary>Sources, noises and places: add, rename, remove</summary>
    <section aria-label="Who or what is heard">
      <h2>Who or what is heard</h2>
      <PartRow
        v-for="source in brief.sources"
        :key="source.id"
        :name="source.name"
        :last="brief.sources.length === 1"
        @rename="renameSource(source.id, $event)"
        @remove="scene.change(sourceRemoved(scene.openPatch, source.id), `removing ${source.name}`)"
      >
        <template v-if="source.kind === 'line'">
          <template v-for="moment in moments" :key="moment">
            {{ moment }}
            <NumberField
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
      </PartRow>
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
      <PartRow
        v-for="noise in brief.noises"
        :key="noise.id"
        :name="noise.name"
        @rename="changeNoise(noise.id, { name: $event })"
        @remove="change(withoutNoise(brief, noise.id), `removing ${noise.name}`)"
      >
        <InlineChoice
          :model-value="noise.spectrum"
          :options="NoiseSpectrum.options.map((value) => ({ value, name: value }))"
          :label="`Spectrum of ${noise.name}`"
          @update:model-value="changeNoise(noise.id, { spectrum: $event })"
        />
        up to
        <NumberField
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
          in shot</label
        >
      </PartRow>
      <p class="add">
        Add <button type="button" @click="change(withNoise(brief), 'adding a noise')">noise</button>
      </p>
    </section>
    <section aria-label="Places for microphones">
      <h2>Places for microphones</h2>
      <PartRow
        v-for="place in brief.places"
        :key="place.id"
        :name="place.name"
        @rename="renamePlace(place.id, $event)"
        @remove="scene.change(placeRemoved(scene.openPatch, place.id), `removing ${place.name}`)"
      />
      <p class="add">
        Add <button type="button" @click="change(withNewPlace(brief), 'adding a place')">place</button>
      </p>
    </section>
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
.parts :deep(.field input),
.parts :deep(.p-select-label) {
  font-size: var(--body);
}
.add button {
  border: 0;
  background: none;
  padding: 0;
  margin-right: 8px;
  cursor: pointer;
  text-decoration: underline;
  text-underline-offset: 3px;
}
label {
  accent-color: var(--ink);
}
</style>
