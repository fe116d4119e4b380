<script setup lang="ts">
import Button from 'primevue/button'
import { computed, onUnmounted, ref } from 'vue'
import { Refusal } from '@iron-hush/core/model'
import type { GearReading } from '@iron-hush/core/report'
import { useGear } from '../../state/gear'
import { type Job, startReadGear } from '../../workers/compute'

/** A gear file before it is taken in: line by line what would come of it. Nothing is stored until it is said. */
const props = defineProps<{ file: File }>()
const emit = defineEmits<{ close: [] }>()
const gear = useGear()
const reading = ref<GearReading>()
const refused = ref('')
const storing = ref(false)
let job: Job<GearReading> | undefined

async function read(): Promise<void> {
  try {
    job = startReadGear(await props.file.text(), props.file.name, gear.all)
    reading.value = await job.result
  } catch (error) {
    if (!(error instanceof Refusal)) throw error
    refused.value = error.message
  }
}
void read()
onUnmounted(() => job?.cancel())

const bad = computed(() => reading.value?.lines.filter(({ taken }) => !taken) ?? [])
const good = computed(() => reading.value?.lines.filter(({ taken }) => taken) ?? [])
const shownLines = 300

async function take(): Promise<void> {
  if (!reading.value) return
  storing.value = true
  try {
    await gear.take(reading.value.gear)
    emit('close')
  } catch (error) {
    refused.value = error instanceof Error ? error.message : String(error)
  } finally {
    storing.value = false
  }
}
</script>

<template>
  <article aria-label="Imported file">
    <header>
      <h2>{{ file.name }}</h2>
      <Button label="Close" severity="secondary" size="small" @click="emit('close')" />
    </header>
    <p v-if="refused" role="alert" class="refused">{{ refused }}</p>
    <p v-else-if="!reading">Reading&hellip;</p>
    <template v-if="reading">
      <p v-if="reading.gear.length === 0 && bad.length === 0">
        Nothing in this file differs from the shelf: {{ good.length }} lines say what is there already.
      </p>
      <p v-else>
        <b>{{ reading.gear.length }}</b> {{ reading.gear.length === 1 ? 'thing' : 'things' }} new or changed;
        <b>{{ good.length }}</b> lines are good, <b>{{ bad.length }}</b> refused. Nothing is stored yet.
      </p>
      <div v-if="reading.gear.length">
        <Button :label="`Import ${reading.gear.length}`" size="small" :loading="storing" @click="take" />
      </div>
      <table aria-label="Line by line">
        <tbody>
          <tr
            v-for="line in [...bad, ...good].slice(0, shownLines)"
            :key="line.line"
            :class="{ bad: !line.taken }"
          >
            <td class="figure">{{ line.line }}</td>
            <td>{{ line.taken ? '\u2713' : '\u25B2 refused' }}</td>
            <td>{{ line.what }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="reading.lines.length > shownLines" class="quiet">
        And {{ reading.lines.length - shownLines }} more lines.
      </p>
    </template>
  </article>
</template>

<style scoped>
article {
  overflow: auto;
  padding: 14px 22px 24px;
  display: grid;
  gap: 10px;
  align-content: start;
}
header {
  display: flex;
  justify-content: space-between;
}
table {
  border-collapse: collapse;
  font-size: var(--small);
}
tr {
  border-top: 1px solid var(--rule);
}
td {
  padding: 3px 12px 3px 0;
  vertical-align: top;
}
.bad,
.refused {
  color: var(--iron);
}
</style>
