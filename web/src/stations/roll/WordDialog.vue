<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { ref } from 'vue'

/** A word about this second of the take. */
const emit = defineEmits<{ close: []; keep: [word: string] }>()
const word = ref('')

function keep(): void {
  if (word.value.trim()) emit('keep', word.value.trim())
  emit('close')
}
</script>

<template>
  <Dialog
    visible
    modal
    header="A word on this second"
    :style="{ width: 'min(360px, 92vw)' }"
    @update:visible="emit('close')"
  >
    <form @submit.prevent="keep">
      <!-- the dialog gives its focus to what asks for it -->
      <input v-model="word" autofocus class="word" maxlength="1000" aria-label="Word" />
      <button type="submit" class="go">Keep</button>
    </form>
  </Dialog>
</template>

<style scoped>
.word {
  width: 100%;
  border: 1px solid var(--ink);
  background: var(--paper);
  padding: 10px;
  margin-bottom: 10px;
}
form .go {
  padding: 0 22px;
}
.go {
  min-height: 48px;
  border: 1px solid var(--ink);
  border-radius: 2px;
  background: var(--ink);
  color: var(--sheet);
  font-weight: 650;
  font-stretch: 88%;
  font-size: var(--lead);
  cursor: pointer;
}
</style>
