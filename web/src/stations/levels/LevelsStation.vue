<script setup lang="ts">
import AfterPaint from '../../parts/AfterPaint.vue'
import { computed, defineAsyncComponent, ref, useTemplateRef } from 'vue'
import { turned } from '@iron-hush/core/model'
import { dialogs } from '../../frame/dialogs'
import { useShortcuts } from '../../frame/shortcuts'
import { useScene } from '../../state/scene'
import { useBalancing } from './balancing'
import ChainRow from './ChainRow.vue'
import { useChainColumns } from './chain-columns'
import LevelMap from './LevelMap.vue'
import BetterFigures from '../../parts/BetterFigures.vue'
import LevelsHead from './LevelsHead.vue'
import { useOdds } from './odds'
import ProposalPanel from './ProposalPanel.vue'
import RunFacts from './RunFacts.vue'
import RunsMap from './RunsMap.vue'
import { spreadDb } from '@iron-hush/core/balance'
import NothingRecorded from './NothingRecorded.vue'
import { useListening } from './listening'
import { momentWords, placeWords } from './map-words'
import type { ScaleMode } from './scale'
import { useTurnControl } from './turn-control'

const KitPanel = defineAsyncComponent(dialogs.kits)
const ListenPanel = defineAsyncComponent(dialogs.listen)

const scene = useScene()
const balancing = useBalancing()
const { proposal, running } = balancing
const listening = useListening(() =>
  (proposal.value?.changes ?? []).map(({ part, control, to }) => ({
    kind: 'set control' as const,
    part,
    control,
    position: to,
  })),
)
const { open: hearing } = listening
const { odds: allOdds, mine: odds } = useOdds()
const mode = ref<ScaleMode>('source')
/** One run along its chain, or every recorded run beside the others. */
const shows = ref<'run' | 'runs' | 'kits'>('run')
/** If one source takes several paths into one track, the first represents them. */
const recorded = computed(() =>
  scene.runs.filter(({ id, end }) => end.kind === 'recording' && !/#\d+$/.test(id)),
)
const ambience = ref(true)
const run = computed(() => scene.run)
const plan = computed(() => scene.openPatch.plan)
const chain = useChainColumns(run)
const { detail, columns, selected, pins } = chain
/** The column under the pointer, other than the selected one. */
const under = ref<number>()
const priced = computed(() => chain.controlOf(under.value ?? selected.value))
const turn = useTurnControl()
const row = useTemplateRef('row')

/** Ears and links in the chain have no file to listen to. */
const canListen = computed(() => run.value?.end.kind === 'recording')
function listenOrNot(): void {
  if (hearing.value) listening.close()
  else if (canListen.value) void listening.listen()
}

useShortcuts({
  along: ({ key }) => {
    chain.step(key === 'ArrowLeft' ? -1 : 1)
    void row.value?.focusSelected()
  },
  turn: ({ key, shiftKey }) => {
    const set = chain.controlOf(selected.value)
    if (!set) return false
    const steps = (key === 'ArrowUp' ? 1 : -1) * (shiftKey ? 10 : 1)
    turn(set, turned(set.control, set.position, steps))
  },
  balance: () => void balancing.ask(),
  listen: listenOrNot,
  pin: chain.pin,
  allRuns: () => void (shows.value = shows.value === 'run' ? 'runs' : 'run'),
  accept: ({ target }) => {
    if (!proposal.value || (target as HTMLElement).closest('button')) return false
    balancing.acceptAll()
  },
  close: () => {
    if (proposal.value || running.value) balancing.cancel()
    else if (hearing.value) listening.close()
    else return false
  },
})
</script>

<template>
  <section class="station levels">
    <LevelsHead
      v-model:shows="shows"
      v-model:mode="mode"
      v-model:detail="detail"
      v-model:ambience="ambience"
      :running
      :can-listen="canListen"
      @listen="listenOrNot()"
      @balance="balancing.ask()"
      @stop="balancing.cancel()"
    />
    <NothingRecorded v-if="!run" />
    <div v-else class="body" :style="{ '--columns': columns.length }">
      <KitPanel v-if="shows === 'kits'" @listen="listening.listenBeside($event)" />
      <RunsMap
        v-else-if="shows === 'runs'"
        :runs="recorded"
        :plan="plan"
        :odds="allOdds"
        :selected="run.id"
        :ambience
        @choose="scene.runId = $event"
      />
      <AfterPaint v-else :frames="3">
        <LevelMap
          :ambience
          :run
          :columns
          :mode
          :selected
          :pins
          :place-words="placeWords(run, scene.openPatch.brief)"
          :moment-words="momentWords(run)"
          :spread-db="2 * spreadDb[run.source.kind]"
          @choose="selected = $event"
        />
        <template #meanwhile><div></div></template>
      </AfterPaint>
      <AfterPaint v-if="shows === 'run'">
        <ChainRow ref="row" :run :chain :balancing @under="under = $event" />
        <template #meanwhile><div></div></template>
      </AfterPaint>
      <div class="result" :class="{ proposed: proposal }">
        <BetterFigures />
        <AfterPaint :frames="2"
          ><RunFacts
            :run
            :odds
            :proposal
            :control="priced"
            :steps="shows === 'run' && !hearing"
            @safer="balancing.askSafer($event)"
        /></AfterPaint>
        <ListenPanel v-if="hearing" :listening="listening" />
        <div v-if="running" class="running" role="status">Balancing all controls together&hellip;</div>
        <ProposalPanel :balancing />
      </div>
    </div>
  </section>
</template>

<style scoped>
.body {
  min-height: 0;
  display: grid;
  grid-template-rows: minmax(240px, 1fr) max-content max-content;
  overflow-x: auto;
}
.body > * {
  /* so wide that a control fits under its column */
  min-width: calc(82px + var(--columns) * 64px);
}
.result {
  padding: 6px 18px 8px 64px;
  font-size: var(--small);
  display: grid;
  gap: 6px;
}
.running {
  display: flex;
  align-items: center;
  gap: 8px;
  border-top: 1px solid var(--rule);
  padding-top: 6px;
}
@media (max-width: 1000px) {
  .levels {
    overflow: auto;
  }
}
@media (max-width: 700px) {
  .body {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: 230px max-content max-content;
    overflow: visible;
  }
  .body > * {
    min-width: 0;
  }
  .result {
    grid-template-columns: minmax(0, 1fr);
    padding: 8px 16px;
  }
}
</style>
