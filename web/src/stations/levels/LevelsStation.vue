<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import Button from 'primevue/button'
import Select from 'primevue/select'
import SelectButton from 'primevue/selectbutton'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { columnsOf } from '@iron-hush/core/levels'
import { type Control, Keeper, type Position, positionName, School, turned } from '@iron-hush/core/model'
import ControlFace from '../../controls/ControlFace.vue'
import SceneSelect from '../../frame/SceneSelect.vue'
import { isTyping } from '../../frame/typing'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { useView } from '../../state/view'
import { useBalancing } from './balancing'
import LevelMap from './LevelMap.vue'
import { useOdds } from './odds'
import ProposalPanel from './ProposalPanel.vue'
import RunFacts from './RunFacts.vue'
import RunsMap from './RunsMap.vue'
import { spreadDb } from '@iron-hush/core/balance'
import { useListening } from './listening'
import ListenPanel from './ListenPanel.vue'
import type { ScaleMode } from './scale'

const scene = useScene()
const gear = useGear()
const view = useView()
const balancing = useBalancing()
const { proposal, running, ghosts } = balancing
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
const shows = ref<'run' | 'runs'>('run')
const views = [
  { id: 'run', name: 'this run' },
  { id: 'runs', name: 'all runs' },
]
/** Where one source takes several ways into one track, the first stands for them. */
const recorded = computed(() =>
  scene.runs.filter(({ id, end }) => end.kind === 'recording' && !/#\d+$/.test(id)),
)
const ambience = ref(true)
const inHand = ref(0)
/** The column under the pointer, where it is not the one in hand. */
const under = ref<number>()
const priced = computed(() => sets.value[under.value ?? inHand.value]?.[0])
const pins = ref<string[]>([])
const controlRow = useTemplateRef('controlRow')

const run = computed(() => scene.run)
const columns = computed(() => (run.value ? columnsOf(run.value) : []))
const plan = computed(() => scene.patch!.plan)
const modes = computed(() => [
  { id: 'source', name: run.value?.unit === 'dBu' ? 'at the feed' : 'as pressure' },
  { id: 'volts', name: 'volts' },
  { id: 'dbfs', name: 'dBFS' },
])
const windows: Record<School, string> = {
  cautious: 'cautious, \u221220 to \u221217',
  usual: 'usual, \u221215 to \u221212',
  full: 'full, \u221210 to \u22126',
  float: 'float, analogue only',
}
const schools = School.options.map((id) => ({ id, name: windows[id] }))
const keepers = Keeper.options.map((id) => ({ id, name: id }))

/** A run is opened at its narrowest place. */
watch(
  () => run.value?.id,
  () => {
    const tightest = run.value?.tightest?.point
    inHand.value = Math.max(
      0,
      columns.value.findIndex(({ points }) => tightest !== undefined && points.includes(tightest)),
    )
  },
  { immediate: true },
)

interface Set {
  key: string
  part: string
  control: Control
  position: Position
  locked: boolean
}

/** The controls of a column as they stand. */
function controlsAt(keys: readonly string[]): Set[] {
  const patch = scene.patch!
  const parts = [...patch.boxes, ...patch.links.flatMap(({ through }) => through)]
  return keys.flatMap((key) => {
    const [partId, controlId] = key.split('.') as [string, string]
    const part = parts.find(({ id }) => id === partId)
    const control =
      part &&
      (patch.gear.find(({ id }) => id === part.gear) ?? gear.shelf.get(part.gear))?.controls.find(
        ({ id }) => id === controlId,
      )
    return part && control
      ? [
          {
            key,
            part: partId,
            control,
            position: part.settings[controlId] ?? control.initial,
            locked: part.locked.includes(controlId),
          },
        ]
      : []
  })
}
const sets = computed(() => columns.value.map(({ controls }) => controlsAt(controls)))

function turn(set: Set, position: Position): void {
  if (set.locked) return
  scene.change(
    [{ kind: 'set control', part: set.part, control: set.control.id, position }],
    set.control.name,
    `turn ${set.key}`,
  )
}
const lock = (set: Set) =>
  scene.change(
    [{ kind: 'lock control', part: set.part, control: set.control.id, locked: !set.locked }],
    set.locked ? 'unlocking' : 'locking',
  )

const noiseWords = computed(() => {
  const wind = Number.isFinite(run.value!.atSource.wind) ? ['wind'] : []
  const names = [...scene.patch!.brief.noises.map(({ name }) => name), ...wind].join(', ')
  return `${names || 'place'} at the microphone, ${run.value!.atSource.placeNoise.toFixed(0)} dB(A)`
})
const momentWords = computed(() =>
  run.value?.source.kind === 'strike'
    ? { loudest: 'loudest strike', typical: 'typical', quietest: 'quietest remark' }
    : { loudest: 'loudest peak', typical: 'typical', quietest: 'quietest' },
)
const db = (value: number) => value.toFixed(1).replace('-', '\u2212')

function move(by: number): void {
  inHand.value = Math.min(columns.value.length - 1, Math.max(0, inHand.value + by))
  void nextTick(() =>
    controlRow.value
      ?.querySelectorAll('.cell')
      [inHand.value]?.querySelector<HTMLElement>('[tabindex="0"]')
      ?.focus(),
  )
}
function pin(): void {
  const column = columns.value[inHand.value]
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

useEventListener(window, 'keydown', (event) => {
  if (isTyping(event) || event.ctrlKey || event.metaKey || event.altKey || view.open) return
  const set = sets.value[inHand.value]?.[0]
  const up = { ArrowUp: 1, ArrowDown: -1 }[event.key]
  const onButton = (event.target as HTMLElement).closest('button')
  if (event.key === 'ArrowLeft') move(-1)
  else if (event.key === 'ArrowRight') move(1)
  else if (up && set) turn(set, turned(set.control, set.position, up * (event.shiftKey ? 10 : 1)))
  else if (event.key.toLowerCase() === 'b') void balancing.ask()
  else if (event.key.toLowerCase() === 'l') listenOrNot()
  else if (event.key.toLowerCase() === 'p') pin()
  else if (event.key.toLowerCase() === 'a') shows.value = shows.value === 'run' ? 'runs' : 'run'
  else if (event.key === 'Enter' && proposal.value && !onButton) balancing.acceptAll()
  else if (event.key === 'Escape') balancing.cancel()
  else return
  event.preventDefault()
})
</script>

<template>
  <section class="station levels">
    <div class="station-head">
      <h1>Levels</h1>
      <SceneSelect />
      <span class="what">{{ scene.patch!.note }}</span>
      <SelectButton
        v-model="shows"
        :options="views"
        option-label="name"
        option-value="id"
        :allow-empty="false"
        aria-label="What is drawn"
      />
      <label class="layer"><input v-model="ambience" type="checkbox" /> ambience</label>
      <SelectButton
        v-if="shows === 'run'"
        v-model="mode"
        :options="modes"
        option-label="name"
        option-value="id"
        :allow-empty="false"
        aria-label="Vertical scale"
      />
      <Select
        :model-value="plan.school"
        :options="schools"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Where peaks should lie"
        @update:model-value="
          scene.change([{ kind: 'change plan', to: { ...plan, school: $event } }], 'the school')
        "
      />
      <Select
        :model-value="plan.keeper"
        :options="keepers"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="The recording that counts"
        @update:model-value="
          scene.change([{ kind: 'change plan', to: { ...plan, keeper: $event } }], 'what counts')
        "
      />
      <Button v-if="running" label="Stop" severity="secondary" @click="balancing.cancel()" />
      <Button
        v-if="!running"
        severity="secondary"
        :disabled="!canListen"
        title="Hear ten seconds of this run"
        @click="listenOrNot()"
        >Listen<kbd class="key">L</kbd></Button
      >
      <Button v-if="!running" :disabled="!scene.levels" @click="balancing.ask()"
        >Balance<kbd class="key">B</kbd></Button
      >
    </div>

    <div v-if="!run" class="empty">
      <p>
        Nothing reaches a recording yet. Connect a microphone to a recorder or a camera, and the map is drawn
        here.
      </p>
      <Button
        label="Go to Patch"
        severity="secondary"
        @click="$router.push({ name: 'patch', params: $route.params })"
      />
    </div>
    <div v-else class="body" :style="{ '--columns': columns.length }">
      <RunsMap
        v-if="shows === 'runs'"
        :runs="recorded"
        :plan="plan"
        :odds="allOdds"
        :in-hand="run.id"
        :ambience
        @choose="scene.runId = $event"
      />
      <LevelMap
        v-else
        :ambience
        :run
        :columns
        :mode
        :in-hand
        :pins
        :place-words="noiseWords"
        :moment-words
        :spread-db="2 * spreadDb[run.source.kind]"
        @choose="inHand = $event"
      />
      <div v-if="shows === 'run'" class="row names">
        <button
          v-for="(column, index) in columns"
          :key="index"
          type="button"
          class="name"
          :class="{ hand: index === inHand }"
          :aria-pressed="index === inHand"
          @click="inHand = index"
        >
          <b>{{ column.name }}</b>
          <span>{{ column.partName }}</span>
        </button>
      </div>
      <div v-if="shows === 'run'" ref="controlRow" class="row controls">
        <div
          v-for="(set, index) in sets"
          :key="index"
          class="cell"
          :class="{ hand: index === inHand }"
          @focusin="inHand = index"
          @pointerenter="under = index"
          @pointerleave="under = undefined"
        >
          <p v-if="set.length === 0" class="nothing">
            {{ columns[index]!.domain === 'pressure' ? 'set in Brief' : 'no control' }}
          </p>
          <div v-for="each in set" :key="each.key" class="set">
            <ControlFace
              :control="each.control"
              :position="each.position"
              :ghost="balancing.ghostOf(each.key)"
              :locked="each.locked"
              :label="`${columns[index]!.partName}, ${each.control.name}`"
              @turn="turn(each, $event)"
            />
            <button
              v-if="ghosts.has(each.key)"
              type="button"
              class="ghost-words"
              :title="`Accept ${each.control.name} alone`"
              @click="balancing.accept([ghosts.get(each.key)!])"
            >
              {{ positionName(each.control, balancing.ghostOf(each.key)!) }}
              <template v-if="ghosts.get(each.key)!.aloneDb >= 0.05"
                >gives {{ db(ghosts.get(each.key)!.aloneDb) }} dB</template
              >
              <template v-else>goes with the rest</template>
            </button>
            <button
              v-else
              type="button"
              class="lock"
              :class="{ locked: each.locked }"
              :aria-pressed="each.locked"
              :aria-label="`Lock ${each.control.name}`"
              @click="lock(each)"
            >
              {{ each.locked ? 'locked' : 'lock' }}
            </button>
          </div>
        </div>
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
.empty {
  padding: 40px 18px;
  display: grid;
  gap: 14px;
  justify-items: start;
  align-content: start;
}
.body {
  min-height: 0;
  display: grid;
  grid-template-rows: minmax(176px, 1fr) auto auto auto;
  overflow-x: auto;
}
.layer {
  accent-color: var(--ink);
  display: flex;
  gap: 5px;
  align-items: center;
  font-size: 12.5px;
}
.row {
  display: grid;
  grid-template-columns: repeat(var(--columns), minmax(0, 1fr));
  padding: 0 18px 0 64px;
}
.name {
  border: 0;
  background: none;
  padding: 4px 2px 3px;
  display: grid;
  align-content: start;
  text-align: center;
  line-height: 1.15;
  cursor: pointer;
  border-top: 2px solid transparent;
}
.name b {
  font-size: 13px;
  font-stretch: 80%;
  font-weight: 600;
  overflow-wrap: anywhere;
}
.name span {
  font-size: 11.5px;
  font-stretch: 80%;
  color: var(--quiet);
}
.name.hand {
  border-top-color: var(--ink);
}
.name.hand b {
  font-weight: 750;
}
.controls {
  /* room for what Balance proposes, so that nothing moves when it does */
  min-height: 118px;
}
.cell {
  display: flex;
  flex-direction: column;
  align-items: center;
  gap: 2px;
  padding: 2px;
  min-width: 0;
}
.cell.hand {
  background: color-mix(in srgb, var(--ink) 5%, transparent);
}
.set {
  display: grid;
  justify-items: center;
  width: 100%;
}
.nothing {
  color: var(--quiet);
  font-size: 11.5px;
  font-stretch: 80%;
  padding-top: 26px;
  text-align: center;
}
.lock,
.ghost-words {
  border: 0;
  background: none;
  cursor: pointer;
  font-size: 11.5px;
  font-stretch: 80%;
  color: var(--quiet);
  padding: 1px 4px;
  min-height: 24px;
  text-align: center;
  line-height: 1.15;
}
.locked {
  color: var(--ink);
  font-weight: 650;
  text-decoration: underline;
}
.ghost-words {
  color: var(--verdigris);
  font-weight: 600;
}
.result {
  padding: 6px 18px 8px 64px;
  font-size: 12.5px;
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
  .station-head {
    flex-wrap: wrap;
  }
  .body > * {
    min-width: 900px;
  }
}
</style>
