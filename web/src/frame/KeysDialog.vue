<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { useView } from '../state/view'
import { shortcuts } from './shortcuts'

const view = useView()
const undo = { shown: 'Ctrl+Z', does: 'undo your last change; Ctrl+Y or Ctrl+Shift+Z to redo' }
const keys = [...Object.values(shortcuts), undo].map(({ shown, does }) => ({ shown, does }))
</script>

<template>
  <Dialog
    visible
    modal
    header="Keys"
    :style="{ width: 'min(520px, 96vw)' }"
    dismissable-mask
    @update:visible="view.open = undefined"
  >
    <dl>
      <template v-for="{ shown, does } in keys" :key="shown">
        <dt class="figure">{{ shown }}</dt>
        <dd>{{ does }}</dd>
      </template>
    </dl>
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
