<script setup lang="ts">
import { clipFindings } from '@iron-hush/core/measure'
import type { Measurement, ProofRecord } from '@iron-hush/core/model'
import { clock } from '@iron-hush/core/units'
import { clipSummary } from '@iron-hush/core/words'
import { computed } from 'vue'
import WaitingList from './WaitingList.vue'

/** Every clip of the scene with what was found in it, and above them those that are still being read. */
const { clips } = defineProps<{ clips: readonly ProofRecord[]; chosen: string | undefined }>()
const emit = defineEmits<{ choose: [id: string] }>()
/** Results of a measurement are cached with it: with hundreds of clips each new one would recompute all. */
const summaries = new WeakMap<Measurement, ReturnType<typeof clipSummary>>()
function summaryOf(measurement: Measurement) {
  const known = summaries.get(measurement) ?? clipSummary(measurement, clipFindings(measurement))
  summaries.set(measurement, known)
  return known
}
const rows = computed(() =>
  clips.map(({ id, measurement }) => ({ id, measurement, ...summaryOf(measurement) })),
)
</script>

<template>
  <div>
    <WaitingList />
    <ol v-if="clips.length" aria-label="Clips of this scene">
      <li v-for="clip in rows" :key="clip.id">
        <button
          type="button"
          :aria-current="clip.id === chosen"
          :class="clip.severity"
          @click="emit('choose', clip.id)"
        >
          <span class="mark" aria-hidden="true">{{ clip.mark }}</span>
          <b :title="clip.measurement.clip">{{ clip.measurement.clip }}</b>
          <span class="figure">{{ clock(clip.measurement.lengthS) }}</span>
          <small>{{ clip.words }}</small>
        </button>
      </li>
    </ol>
  </div>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
button {
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto;
  gap: 1px 6px;
  align-items: baseline;
  width: 100%;
  padding: 8px 12px 8px 15px;
  border: 0;
  border-bottom: 1px solid var(--rule);
  border-left: 3px solid transparent;
  background: none;
  text-align: left;
  cursor: pointer;
}
button[aria-current='true'] {
  background: var(--sheet);
  border-left-color: var(--ink);
}
b {
  font-stretch: 88%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
small {
  grid-column: 2 / -1;
  font-size: var(--small);
  font-stretch: 90%;
  color: var(--quiet);
  line-height: 1.25;
}
.mark {
  color: var(--verdigris);
}
.degraded .mark,
.note .mark {
  color: var(--brass-ink);
}
.dead .mark,
.harmful .mark {
  color: var(--iron);
}
</style>
