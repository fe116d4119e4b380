<script setup lang="ts" generic="T extends string | number, O extends { id: T; name: string }">
import { useTemplateRef } from 'vue'

/** One of a few, side by side. Arrow keys choose the next, as in any group of radio buttons. */
const props = defineProps<{ options: readonly O[]; label: string }>()
const chosen = defineModel<T | undefined>({ required: true })
const buttons = useTemplateRef('buttons')

function step(by: number): void {
  const index = props.options.findIndex(({ id }) => id === chosen.value)
  const next = (index + by + props.options.length) % props.options.length
  chosen.value = props.options[next]?.id
  buttons.value?.[next]?.focus()
}
</script>

<template>
  <div
    role="radiogroup"
    :aria-label="label"
    @keydown.left.prevent.stop="step(-1)"
    @keydown.up.prevent.stop="step(-1)"
    @keydown.right.prevent.stop="step(1)"
    @keydown.down.prevent.stop="step(1)"
  >
    <button
      v-for="each in options"
      :key="each.id"
      ref="buttons"
      type="button"
      role="radio"
      :aria-checked="each.id === chosen"
      :tabindex="each.id === (chosen ?? options[0]?.id) ? 0 : -1"
      @click="chosen = each.id"
    >
      <slot :option="each">{{ each.name }}</slot>
    </button>
  </div>
</template>
