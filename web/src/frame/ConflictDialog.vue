<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed } from 'vue'
import { useScene } from '../state/scene'

const scene = useScene()
const mine = computed(() => [...new Set((scene.conflict?.mine ?? []).map(({ kind }) => kind))].join(', '))
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
      Another window has stored revision {{ scene.conflict?.theirs.revision }}. You have
      {{ scene.conflict?.mine.length }} of your own here ({{ mine }}). Nothing was overwritten.
    </p>
    <div class="choices">
      <Button label="Put mine on top" autofocus @click="scene.keepMine()" />
      <Button label="Take the other version" severity="secondary" @click="scene.keepTheirs()" />
    </div>
    <p class="quiet">Taking the other version can be undone: yours stay one Ctrl+Z away.</p>
  </Dialog>
</template>

<style scoped>
.choices {
  display: flex;
  gap: 8px;
  margin: 14px 0 10px;
}
</style>
