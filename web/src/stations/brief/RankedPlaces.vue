<script setup lang="ts">
import { decibels } from '@iron-hush/core/units'
import { computed } from 'vue'
import { type candidatePlaces, clearnessDb } from '@iron-hush/core/acoustics'
import { distance } from '../../state/lengths'
import { useView } from '../../state/view'

/** Places for the microphone, the best first, with how far the voice is above everything else there, or how loud it is. */
const props = defineProps<{ places: ReturnType<typeof candidatePlaces>; isVoice: boolean }>()
const emit = defineEmits<{ take: [place: { name: string; distanceM: number }] }>()
const view = useView()
const widest = computed(() => Math.max(1, ...props.places.map(clearnessDb)))
const nothingElse = computed(() =>
  props.places.every(({ overEverythingDb }) => overEverythingDb === Infinity),
)
const what = computed(() =>
  nothingElse.value ? 'how loud it is there' : `${props.isVoice ? 'voice' : 'sound'} over everything else`,
)
</script>

<template>
  <section>
    <h2 id="ranking">Places for the microphone, {{ what }}</h2>
    <ol v-if="places.length" aria-labelledby="ranking">
      <li
        v-for="(place, index) in places"
        :key="place.name + place.patternName"
        :class="{ best: index === 0 }"
      >
        <span class="place"
          >{{ place.name }}
          <span class="quiet"
            >{{ place.patternName }}, {{ distance(place.distanceM, view.imperial) }}</span
          ></span
        >
        <span class="bar"
          ><i
            :style="{
              width: `${Math.max(0, (100 * clearnessDb(place)) / widest)}%`,
            }"
          ></i
        ></span>
        <span class="figure">{{
          nothingElse ? `${place.directDba.toFixed(1)} dB(A)` : decibels(place.overEverythingDb)
        }}</span>
        <span class="why"
          >{{ place.why }}
          <button
            type="button"
            :aria-label="`Add the place ${place.name}, ${place.patternName}`"
            @click="emit('take', { name: place.name, distanceM: place.distanceM })"
          >
            Add this place
          </button></span
        >
      </li>
    </ol>
  </section>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--rule);
}
li {
  display: grid;
  grid-template-columns: 1fr 130px 70px;
  gap: 2px 12px;
  align-items: center;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
}
li .figure {
  text-align: right;
}
.why {
  grid-column: 1 / -1;
  font-size: var(--small);
  color: var(--quiet);
}
.best .place {
  font-weight: 650;
}
.bar {
  height: 9px;
  border: 1px solid var(--brass);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--brass);
}
.why button {
  border: 0;
  background: none;
  padding: 0 0 0 6px;
  cursor: pointer;
  color: inherit;
  text-decoration: underline;
  text-underline-offset: 3px;
}
</style>
