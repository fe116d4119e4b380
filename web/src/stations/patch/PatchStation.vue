<script setup lang="ts">
import { useElementSize, useMediaQuery } from '@vueuse/core'
import Button from 'primevue/button'
import { computed, nextTick, reactive, ref, useTemplateRef, watch } from 'vue'
import { openSides, takeOutBox } from '@iron-hush/core/advice'
import SceneSelect from '../../frame/SceneSelect.vue'
import { useShortcuts } from '../../frame/shortcuts'
import { sheets } from '../../print'
import { printedNow } from '../../print/printed'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import AfterPaint from '../../parts/AfterPaint.vue'
import BoxCard from './BoxCard.vue'
import ChannelPlan from './ChannelPlan.vue'
import { useChosen } from './chosen'
import ChosenPanel from './ChosenPanel.vue'
import { drawLinks } from './draw-links'
import { planWidth, useGeometry } from './geometry'
import { layoutOf, placedIn, strandsOf } from './layout'
import LinkChip from './LinkChip.vue'
import LinkList from './LinkList.vue'
import LinkStrands from './LinkStrands.vue'
import PatchFoot from './PatchFoot.vue'
import PatchLegend from './PatchLegend.vue'

const scene = useScene()
const gear = useGear()
const sheet = useTemplateRef('sheet')
const hang = useTemplateRef('hang')
const narrow = useMediaQuery('(max-width: 900px)')
const { width } = useElementSize(sheet, { width: 1240, height: 560 })
const patch = computed(() => scene.openPatch)
const layout = computed(() => layoutOf(patch.value, gear.shelf))
/** Height that each box takes for what it says, px. */
const needed = reactive(new Map<string, number>())
const geometry = useGeometry(layout, width, ({ box }) => needed.get(box.id))
const { pitch, boxWidth, leftOf, rightOf, rowY, gapY, topOf, heightOf, total } = geometry
const placedOf = (id: string) => placedIn(layout.value, id)
const nameOf = (id: string) => placedOf(id).box.name ?? placedOf(id).gear.name
const placeName = (id: string | undefined) => patch.value.brief.places.find((place) => place.id === id)?.name
/** Signals in each link, solved once, independent of the layout. */
const strands = computed(
  () => new Map(patch.value.links.map((link) => [link.id, strandsOf(link, patch.value, gear.shelf)])),
)
const drawnLinks = computed(() =>
  drawLinks(patch.value, gear.shelf, strands.value, { placedOf, rowY, leftOf, rightOf, gapY }),
)

const { chosen, isChosen, chosenLink, chosenBox, panelAt } = useChosen({
  patch,
  layout,
  drawnLinks,
  geometry,
})

const grave = ({ severity }: { severity: string }) => severity === 'harmful' || severity === 'dead'
const boxesInNeed = computed(() => new Set(scene.findings.filter(grave).map(({ subject }) => subject.part)))
const faultyLinks = computed(
  () => new Set(scene.wiringFaults.filter(grave).map(({ subject }) => subject.link)),
)

const printing = ref(false)
async function print(): Promise<void> {
  if (!scene.levels) return
  printing.value = true
  try {
    const { printPatchSheet } = await sheets.patchSheet()
    await printPatchSheet(patch.value, gear.shelf, scene.wiring, scene.levels, printedNow())
  } finally {
    printing.value = false
  }
}

/** The panel hangs below what it explains; if that is out of sight, it comes into it. */
watch(panelAt, () => void nextTick(() => hang.value?.scrollIntoView({ block: 'nearest' })))

/** Takes out the box or the link that is chosen. */
function remove(): unknown {
  const box = chosenBox.value
  const link = chosenLink.value
  if (box) scene.change(takeOutBox(patch.value, box.id), `taking out ${nameOf(box.id)}`)
  else if (link) scene.change([{ kind: 'disconnect', link: link.id }], 'disconnecting')
  else return false
  return (chosen.value = undefined)
}

useShortcuts({
  close: () => (chosen.value ? (chosen.value = undefined) : false),
  remove,
})
</script>

<template>
  <section class="station">
    <div class="station-head">
      <h1>Patch</h1>
      <SceneSelect />
      <span class="what" :title="patch.note">{{ patch.note }}</span>
      <PatchLegend />
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
      <template v-if="narrow">
        <ChosenPanel v-if="chosen?.kind === 'add'" v-model="chosen" />
        <LinkList :patch :layout :links="drawnLinks" :in-need="boxesInNeed" :chosen @choose="chosen = $event">
          <ChosenPanel v-model="chosen" :link="chosenLink" :box="chosenBox" />
        </LinkList>
      </template>
      <div v-else class="drawing" :style="{ width: `${total.width}px`, height: `${total.height}px` }">
        <svg :width="total.width" :height="total.height" aria-hidden="true">
          <line
            v-for="row in layout.rows"
            :key="row"
            x1="18"
            :x2="total.width - planWidth - 16"
            :y1="gapY(row - 1)"
            :y2="gapY(row - 1)"
            stroke="var(--rule)"
          />
          <AfterPaint :frames="2">
            <LinkStrands
              v-for="drawn in drawnLinks"
              :key="drawn.link.id"
              :drawn
              :chosen="isChosen('link', drawn.link.id)"
            />
          </AfterPaint>
        </svg>
        <AfterPaint>
          <BoxCard
            v-for="placed in layout.boxes"
            :key="placed.box.id"
            :placed
            :place="placeName(placed.box.place)"
            :needs-you="boxesInNeed.has(placed.box.id)"
            :chosen="isChosen('box', placed.box.id)"
            :style="{
              left: `${leftOf(placed)}px`,
              top: `${topOf(placed)}px`,
              width: `${boxWidth}px`,
              height: `${heightOf(placed)}px`,
            }"
            @click="chosen = { kind: 'box', id: placed.box.id }"
            @needs="needed.set(placed.box.id, $event)"
          />
        </AfterPaint>
        <template v-for="placed in layout.boxes" :key="`ends ${placed.box.id}`">
          <button
            v-for="side in openSides(patch, placed.box.id, placed.gear, gear.shelf)"
            :key="side"
            type="button"
            class="end"
            :class="{
              hand: chosen?.kind === 'end' && chosen.id === placed.box.id && chosen.direction === side,
            }"
            :style="{
              left: `${side === 'out' ? rightOf(placed) + 10 : leftOf(placed) - 10}px`,
              top: `${topOf(placed) + heightOf(placed) - 12}px`,
            }"
            :aria-label="`${side === 'out' ? 'Connect something after' : 'Connect something before'} ${placed.box.name ?? placed.gear.name}`"
            @click="chosen = { kind: 'end', id: placed.box.id, direction: side }"
          >
            +
          </button>
        </template>
        <AfterPaint :frames="2">
          <LinkChip
            v-for="drawn in drawnLinks"
            :key="drawn.link.id"
            :drawn
            :faulty="faultyLinks.has(drawn.link.id)"
            :chosen="isChosen('link', drawn.link.id)"
            :style="{ maxWidth: `${pitch - boxWidth - 12}px` }"
            :aria-label="`Link ${nameOf(drawn.link.from.box)} to ${nameOf(drawn.link.to.box)}`"
            @click="chosen = { kind: 'link', id: drawn.link.id }"
          />
        </AfterPaint>
        <AfterPaint :frames="3">
          <ChannelPlan :levels="scene.levels" :width="planWidth - 26" :placed-of="placedOf" :top-of="topOf" />
        </AfterPaint>
        <div
          v-if="panelAt"
          ref="hang"
          class="hang"
          :style="{ left: `${panelAt.left}px`, top: `${panelAt.top}px` }"
        >
          <ChosenPanel v-model="chosen" :link="chosenLink" :box="chosenBox" />
        </div>
      </div>
      <AfterPaint :frames="4">
        <PatchFoot />
      </AfterPaint>
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
  /* over the label of a lead that is as wide as the gap */
  z-index: 3;
}
.end:hover,
.end.hand {
  border-color: var(--ink);
  color: var(--ink);
}
.hang {
  position: absolute;
  z-index: 4;
}
</style>
