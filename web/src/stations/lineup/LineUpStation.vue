<script setup lang="ts">
import { computed, onMounted, useTemplateRef, watch } from 'vue'
import SceneSelect from '../../frame/SceneSelect.vue'
import BetterFigures from '../../parts/BetterFigures.vue'
import { useScene } from '../../state/scene'
import LawDrawing from './LawDrawing.vue'
import { useLiningUp } from './lining-up'
import SignalBench from './SignalBench.vue'
import { useStandIn } from './stand-in'
import StepRow from './StepRow.vue'
import WhatChanges from './WhatChanges.vue'

const scene = useScene()
const lining = useLiningUp()
const { bench, steps, chosen, choose, done, goesOn } = lining
const standIn = useStandIn(lining)

const list = useTemplateRef('list')
watch(
  () => chosen.value?.id,
  () => {
    if (!goesOn.value) return
    goesOn.value = false
    list.value?.querySelector<HTMLElement>('li.open .head')?.focus()
  },
  { flush: 'post' },
)

// finished steps would fill the screen of a phone
onMounted(() => list.value?.querySelector('li.open')?.scrollIntoView({ block: 'nearest' }))

/** Time of one step with everything at hand, minutes. */
const minutesAStep = 0.7
const left = computed(() => steps.value.length - done.value)
const progress = computed(() =>
  left.value
    ? `${done.value} of ${steps.value.length} done, about ${Math.max(1, Math.round(left.value * minutesAStep))} min left`
    : `all ${steps.value.length} done`,
)
</script>

<template>
  <section class="station">
    <div class="station-head">
      <h1>Line-up</h1>
      <SceneSelect />
      <span v-if="steps.length" class="what">{{ progress }}</span>
    </div>
    <div v-if="steps.length" class="body">
      <ol ref="list" class="steps" aria-label="Steps of the line-up">
        <StepRow
          v-for="(step, index) in steps"
          :key="step.id"
          :step
          :number="index + 1"
          :lining
          :stand-in
          :open="step.id === chosen?.id"
          @choose="choose(step.id)"
        />
      </ol>
      <div v-if="bench" class="aside">
        <BetterFigures />
        <LawDrawing :bench :steps :step="chosen" />
        <WhatChanges :bench />
        <SignalBench />
      </div>
    </div>
    <p v-else class="empty">
      {{
        scene.runs.length
          ? 'Nothing here can be lined up yet.'
          : 'Nothing is recorded in this scene yet: the steps of the line-up come from its chain. Build it on Patch.'
      }}
    </p>
  </section>
</template>

<style scoped>
.body {
  display: grid;
  grid-template-columns: minmax(0, 1.75fr) minmax(280px, 1fr);
  border-top: 1px solid var(--rule);
  min-height: 0;
}
.body > * {
  overflow: auto;
  min-height: 0;
}
.steps {
  list-style: none;
  margin: 0;
  padding: 10px 10px 24px;
  border-right: 1px solid var(--rule);
}
.aside {
  padding: 14px 18px 24px;
  display: grid;
  gap: 18px;
  align-content: start;
}
.empty {
  margin: 8px 18px;
  max-width: 60ch;
}
@media (max-width: 1000px) {
  .station {
    display: block;
    overflow: auto;
  }
  .body {
    grid-template-columns: minmax(0, 1fr);
  }
  .steps {
    border-right: 0;
  }
}
</style>
