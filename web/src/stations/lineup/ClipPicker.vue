<script setup lang="ts">
import Button from 'primevue/button'
import { useTemplateRef } from 'vue'
import { soundFiles } from '@iron-hush/core/media'

/** Says that a clip may be dropped, and lets one be chosen. */
defineProps<{ ask: string; label: string; reading: string }>()
const emit = defineEmits<{ clip: [file: File | undefined] }>()
const picker = useTemplateRef('picker')
function picked(event: Event): void {
  const input = event.target as HTMLInputElement
  emit('clip', input.files?.[0])
  input.value = ''
}
</script>

<template>
  <span class="quiet">{{ ask }}</span>
  <Button
    :label="reading ? `Reading ${reading}` : 'Choose a clip'"
    size="small"
    severity="secondary"
    :disabled="reading !== ''"
    @click="picker?.click()"
  />
  <input
    ref="picker"
    class="sr-only"
    type="file"
    :accept="soundFiles"
    tabindex="-1"
    :aria-label="label"
    @change="picked"
  />
</template>
