<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import type { Planned } from '@iron-hush/core/plan'
import { shelfFor, boxOf } from '@iron-hush/core/model'
import { decibels } from '@iron-hush/core/units'
import {
  besideWords,
  leastClearWords,
  planNames,
  reasonWords,
  toBuyWords,
  verdictOf,
  worstRatioName,
} from '@iron-hush/core/words'
import { useGear } from '../../state/gear'

/** Result of the three answers: the verdict, the chain, what to buy, and alternatives. */
const props = defineProps<{ planned: readonly Planned[]; running: boolean; progress: number | undefined }>()
const emit = defineEmits<{ open: [planned: Planned] }>()
const gear = useGear()
const best = computed(() => props.planned[0])
const verdict = computed(() => {
  const { run, patch } = best.value ?? {}
  return run && patch ? verdictOf(run, patch.plan, patch.brief.wantedSpeechToNoiseDb) : []
})
/** Whose recording the verdict is about, where there are several. */
const about = computed(() => {
  const { run, patch } = best.value ?? {}
  return run && patch && patch.brief.sources.length > 1 ? leastClearWords(run) : ''
})
const beside = computed(() => besideWords(best.value?.beside ?? []))
/** Boxes and pieces in order of the signal, by name: from each microphone to the last box that records it. */
const rows = computed(() => {
  if (!best.value) return []
  const { patch, along } = best.value
  const shelf = shelfFor(patch, gear.shelf)
  const nameOf = (id: string) => shelf.get(id)?.name ?? id
  const boxName = (id: string) => {
    const box = boxOf(patch, id)
    return box.name ?? nameOf(box.gear)
  }
  const piecesInto = (from: string, to: string) =>
    patch.links.find((link) => link.from.box === from && link.to.box === to)?.pieces ?? []
  return along.map((boxes) =>
    boxes.flatMap((id, at) => [
      ...(at ? piecesInto(boxes[at - 1]!, id).map(({ gear: piece }) => nameOf(piece)) : []),
      boxName(id),
    ]),
  )
})
const bought = computed(() => toBuyWords(best.value?.missing ?? []))
/** Most alternatives listed; each is a scene that may be opened. */
const mostOthers = 4
const others = computed(() => {
  const names = planNames(props.planned, gear.shelf)
  return props.planned
    .map((each, at) => ({
      each,
      name: names[at]!,
      words: `${decibels(each.worstDb)}${troubleWords(each.troubles)}${each.missing.length ? `, ${each.missing.length} to buy` : ''}`,
    }))
    .slice(1)
    .filter(({ each: { dead } }) => dead === 0)
    .slice(0, mostOthers)
})
const troubleWords = (count: number) => (count ? `, ${count} need${count === 1 ? 's' : ''} you` : '')
</script>

<template>
  <section class="outcome" aria-label="Verdict" aria-live="polite" :aria-busy="running">
    <div class="words">
      <p v-if="running" class="quiet" role="status">
        {{
          progress === undefined
            ? 'Finding leads, switching on powers, balancing\u2026'
            : `Trying what is owned, ${Math.round(progress * 100)} %.${best ? ' The best so far:' : ''}`
        }}
      </p>
      <p v-else-if="!best" class="say">
        <span class="tone-ceiling">Nothing on the shelf connects these two safely.</span> Choose something
        else to hear it with, or open Gear and add what you have.
      </p>
      <template v-if="best">
        <p class="say">
          <span v-for="(each, at) in verdict" :key="at" :class="each.tone && `tone-${each.tone}`">{{
            each.text
          }}</span>
        </p>
        <p v-if="about || beside || best.reasons[0]" class="quiet">
          {{ about }} {{ beside }} {{ best.reasons[0] ? reasonWords(best.reasons[0]) : '' }} {{ bought }}
        </p>
        <p v-for="(row, at) in rows" :key="at" class="chain">
          <template v-for="(name, index) in row" :key="index"
            ><span class="link"><i v-if="index" aria-hidden="true"></i><b>{{ name }}</b></span></template
          >
        </p>
        <p v-if="others.length" class="others">
          <span class="quiet"
            >Also tried, with the worst {{ worstRatioName(planned[0]?.patch.brief.sources ?? []) }} of
            each:</span
          >
          <button
            v-for="(other, at) in others"
            :key="at"
            type="button"
            :title="`Open the scene ${other.name}`"
            @click="emit('open', other.each)"
          >
            {{ other.name }} <span class="figure">{{ other.words }}</span>
          </button>
        </p>
      </template>
    </div>
    <Button label="Open this scene" :disabled="!best" @click="best && emit('open', best)" />
  </section>
</template>

<style scoped>
.outcome {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 20px;
  align-items: center;
  border: 1px solid var(--ink);
  background: var(--sheet);
  padding: 14px 16px;
  min-height: 116px;
}
.words {
  display: grid;
  gap: 7px;
}
.say {
  font-size: var(--lead);
  line-height: 1.35;
}
.chain {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  row-gap: 4px;
}
.chain .link {
  display: flex;
  align-items: center;
}
.chain b {
  border: 1px solid var(--ink);
  background: var(--paper);
  padding: 1px 8px;
  font-size: var(--small);
  font-weight: 600;
  font-stretch: 85%;
}
.chain i {
  width: 12px;
  border-top: 2px solid var(--brass);
}
.others {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  font-size: var(--small);
}
.others button {
  border: 0;
  background: none;
  padding: 0;
  cursor: pointer;
  text-align: left;
  text-decoration: underline;
  text-underline-offset: 3px;
}
.others .figure {
  white-space: nowrap;
}
@media (max-width: 700px) {
  .outcome {
    grid-template-columns: 1fr;
  }
}
</style>
