<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { betterEdit, betterFigures, type BetterFigures } from '@iron-hush/core/lineup'
import { useGear } from '../state/gear'
import { useScene } from '../state/scene'

/** Boxes of this scene for which better figures were learnt elsewhere. */
const scene = useScene()
const gear = useGear()
const better = computed(() => (scene.patch ? betterFigures(scene.patch, gear.shelf) : []))
const take = (each: BetterFigures) => scene.change([betterEdit(each)], `better figures of ${each.boxName}`)
const dated = (at: string) =>
  new Date(at).toLocaleDateString([], { day: 'numeric', month: 'short', year: 'numeric' })
</script>

<template>
  <section v-if="better.length" class="better" role="status">
    <p v-for="each in better" :key="each.box">
      Better figures for <b>{{ each.boxName }}</b> were learnt on {{ dated(each.newest.at) }}:
      {{ each.own.name }}.
      <Button label="Use them here" size="small" @click="take(each)" />
    </p>
  </section>
</template>

<style scoped>
.better {
  border-left: 5px solid var(--verdigris);
  background: var(--sheet);
  padding: 8px 10px;
}
p + p {
  margin-top: 8px;
}
</style>
