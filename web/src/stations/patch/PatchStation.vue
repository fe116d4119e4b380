<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core'
import Button from 'primevue/button'
import { computed, nextTick, ref, useTemplateRef, watch } from 'vue'
import { deadControls, openSides } from '@iron-hush/core/advice'
import { channelsOf, monoLosses } from '@iron-hush/core/levels'
import { cautionsOf } from '@iron-hush/core/report'
import { positionName } from '@iron-hush/core/model'
import SceneSelect from '../../frame/SceneSelect.vue'
import { isTyping } from '../../frame/typing'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import AddPanel from './AddPanel.vue'
import EndPanel from './EndPanel.vue'
import BoxPanel from './BoxPanel.vue'
import { drawLinks } from './draw-links'
import { layoutOf, type PlacedBox } from './layout'
import LinkPanel from './LinkPanel.vue'
import { printPatchSheet } from '../../print/patch-sheet'

const scene = useScene()
const gear = useGear()
const sheet = useTemplateRef('sheet')
const hang = useTemplateRef('hang')
const { width } = useElementSize(sheet, { width: 1240, height: 560 })
const patch = computed(() => scene.patch!)
const layout = computed(() => layoutOf(patch.value, gear.shelf))
const chosen = ref<
  { kind: 'box' | 'link'; id: string } | { kind: 'end'; id: string; way: 'in' | 'out' } | { kind: 'add' }
>()
watch(
  () => scene.document?.id,
  () => (chosen.value = undefined),
)

const planWidth = 188
const boxWidth = 128
const rowHeight = 138
const firstRow = 34
const boxHeight = 88
const pitch = computed(() =>
  Math.max(boxWidth + 70, (width.value - planWidth - boxWidth - 60) / Math.max(1, layout.value.columns - 1)),
)
const leftOf = (column: number) => 20 + column * pitch.value
const rowY = (row: number) => firstRow + row * rowHeight + boxHeight / 2
const topOf = (box: PlacedBox) => firstRow + box.top * rowHeight
const heightOf = (box: PlacedBox) => (box.bottom - box.top) * rowHeight + boxHeight
const total = computed(() => ({
  width: Math.max(width.value, leftOf(layout.value.columns - 1) + boxWidth + planWidth + 40),
  height: firstRow + layout.value.rows * rowHeight + 20,
}))
const placedOf = (id: string) => layout.value.boxes.find(({ box }) => box.id === id)!

const nameOf = (id: string) => placedOf(id).box.name ?? placedOf(id).gear.name

const drawnLinks = computed(() =>
  drawLinks(patch.value, gear.shelf, {
    placedOf,
    rowY,
    leftOf: ({ column }) => leftOf(column),
    rightOf: ({ column }) => leftOf(column) + boxWidth,
    gapY: rowHeight / 2,
  }),
)
const strandOffset = (index: number, count: number) => (index - (count - 1) / 2) * 6

/** Settings worth a line under a box's name. */
function settingsOf({ box, gear: thing }: PlacedBox): string {
  return thing.controls
    .filter(({ kind }) => kind !== 'switch')
    .slice(0, 2)
    .map((control) => `${control.name} ${positionName(control, box.settings[control.id] ?? control.initial)}`)
    .join(', ')
}
const placeName = (id: string | undefined) => patch.value.brief.places.find((place) => place.id === id)?.name

/** What lands where: each recording beside its box, pushed down where two would lie on each other. */
const recorded = computed(() => (scene.levels ? channelsOf(scene.levels) : []))
const lost = computed(() => monoLosses(recorded.value))
const lostOn = (box: string) =>
  lost.value
    .filter((each) => each.box === box)
    .map(({ tracks, source }) => `${tracks.join(' + ')} to mono: ${source} is gone`)
const plan = computed(() => {
  const byBox = new Map<string, ReturnType<typeof channelsOf>>()
  for (const channel of recorded.value) byBox.set(channel.box, [...(byBox.get(channel.box) ?? []), channel])
  let free = 0
  return [...byBox]
    .map(([box, channels]) => ({ placed: placedOf(box), channels }))
    .sort((one, other) => topOf(one.placed) - topOf(other.placed) || other.placed.column - one.placed.column)
    .map(({ placed, channels }) => {
      const top = Math.max(topOf(placed), free)
      const warnings = lostOn(placed.box.id)
      free = top + 20 + channels.length * 28 + warnings.length * 32 + 8
      return { name: placed.box.name ?? placed.gear.name, channels, warnings, top }
    })
})
const channelTitle = ({ track, holds }: (typeof recorded.value)[number]) =>
  `${track}: ${holds.map(({ source, by, gainDb, sign }) => `${sign < 0 ? 'upside down ' : ''}${source} by ${by}, ${gainDb.toFixed(1)} dB`).join(' + ')}`
const silentBoxes = computed(
  () =>
    new Set(
      scene.findings
        .filter(({ severity }) => severity === 'harmful' || severity === 'dead')
        .map(({ part }) => part),
    ),
)
const faulty = computed(
  () =>
    new Set(
      scene.wiringFaults
        .filter(({ severity }) => severity === 'harmful' || severity === 'dead')
        .map(({ link }) => link),
    ),
)
const deadKnobs = computed(() => (scene.levels ? deadControls(patch.value, gear.shelf, scene.levels) : []))

/** Where anyone listens, and what is heard there. */
const ears = computed(() => {
  const heard = new Map<string, Set<string>>()
  for (const { end, source } of scene.levels?.runs ?? [])
    if (end.kind === 'listen') heard.set(end.box, (heard.get(end.box) ?? new Set()).add(source.name))
  return [...heard].map(([box, sources]) => {
    const from = patch.value.links.find(({ to }) => to.box === box)?.from.box
    return `${nameOf(box)}${from ? ` at ${nameOf(from)}` : ''}: ${[...sources].join(', ')}`
  })
})
const cautions = computed(() => cautionsOf(patch.value, gear.shelf, scene.wiring))
const printing = ref(false)
async function print(): Promise<void> {
  if (!scene.levels) return
  printing.value = true
  try {
    await printPatchSheet(patch.value, gear.shelf, scene.wiring, scene.levels)
  } finally {
    printing.value = false
  }
}

/** Where the panel hangs: under what it explains, inside the sheet. */
const panelAt = computed(() => {
  const now = chosen.value
  if (!now) return undefined
  const inside = (x: number) =>
    Math.min(Math.max(8, x), Math.max(8, total.value.width - planWidth - (now.kind === 'link' ? 800 : 420)))
  if (now.kind === 'link') {
    const drawn = drawnLinks.value.find(({ link }) => link.id === now.id)
    if (!drawn) return undefined
    const ends = [drawn.link.from.box, drawn.link.to.box].map(placedOf)
    return {
      left: inside(drawn.x - 390),
      top: Math.max(...ends.map((placed) => topOf(placed) + heightOf(placed))) + 8,
    }
  }
  if (now.kind === 'box' || now.kind === 'end') {
    const placed = layout.value.boxes.find(({ box }) => box.id === now.id)
    return placed && { left: inside(leftOf(placed.column)), top: topOf(placed) + heightOf(placed) + 8 }
  }
  return { left: inside(total.value.width), top: 8 }
})
const chosenLink = computed(() =>
  chosen.value?.kind === 'link'
    ? patch.value.links.find(({ id }) => chosen.value?.kind === 'link' && id === chosen.value.id)
    : undefined,
)
const chosenBox = computed(() =>
  chosen.value?.kind === 'box'
    ? patch.value.boxes.find(({ id }) => chosen.value?.kind === 'box' && id === chosen.value.id)
    : undefined,
)

/** The panel hangs below what it explains; if that is out of sight, it comes into it. */
watch(panelAt, () => void nextTick(() => hang.value?.scrollIntoView({ block: 'nearest' })))

useEventListener(window, 'keydown', (event) => {
  if (event.key === 'Escape' && !isTyping(event)) chosen.value = undefined
})
</script>

<template>
  <section class="station">
    <div class="station-head">
      <h1>Patch</h1>
      <SceneSelect />
      <span class="what">{{ patch.note }}</span>
      <span class="legend"
        ><i class="signal"></i>signal <i class="return"></i>return leg <i class="supply"></i>supply
        <i class="ground"></i>ground <i class="nothing"></i>nothing</span
      >
      <Button
        label="Patch sheet"
        severity="secondary"
        :loading="printing"
        :disabled="!scene.levels"
        title="One page, to be taped to the camera cage"
        @click="print"
      />
      <Button label="Add a box" severity="secondary" @click="chosen = { kind: 'add' }" />
    </div>
    <div ref="sheet" class="sheet">
      <div class="drawing" :style="{ width: `${total.width}px`, height: `${total.height}px` }">
        <svg :width="total.width" :height="total.height" aria-hidden="true">
          <line
            v-for="row in layout.rows"
            :key="row"
            x1="18"
            :x2="total.width - planWidth - 16"
            :y1="firstRow + (row - 1) * rowHeight - 16"
            :y2="firstRow + (row - 1) * rowHeight - 16"
            stroke="var(--rule)"
          />
          <g
            v-for="drawn in drawnLinks"
            :key="drawn.link.id"
            :class="{ hand: chosen?.kind === 'link' && chosen.id === drawn.link.id }"
          >
            <template v-if="drawn.strands[0] === 'radio'">
              <path
                v-for="wave in 5"
                :key="wave"
                class="strand signal"
                :d="`M${drawn.x - 24 + wave * 8} ${drawn.y - 14} q7 14 0 28`"
              />
            </template>
            <template v-for="(strand, index) in drawn.strands" v-else :key="index">
              <path class="hop" :d="drawn.path(strandOffset(index, drawn.strands.length))" />
              <path
                class="strand"
                :class="strand"
                :d="drawn.path(strandOffset(index, drawn.strands.length))"
              />
            </template>
          </g>
        </svg>
        <button
          v-for="placed in layout.boxes"
          :key="placed.box.id"
          type="button"
          class="box"
          :class="{
            hand: chosen?.kind === 'box' && chosen.id === placed.box.id,
            needs: silentBoxes.has(placed.box.id),
          }"
          :style="{
            left: `${leftOf(placed.column)}px`,
            top: `${topOf(placed)}px`,
            width: `${boxWidth}px`,
            height: `${heightOf(placed)}px`,
          }"
          @click="chosen = { kind: 'box', id: placed.box.id }"
        >
          <b>{{ placed.box.name ?? placed.gear.name }}</b>
          <span>{{ placed.gear.name }}</span>
          <span v-if="placeName(placed.box.place)">{{ placeName(placed.box.place) }}</span>
          <span class="set">{{ settingsOf(placed) }}</span>
          <span v-if="silentBoxes.has(placed.box.id)" class="flag">&#9650; needs you</span>
        </button>
        <template v-for="placed in layout.boxes" :key="`ends ${placed.box.id}`">
          <button
            v-for="side in openSides(patch, placed.box.id, placed.gear, gear.shelf)"
            :key="side"
            type="button"
            class="end"
            :class="{ hand: chosen?.kind === 'end' && chosen.id === placed.box.id && chosen.way === side }"
            :style="{
              left: `${leftOf(placed.column) + (side === 'out' ? boxWidth : 0)}px`,
              top: `${topOf(placed) + heightOf(placed) - 12}px`,
            }"
            :aria-label="`${side === 'out' ? 'Join something after' : 'Join something before'} ${placed.box.name ?? placed.gear.name}`"
            @click="chosen = { kind: 'end', id: placed.box.id, way: side }"
          >
            +
          </button>
        </template>
        <button
          v-for="drawn in drawnLinks"
          :key="drawn.link.id"
          type="button"
          class="chip"
          :class="{
            faulty: faulty.has(drawn.link.id),
            bare: !drawn.words,
            hand: chosen?.kind === 'link' && chosen.id === drawn.link.id,
          }"
          :style="{
            left: `${drawn.x}px`,
            top: `${drawn.strands[0] === 'radio' ? drawn.y + 34 : drawn.y}px`,
            maxWidth: `${pitch - boxWidth - 12}px`,
          }"
          :aria-label="`Link ${nameOf(drawn.link.from.box)} to ${nameOf(drawn.link.to.box)}`"
          @click="chosen = { kind: 'link', id: drawn.link.id }"
        >
          {{ drawn.strands[0] === 'radio' ? 'radio' : drawn.words || '+' }}
        </button>
        <div
          v-for="each in plan"
          :key="each.name"
          class="plan"
          :style="{ top: `${each.top}px`, width: `${planWidth - 12}px` }"
        >
          <h2>{{ each.name }}</h2>
          <p v-for="channel in each.channels" :key="channel.id" :title="channelTitle(channel)">
            <span>{{ channel.track }}</span>
            <template v-for="(held, at) in channel.holds" :key="held.source + held.by"
              >{{ held.sign < 0 ? ' \u2212 ' : at > 0 ? ' + ' : ' ' }}{{ held.source }}</template
            >
            {{ channel.holds.length ? '' : 'nothing' }}
          </p>
          <p v-for="warning in each.warnings" :key="warning" class="lost">&#9650; {{ warning }}</p>
        </div>
        <div
          v-if="panelAt"
          ref="hang"
          class="hang"
          :style="{ left: `${panelAt.left}px`, top: `${panelAt.top}px` }"
        >
          <LinkPanel v-if="chosenLink" :link="chosenLink" @close="chosen = undefined" />
          <BoxPanel v-else-if="chosenBox" :box="chosenBox" @close="chosen = undefined" />
          <EndPanel
            v-else-if="chosen?.kind === 'end'"
            :box="chosen.id"
            :way="chosen.way"
            @close="chosen = undefined"
            @added="chosen = { kind: 'box', id: $event }"
          />
          <AddPanel
            v-else-if="chosen?.kind === 'add'"
            @close="chosen = undefined"
            @added="chosen = { kind: 'box', id: $event }"
          />
        </div>
      </div>
      <footer class="foot">
        <p v-if="ears.length"><b>Listening</b> {{ ears.join('; ') }}.</p>
        <p v-if="deadKnobs.length"><b>Reaches nothing here</b> {{ deadKnobs.join('; ') }}.</p>
        <p v-for="caution in cautions" :key="caution.about" class="caution">{{ caution.text }}</p>
      </footer>
    </div>
  </section>
</template>

<style scoped>
.sheet {
  position: relative;
  overflow: auto;
  min-height: 0;
  padding-bottom: 12px;
}
.drawing {
  position: relative;
}
svg {
  position: absolute;
  inset: 0;
}
.strand {
  fill: none;
  stroke-width: 2.2;
  stroke: var(--ink);
}
.hop {
  fill: none;
  stroke: var(--paper);
  stroke-width: 5.5;
}
.signal {
  stroke: var(--brass);
}
.return {
  stroke: var(--brass);
  stroke-dasharray: 5 3;
}
.supply {
  stroke: var(--verdigris);
}
.nothing {
  stroke: var(--rule);
  stroke-dasharray: 2 4;
}
.hand .strand {
  stroke-width: 3.2;
}
.legend {
  display: flex;
  align-items: center;
  gap: 5px;
  font-size: 11.5px;
  font-stretch: 80%;
  color: var(--quiet);
  white-space: nowrap;
}
.legend i {
  width: 16px;
  border-top: 2.5px solid var(--ink);
  margin-left: 5px;
}
.legend .signal {
  border-color: var(--brass);
}
.legend .supply {
  border-color: var(--verdigris);
}
.legend .nothing {
  border-color: var(--rule);
  border-top-style: dotted;
}
.legend .return {
  border-color: var(--brass);
  border-top-style: dashed;
}
.box {
  position: absolute;
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 2px;
  padding: 8px 10px;
  display: flex;
  flex-direction: column;
  align-items: flex-start;
  text-align: left;
  line-height: 1.2;
  cursor: pointer;
  overflow: hidden;
}
.box b {
  font-size: 14.5px;
  font-stretch: 82%;
}
.box span {
  font-size: 11.5px;
  font-stretch: 82%;
  color: var(--quiet);
}
.box .set {
  margin-top: auto;
  /* clear of the + at the corners */
  padding: 0 8px;
  color: var(--ink);
}
.box .flag {
  color: var(--iron);
  font-weight: 650;
}
.box.hand {
  outline: 2px solid var(--brass);
}
.box.needs {
  border-color: var(--iron);
  border-width: 2px;
}
.chip {
  position: absolute;
  transform: translate(-50%, -50%);
  background: var(--sheet);
  border: 1px solid var(--ink);
  border-radius: 2px;
  font-size: 11.5px;
  font-stretch: 80%;
  font-weight: 600;
  padding: 3px 6px;
  min-width: 24px;
  min-height: 24px;
  line-height: 1.15;
  cursor: pointer;
}
.chip.bare {
  border-color: var(--rule);
  color: var(--quiet);
}
.chip.faulty {
  background: #a33b1e;
  border-color: #a33b1e;
  color: #fff;
}
.chip.hand {
  background: var(--ink);
  color: var(--sheet);
}
.plan {
  position: absolute;
  right: 4px;
}
.plan h2 {
  font-size: 12px;
  font-stretch: 85%;
  color: var(--quiet);
  font-weight: 500;
  margin: 0;
  height: 18px;
}
.plan p {
  border: 1px solid var(--verdigris);
  margin-bottom: 4px;
  padding: 1px 7px;
  font-size: 12px;
  font-stretch: 85%;
  font-weight: 600;
  height: 24px;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.plan span {
  color: var(--quiet);
  margin-right: 6px;
  font-weight: 400;
}
.plan .lost {
  border-color: var(--iron);
  color: var(--iron);
  height: auto;
  white-space: normal;
  line-height: 1.15;
  padding: 3px 7px;
}
.end {
  position: absolute;
  transform: translate(-50%, -50%);
  width: 20px;
  height: 20px;
  padding: 0;
  border: 1px solid var(--rule);
  border-radius: 2px;
  background: var(--paper);
  color: var(--quiet);
  line-height: 1;
  cursor: pointer;
}
.end:hover,
.end.hand {
  border-color: var(--ink);
  color: var(--ink);
}
.foot {
  padding: 4px 20px 10px;
  display: grid;
  gap: 3px;
  font-size: 12px;
  max-width: 900px;
}
.foot b {
  font-weight: 600;
  font-stretch: 85%;
  margin-right: 6px;
}
.caution {
  color: var(--quiet);
}
.hang {
  position: absolute;
  z-index: 4;
}
</style>
