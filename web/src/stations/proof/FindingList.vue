<script setup lang="ts">
import { ref } from 'vue'
import type { TimeRange } from '@iron-hush/core/model'
import { clock } from '@iron-hush/core/units'
import TermedText from '../../parts/TermedText.vue'
import type { ShownFinding } from '@iron-hush/core/report'

/** Findings of a clip: a sentence each, the confidence, and a way from one place to the next. */
defineProps<{ findings: readonly ShownFinding[] }>()
const emit = defineEmits<{
  show: [range: TimeRange, finding: ShownFinding]
  draw: [as: 'levels' | 'spectrum']
}>()

/** Views that show a finding better than the wave does. */
const drawnAs: Partial<Record<ShownFinding['code'], 'levels' | 'spectrum'>> = {
  hum: 'spectrum',
  wind: 'spectrum',
  pumping: 'levels',
}

/** Which place of each finding was shown last. */
const at = ref<Record<string, number>>({})
function step(finding: ShownFinding, by: 1 | -1): void {
  const count = finding.ranges.length
  const before = at.value[finding.key] ?? (by > 0 ? -1 : count)
  const next = (before + by + count) % count
  at.value[finding.key] = next
  emit('show', finding.ranges[next]!, finding)
}
const marks = { dead: '\u25B2', harmful: '\u25B2', degraded: '\u25CF', note: '\u2013' }
</script>

<template>
  <ul aria-label="Findings">
    <li v-for="finding in findings" :key="finding.key" :class="finding.severity">
      <span class="mark" aria-hidden="true">{{ marks[finding.severity] }}</span>
      <p>
        <b>{{ finding.about ? `${finding.about}: ` : '' }}{{ finding.what }}</b>{{ ' '
        }}<TermedText :text="`${finding.why} ${finding.remedy}`" /> {{ ' '
        }}<small v-if="finding.confidence < 0.995" class="quiet"
          >Sure: {{ Math.round(finding.confidence * 100) }} %.</small
        >
        <button
          v-if="drawnAs[finding.code]"
          type="button"
          class="drawn"
          @click="emit('draw', drawnAs[finding.code]!)"
        >
          {{ drawnAs[finding.code] === 'levels' ? 'Show levels' : 'Show spectrum' }}
        </button>
      </p>
      <span v-if="finding.inPlaces" class="places">
        <button type="button" :aria-label="`Previous place: ${finding.word}`" @click="step(finding, -1)">
          &#9664;
        </button>
        <span class="figure">{{
          at[finding.key] === undefined
            ? `${finding.ranges.length}`
            : `${at[finding.key]! + 1}/${finding.ranges.length} at ${clock(finding.ranges[at[finding.key]!]!.fromS, 1)}`
        }}</span>
        <button type="button" :aria-label="`Next place: ${finding.word}`" @click="step(finding, 1)">
          &#9654;
        </button>
      </span>
    </li>
  </ul>
</template>

<style scoped>
.drawn {
  border: 0;
  background: none;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 4px;
  max-width: 110ch;
}
li {
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto;
  gap: 6px;
  align-items: baseline;
}
.mark {
  color: var(--brass-ink);
}
.harmful .mark,
.dead .mark,
.harmful b,
.dead b {
  color: var(--iron);
}
.places {
  white-space: nowrap;
}
button {
  border: 1px solid var(--rule);
  background: var(--sheet);
  border-radius: 2px;
  min-width: 26px;
  min-height: 24px;
  cursor: pointer;
}
.figure {
  padding: 0 6px;
}
@media (max-width: 700px) {
  li {
    grid-template-columns: 16px minmax(0, 1fr);
  }
  .places {
    grid-column: 2;
  }
  button {
    min-width: 44px;
    min-height: 44px;
  }
}
</style>
