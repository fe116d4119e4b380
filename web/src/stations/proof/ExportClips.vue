<script setup lang="ts">
import Button from 'primevue/button'
import Menu from 'primevue/menu'
import { computed, toRaw, useTemplateRef } from 'vue'
import type { ProofRecord } from '@iron-hush/core/model'
import { findingsCsv } from '@iron-hush/core/report'
import { sheets } from '../../print'
import { printedNow } from '../../print/printed'
import { download } from '../../state/download'
import { useGear } from '../../state/gear'
import { useNotices } from '../../state/notices'
import { useScene } from '../../state/scene'
import { useTakes } from '../../state/takes'
import { startMeasureAnswers } from '../../workers/compute'

/** Findings of clips as a table, as data beside the plan, or on a page. */
const props = defineProps<{ proofs: readonly ProofRecord[] }>()
const gear = useGear()
const notices = useNotices()
const measurements = computed(() => props.proofs.map(({ measurement }) => measurement))
const scene = useScene()
const takes = useTakes()
const menu = useTemplateRef('menu')
const fileName = () => `${scene.openPatch.name.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase()}-clips`
async function exportFigures(): Promise<void> {
  try {
    const clips = props.proofs.map(({ measurement, recording, take }) => {
      const parts = takes.list.find(({ id }) => id === take?.id)?.parts ?? []
      return { measurement: toRaw(measurement), recording, parts: toRaw(parts) }
    })
    const answers = await startMeasureAnswers(clips, scene.openPatch, gear.all).result
    download(JSON.stringify(answers, null, 2), `${fileName()}.json`, 'application/json')
  } catch (error) {
    notices.say(error instanceof Error ? error.message : String(error))
  }
}
async function print(): Promise<void> {
  const { printClips } = await sheets.clipSheet()
  await printClips(measurements.value, printedNow())
}
const items = [
  {
    label: 'A table of the findings (CSV)',
    command: () => download(findingsCsv(measurements.value), `${fileName()}.csv`, 'text/csv'),
  },
  {
    label: 'All figures (JSON)',
    command: () => void exportFigures(),
  },
  { label: 'One page (PDF)', command: () => void print() },
]
</script>

<template>
  <Button label="Export" severity="secondary" aria-haspopup="true" @click="menu?.toggle($event)" />
  <Menu ref="menu" :model="items" popup />
</template>
