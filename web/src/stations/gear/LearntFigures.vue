<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { broughtBack } from '@iron-hush/core/lineup'
import { fieldWords, type Gear, type LearntFigure, type LearntValue } from '@iron-hush/core/model'
import { signed } from '@iron-hush/core/units'
import { useGear } from '../../state/gear'
import { newId } from '../../sync/new-id'

/** What was learnt of a thing over time, the newest first; what stood there before can be brought back. */
const { thing } = defineProps<{ thing: Gear }>()
const gear = useGear()
const newest = computed(() => (thing.learnt ?? []).toReversed())
const dated = (at: string) =>
  new Date(at).toLocaleDateString([], { day: 'numeric', month: 'short', year: 'numeric' })

function unitOf({ places: [place] }: LearntFigure): string {
  if (!place) return ''
  return 'mark' in place ? 'dBFS' : fieldWords(place.field).unit
}
function shown(value: LearntValue, unit: string): string {
  if (value === null) return 'not given'
  if (typeof value === 'number') return `${signed(value)} ${unit}`
  if (typeof value === 'string') return value
  if ('value' in value) return `${signed(value.value)} \u00B1 ${value.tolerance} ${unit}`
  return 'points' in value ? `a law of ${value.points.length} points` : 'a law'
}
const bringBack = ({ id, name }: LearntFigure) =>
  gear.change(
    broughtBack(thing, id, { at: new Date().toISOString(), id: newId }),
    `bringing back ${name.toLowerCase()}`,
  )
</script>

<template>
  <table class="stacked">
    <tbody>
      <tr v-for="each in newest" :key="each.id">
        <th scope="row">{{ each.name }}</th>
        <td class="figure">{{ shown(each.after, unitOf(each)) }}</td>
        <td class="quiet">before: {{ shown(each.before, unitOf(each)) }}</td>
        <td class="quiet">{{ dated(each.at) }}. {{ each.source }}</td>
        <td><Button label="Bring back" size="small" severity="secondary" @click="bringBack(each)" /></td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
th {
  text-align: left;
  font-weight: 600;
}
td,
th {
  padding: 3px 12px 3px 0;
  vertical-align: top;
}
td:last-child {
  white-space: nowrap;
}
</style>
