<script setup lang="ts">
import Button from 'primevue/button'
import Select from 'primevue/select'
import { signed } from '@iron-hush/core/units'
import type { Ear } from './ear'

/** Which input the browser listens to, what it shows now, and what the browser does to it on its own. */
const { ear } = defineProps<{ ear: Ear }>()
const { listening, devices, device, meddling, levels, refusal, listen, stop } = ear
const share = (db: number) => `${Math.max(0, Math.min(100, (db + 60) * (100 / 60)))}%`
</script>

<template>
  <div class="ear">
    <Button v-if="!listening" label="Listen live" size="small" severity="secondary" @click="listen()" />
    <template v-else>
      <Button label="Stop listening" size="small" severity="secondary" @click="stop()" />
      <Select
        v-if="devices.length > 1"
        :model-value="device"
        :options="devices"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Audio input"
        @update:model-value="listen($event)"
      />
      <ul aria-label="What is heard now">
        <li v-for="(level, channel) in levels" :key="channel">
          <span class="quiet">{{
            levels.length > 1 ? (['left', 'right'][channel] ?? channel + 1) : 'level'
          }}</span>
          <span class="bar"
            ><i :style="{ width: share(level.levelDbfs) }" /><b :style="{ left: share(level.peakDbfs) }"
          /></span>
          <span class="figure">{{ signed(level.levelDbfs) }} dBFS</span>
        </li>
      </ul>
    </template>
    <p v-if="meddling.length" role="alert" class="message">
      The browser keeps its own {{ meddling.join(' and ') }} on for this input: levels read here cannot be
      trusted. Use another browser, or record a clip on the box itself.
    </p>
    <p v-if="refusal" role="alert" class="message">{{ refusal }}</p>
  </div>
</template>

<style scoped>
.ear {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  font-size: var(--small);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 2px;
}
li {
  display: flex;
  gap: 8px;
  align-items: center;
}
.bar {
  position: relative;
  width: 140px;
  height: 10px;
  border: 1px solid var(--rule);
  background: var(--sheet);
}
.bar i {
  position: absolute;
  inset: 0 auto 0 0;
  background: var(--brass);
}
.bar b {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--ink);
}
p {
  flex-basis: 100%;
}
</style>
