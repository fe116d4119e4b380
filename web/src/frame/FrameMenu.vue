<script setup lang="ts">
import Menu from 'primevue/menu'
import { computed, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import { useGearPlace } from './gear-place'
import { useView } from '../state/view'

/** The menu; on a phone it also contains the actions that stand beside it on a wide screen. */
const view = useView()
const router = useRouter()
const gearPlace = useGearPlace()
const menu = useTemplateRef('menu')
const print = () => window.print()

const items = computed(() => [
  { label: 'Gear', class: 'narrow-only', command: () => void router.push(gearPlace()) },
  { label: 'Find', class: 'narrow-only', command: () => view.toggle('find') },
  { label: view.night ? 'Day' : 'Night', command: () => void (view.night = !view.night) },
  {
    label: view.imperial ? 'Metres and centimetres' : 'Feet and inches',
    command: () => void (view.imperial = !view.imperial),
  },
  {
    label: view.letterPaper ? 'Sheets on A4' : 'Sheets on Letter',
    command: () => void (view.letterPaper = !view.letterPaper),
  },
  { label: 'Keys', command: () => view.toggle('keys') },
  { label: 'Terms', command: () => view.explain('') },
  { label: 'Print this page', command: () => setTimeout(print, 200) },
  { label: 'Share with a phone', command: () => view.toggle('share') },
  { label: 'About', command: () => view.toggle('about') },
])
</script>

<template>
  <button type="button" aria-haspopup="true" aria-label="Menu" @click="menu?.toggle($event)">
    Menu <span aria-hidden="true">&#9662;</span>
  </button>
  <Menu ref="menu" class="frame-menu" :model="items" popup />
</template>

<style>
@media (min-width: 701px) {
  .frame-menu .narrow-only {
    display: none;
  }
}
@media (max-width: 700px) {
  .frame-menu .p-menu-item-link {
    min-height: 44px;
  }
}
</style>
