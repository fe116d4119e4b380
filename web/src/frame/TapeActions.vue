<script setup lang="ts">
import { useRoute } from 'vue-router'
import FrameMenu from './FrameMenu.vue'
import { useGearPlace } from './gear-place'
import { useHistory } from '../state/history'
import { useView } from '../state/view'
import { useOutbox } from '../sync/outbox'

/** Right end of the tape: unsent changes, undo and redo, the shelf, find, and the menu. */
const route = useRoute()
const view = useView()
const outbox = useOutbox()
const history = useHistory()
const gearPlace = useGearPlace()
</script>

<template>
  <div class="actions">
    <span v-if="outbox.away || outbox.count > 2" class="kept" role="status">{{
      outbox.away ? `server away, ${outbox.count} kept here` : `storing ${outbox.count}`
    }}</span>
    <button
      type="button"
      :disabled="!history.canUndo"
      :title="history.canUndo ? `Undo ${history.canUndo}` : 'Nothing to undo'"
      @click="history.undo()"
    >
      Undo
    </button>
    <button
      type="button"
      :disabled="!history.canRedo"
      :title="history.canRedo ? `Redo ${history.canRedo}` : 'Nothing to redo'"
      @click="history.redo()"
    >
      Redo
    </button>
    <RouterLink
      class="wide-only"
      :to="gearPlace()"
      :class="{ here: route.name === 'gear' || route.name === 'shelf' }"
      >Gear</RouterLink
    >
    <button class="wide-only" type="button" @click="view.toggle('find')">Find&nbsp;/</button>
    <FrameMenu />
  </div>
</template>

<style scoped>
a {
  color: inherit;
  text-decoration: none;
}
.actions {
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 0 18px 0 12px;
  font-stretch: 85%;
  font-size: var(--body);
  color: var(--quiet);
}
.actions :deep(button) {
  border: 0;
  background: none;
  padding: 4px 0;
  cursor: pointer;
  color: inherit;
}
.actions :deep(button:disabled) {
  opacity: 0.45;
  cursor: default;
}
.actions a {
  padding: 4px 0;
}
.actions .here {
  color: var(--ink);
  font-weight: 650;
  text-decoration: underline;
  text-underline-offset: 4px;
}
.kept {
  color: var(--iron);
  font-weight: 650;
}
@media (max-width: 700px) {
  .actions {
    justify-content: flex-end;
    gap: 0;
    padding: 0 4px 0 0;
  }
  .actions .wide-only {
    display: none;
  }
  .actions :deep(button) {
    min-width: 44px;
    min-height: 44px;
    padding: 0 8px;
  }
}
</style>
