<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed } from 'vue'
import { editWords } from '@iron-hush/core/edits'
import { differencesOf } from '@iron-hush/core/report'
import { useGear } from '../state/gear'
import { useScene } from '../state/scene'
import DifferenceTable from '../parts/DifferenceTable.vue'

/** Lines of each list that fit the dialog. */
const most = 6
const scene = useScene()
const gear = useGear()
/** Only the last change of each kind is listed: a control turned three times appears once. */
const mine = computed(() => {
  const { conflict, patch } = scene
  if (!conflict || !patch) return []
  return [...new Set(conflict.mine.map((edit) => editWords(edit, patch, gear.shelf)).reverse())].reverse()
})
const apart = computed(() => {
  const { conflict, patch } = scene
  return conflict && patch ? differencesOf(patch, conflict.theirs.patch, gear.shelf).slice(0, most) : []
})
</script>

<template>
  <Dialog
    :visible="!!scene.conflict"
    modal
    :closable="false"
    header="This scene was changed elsewhere"
    :style="{ width: '520px' }"
  >
    <p>
      Another window stored a change in the meantime. Nothing was overwritten. Your changes here that are not
      stored yet:
    </p>
    <ul>
      <li v-for="words in mine.slice(0, most)" :key="words">{{ words }}</li>
      <li v-if="mine.length > most">and {{ mine.length - most }} more</li>
    </ul>
    <DifferenceTable v-if="apart.length" :differences="apart" one="here" other="stored" />
    <div class="choices">
      <Button label="Apply mine on top" autofocus @click="scene.keepMine()" />
      <Button label="Use the other version" severity="secondary" @click="scene.keepTheirs()" />
    </div>
    <p class="quiet">Using the other version can be undone: your changes stay one Ctrl+Z away.</p>
  </Dialog>
</template>

<style scoped>
ul {
  margin: 6px 0 10px;
  padding-left: 18px;
}
.choices {
  display: flex;
  gap: 8px;
  margin: 14px 0 10px;
}
</style>
