<script setup lang="ts">
import Button from 'primevue/button'
import Menu from 'primevue/menu'
import { useTemplateRef } from 'vue'
import type { Measurement } from '@iron-hush/core/model'
import { findingsCsv, measureAnswer } from '@iron-hush/core/report'
import { printClips } from '../../print/clip-sheet'
import { printedNow } from '../../print/printed'
import { download } from '../../state/download'
import { useScene } from '../../state/scene'

/** What was found in clips, as a table, as data, or on a page. */
const props = defineProps<{ measurements: readonly Measurement[] }>()
const scene = useScene()
const menu = useTemplateRef('menu')
const fileName = () => `${scene.openPatch.name.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase()}-clips`
const items = [
  {
    label: 'A table of the findings (CSV)',
    command: () => download(findingsCsv(props.measurements), `${fileName()}.csv`, 'text/csv'),
  },
  {
    label: 'All figures (JSON)',
    command: () =>
      download(
        JSON.stringify(
          props.measurements.map((each) => measureAnswer(each)),
          null,
          2,
        ),
        `${fileName()}.json`,
        'application/json',
      ),
  },
  { label: 'One page (PDF)', command: () => printClips(props.measurements, printedNow()) },
]
</script>

<template>
  <Button label="Export" severity="secondary" aria-haspopup="true" @click="menu?.toggle($event)" />
  <Menu ref="menu" :model="items" popup />
</template>
