<script setup lang="ts" generic="T extends string | number, O extends { id: T; name: string }">
import { useTemplateRef } from 'vue'

/** One of a few, side by side. Arrow keys choose the next, as in any group of radio buttons or list of tabs. */
const { options, label, tabs, framed } = defineProps<{
  options: readonly O[]
  label: string
  /** The choice is a page, not a setting. */
  tabs?: boolean
  /** Framed, for example around sounds of which one is heard. */
  framed?: boolean
}>()
const chosen = defineModel<T | undefined>({ required: true })
const buttons = useTemplateRef('buttons')

function step(by: number): void {
  const index = options.findIndex(({ id }) => id === chosen.value)
  go((index + by + options.length) % options.length)
}
function go(to: number): void {
  chosen.value = options[to]?.id
  buttons.value?.[to]?.focus()
}
</script>

<template>
  <div
    class="segments"
    :class="{ framed }"
    :role="tabs ? 'tablist' : 'radiogroup'"
    :aria-label="label"
    @keydown.left.prevent.stop="step(-1)"
    @keydown.up.prevent.stop="step(-1)"
    @keydown.right.prevent.stop="step(1)"
    @keydown.down.prevent.stop="step(1)"
    @keydown.home.prevent.stop="go(0)"
    @keydown.end.prevent.stop="go(options.length - 1)"
  >
    <button
      v-for="each in options"
      :key="each.id"
      ref="buttons"
      type="button"
      :role="tabs ? 'tab' : 'radio'"
      :aria-checked="tabs ? undefined : each.id === chosen"
      :aria-selected="tabs ? each.id === chosen : undefined"
      :tabindex="each.id === (chosen ?? options[0]?.id) ? 0 : -1"
      @click="chosen = each.id"
    >
      <slot :option="each">{{ each.name }}</slot>
    </button>
  </div>
</template>

<style scoped>
.framed {
  display: flex;
  border: 1px solid var(--ink);
  border-radius: 2px;
}
.framed button {
  border: 0;
  background: none;
  padding: 4px 12px;
  cursor: pointer;
}
.framed [aria-checked='true'] {
  background: var(--ink);
  color: var(--sheet);
}
</style>
