<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { stations } from './stations'
import { useView } from '../state/view'

const view = useView()
const keys: [string, string][] = [
  [stations.map(({ key }) => key).join(' '), `stations: ${stations.map(({ title }) => title).join(', ')}`],
  ['G', 'Gear'],
  ['[  ]', 'previous run, next run'],
  ['\u2190 \u2192', 'along the chain, on Levels'],
  ['\u2191 \u2193', 'turn the selected control; with Shift ten steps'],
  ['B', 'Balance; Enter accepts, Escape discards'],
  ['L', 'listen to this run, or stop'],
  ['P', 'pin the selected column'],
  ['A', 'all runs side by side, or this one'],
  ['Space', 'start or end a take, on Roll'],
  ['1 \u2026 6', 'marks, on Roll'],
  ['Ctrl+Z', 'undo, anywhere; with Shift redo'],
  ['/', 'find'],
  ['?', 'this list'],
]
</script>

<template>
  <Dialog
    visible
    modal
    header="Keys"
    :style="{ width: '520px' }"
    dismissable-mask
    @update:visible="view.open = undefined"
  >
    <dl>
      <template v-for="[key, does] in keys" :key="key">
        <dt class="figure">{{ key }}</dt>
        <dd>{{ does }}</dd>
      </template>
    </dl>
    <label><input v-model="view.imperial" type="checkbox" /> Distances in feet and inches</label>
  </Dialog>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: 110px 1fr;
  gap: 6px 14px;
  margin: 0 0 14px;
}
dd {
  margin: 0;
}
</style>
