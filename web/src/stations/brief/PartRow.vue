<script setup lang="ts">
/** One source, noise or place of the brief: its name, what is said of it, and its removal unless a last one has to stay. */
const props = defineProps<{ name: string; last?: boolean }>()
const emit = defineEmits<{ rename: [name: string]; remove: [] }>()

/** A name that was emptied stays as it was. */
function rename(event: Event): void {
  const field = event.target as HTMLInputElement
  const text = field.value.trim()
  if (text) emit('rename', text)
  else field.value = props.name
}
</script>

<template>
  <div class="row">
    <input :value="name" maxlength="120" :aria-label="`Name of ${name}`" @change="rename" />
    <span class="said"><slot /></span>
    <button v-if="!last" type="button" :aria-label="`Remove ${name}`" @click="emit('remove')">Remove</button>
  </div>
</template>

<style scoped>
.row {
  display: grid;
  grid-template-columns: 170px 1fr auto;
  gap: 10px;
  align-items: center;
  padding: 2px 0;
}
input {
  border: 1px solid var(--rule);
  background: var(--sheet);
  border-radius: 2px;
  padding: 2px 6px;
  min-width: 0;
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
/* words between fields keep their distance from them */
.said {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 2px 8px;
}
@media (max-width: 700px) {
  .row {
    grid-template-columns: 1fr auto;
  }
  .said {
    grid-row: 2;
    grid-column: 1 / -1;
  }
}
</style>
