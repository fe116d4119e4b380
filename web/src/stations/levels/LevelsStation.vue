<script setup lang="ts">
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { powerControls } from '@iron-hush/core/levels'
import { standingControls, turned } from '@iron-hush/core/model'
import { useShortcuts } from '../../frame/shortcuts'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { useBalancing } from './balancing'
import BoxCards from './BoxCards.vue'
import ColumnNames from './ColumnNames.vue'
import { useDetail } from './detail'
import ControlCell from './ControlCell.vue'
import KitPanel from './KitPanel.vue'
import LevelMap from './LevelMap.vue'
import LevelsHead from './LevelsHead.vue'
import { useOdds } from './odds'
import ProposalPanel from './ProposalPanel.vue'
import RunFacts from './RunFacts.vue'
import RunsMap from './RunsMap.vue'
import { spreadDb } from '@iron-hush/core/balance'
import NothingRecorded from './NothingRecorded.vue'
import { useListening } from './listening'
import ListenPanel from './ListenPanel.vue'
import { momentWords, placeWords } from './map-words'
import type { ScaleMode } from './scale'
import { useTurnControl } from './turn-control'

const scene = useScene()
const gear = useGear()
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
/** Where one source takes several ways into one track, the first stands for them. */
const recorded = computed(() =>
  scene.runs.filter(({ id, end }) => end.kind === 'recording' && !/#\d+$/.test(id)),
)
const ambience = ref(true)
const selected = ref(0)
/** The column under the pointer, where it is not the one in hand. */
const under = ref<number>()
const priced = computed(() => sets.value[under.value ?? selected.value]?.[0])
const pins = ref<string[]>([])
const controlRow = useTemplateRef('controlRow')

const run = computed(() => scene.run)
const { detail, columns, opening, open, narrow } = useDetail(run)
const plan = computed(() => scene.openPatch.plan)
/** A run is opened at its narrowest place. */
watch(
  () => run.value?.id,
  () => {
    const tightest = run.value?.tightest?.point
    selected.value = tightest === undefined ? 0 : columnOf(tightest)
  },
  { immediate: true },
)
/** Boxes open and close around what is selected. */
watch(columns, (now, before) => {
  const point = before[selected.value]?.points[0]
  if (point !== undefined && now.length !== before.length) selected.value = columnOf(point)
})
function columnOf(point: number): number {
  return Math.max(
    0,
    columns.value.findIndex(({ points }) => points.includes(point)),
  )
}

/** Power switches and channels, which stand under no stage of their own. */
const powers = computed(() =>
  run.value ? powerControls(run.value, columns.value, scene.openPatch, gear.shelf) : [],
)
const sets = computed(() =>
  columns.value.map(({ controls }, index) =>
    standingControls(scene.openPatch, gear.shelf, [...controls, ...(powers.value[index] ?? [])]),
  ),
)
/** Controls whose names must be said: where the column is not called after its one control. */
const captioned = computed(() =>
  columns.value.map(({ name }, index) =>
    name ? (powers.value[index] ?? []) : sets.value[index]!.map(({ key }) => key),
  ),
)
const turn = useTurnControl()

function move(by: number): void {
  selected.value = Math.min(columns.value.length - 1, Math.max(0, selected.value + by))
  void nextTick(() =>
    controlRow.value
      ?.querySelectorAll('.cell')
      [selected.value]?.querySelector<HTMLElement>('[tabindex="0"]')
      ?.focus(),
  )
}
function pin(): void {
  const column = columns.value[selected.value]
  if (!column) return
  const key = `${column.part}.${column.name}`
  pins.value = pins.value.includes(key) ? pins.value.filter((each) => each !== key) : [...pins.value, key]
}

/** Ears and links in the chain have no file to listen to. */
const canListen = computed(() => run.value?.end.kind === 'recording')
function listenOrNot(): void {
  if (hearing.value) listening.close()
  else if (canListen.value) void listening.listen()
}

useShortcuts({
  along: ({ key }) => move(key === 'ArrowLeft' ? -1 : 1),
  turn: ({ key, shiftKey }) => {
    const set = sets.value[selected.value]?.[0]
    if (!set) return false
    const steps = (key === 'ArrowUp' ? 1 : -1) * (shiftKey ? 10 : 1)
    turn(set, turned(set.control, set.position, steps))
  },
  balance: () => void balancing.ask(),
  listen: listenOrNot,
  pin,
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
      <LevelMap
        v-else
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
      <ol v-if="shows === 'run' && narrow" class="row numbers">
        <li v-for="(column, index) in columns" :key="index">
          <button
            type="button"
            :aria-label="column.name ? `${column.name}, ${column.partName}` : column.partName"
            :aria-pressed="index === selected"
            @click="selected = index"
          >
            {{ index + 1 }}
          </button>
        </li>
      </ol>
      <BoxCards
        v-if="shows === 'run' && narrow"
        :run
        :columns
        :sets
        :selected
        :balancing
        @choose="selected = $event"
      />
      <ColumnNames
        v-if="shows === 'run' && !narrow"
        :columns
        :selected
        :opening
        class="row names"
        @choose="selected = $event"
        @open="open"
      />
      <div v-if="shows === 'run' && !narrow" ref="controlRow" class="row controls">
        <ControlCell
          v-for="(set, index) in sets"
          :key="index"
          :controls="set"
          :captioned="captioned[index] ?? []"
          :part-name="columns[index]!.partName"
          :balancing
          :class="{ hand: index === selected, whole: columns[index]?.name === '' }"
          @focusin="selected = index"
          @pointerenter="under = index"
          @pointerleave="under = undefined"
        />
      </div>
      <div class="result" :class="{ proposed: proposal }">
        <RunFacts
          :run
          :odds
          :proposal
          :control="priced"
          :steps="shows === 'run' && !hearing"
          @safer="balancing.askSafer($event)"
        />
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
  grid-template-rows: minmax(176px, 1fr) auto max-content max-content;
  overflow-x: auto;
}
.row {
  display: grid;
  grid-template-columns: repeat(var(--columns), minmax(0, 1fr));
  padding: 0 18px 0 64px;
}
.controls {
  /* room for what Balance proposes, so that nothing moves when it does */
  min-height: 118px;
}
.body > * {
  /* so wide that a control fits under its column */
  min-width: calc(82px + var(--columns) * 64px);
}
.cell.hand {
  background: var(--sheet);
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
.numbers {
  list-style: none;
  margin: 0;
}
.numbers button {
  width: 100%;
  min-height: 44px;
  border: 0;
  background: none;
  font-weight: 600;
}
.numbers [aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
}
@media (max-width: 1000px) {
  .levels {
    overflow: auto;
  }
}
@media (max-width: 700px) {
  .body {
    grid-template-rows: 230px auto max-content max-content;
    overflow: visible;
  }
  .body > * {
    min-width: 0;
  }
  .row {
    padding: 0 8px 0 40px;
  }
  .result {
    padding: 8px 16px;
  }
}
</style>
