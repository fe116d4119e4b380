<script setup lang="ts">
import Slider from 'primevue/slider'
import { decibels } from '@iron-hush/core/units'

/** How loud something is played, dB, with the usual caution. */
const volumeDb = defineModel<number>({ required: true })
</script>

<template>
  <span class="caution">Start low: hearing loss is permanent.</span>
  <label
    >Volume
    <Slider v-model="volumeDb" :min="-60" :max="0" aria-label="Volume in dB" class="slider" />
    <span class="figure">{{ decibels(volumeDb) }}</span></label
  >
</template>

<style scoped>
.caution {
  font-weight: 600;
}
label {
  display: flex;
  gap: 10px;
  align-items: center;
}
.slider {
  width: 140px;
}
</style>
