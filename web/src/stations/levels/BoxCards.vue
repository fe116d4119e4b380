<script setup lang="ts">
import { computed } from 'vue'
import type { Column, Run } from '@iron-hush/core/levels'
import { positionCount, positionName, positionsOf, type KeyedControl, turned } from '@iron-hush/core/model'
import { signed } from '@iron-hush/core/units'
import ControlFace from '../../controls/ControlFace.vue'
import type { useBalancing } from './balancing'
import { useLockControl, useTurnControl } from './turn-control'

/** For a small screen: a card for each box with controls, each control as wide as the screen. */
const props = defineProps<{
  run: Run
  columns: readonly Column[]
  sets: readonly (readonly KeyedControl[])[]
  selected: number
  balancing: ReturnType<typeof useBalancing>
}>()
const emit = defineEmits<{ choose: [index: number] }>()
const turn = useTurnControl()

const cards = computed(() =>
  props.columns.flatMap((column, index) => {
    const controls = props.sets[index] ?? []
    return controls.length || index === props.selected
      ? [{ column, index, controls, says: saysOf(column) }]
      : []
  }),
)
/** What a box does to this run that is worth a line. */
function saysOf({ points, ceiling }: Column): string {
  const { run } = props
  const nodes = new Set(points.map((point) => run.points[point]?.node))
  const share = run.shares.filter(({ node }) => nodes.has(node)).reduce((sum, each) => sum + each.share, 0)
  return [
    share > 0.1 ? `${Math.round(share * 100)} % of the hiss` : '',
    ceiling && ceiling.headroomDb < 30 ? `headroom ${signed(ceiling.headroomDb)} dB` : '',
  ]
    .filter(Boolean)
    .join(', ')
}
const stepOf = ({ control, position }: KeyedControl) => positionsOf(control).indexOf(position)
const step = (each: KeyedControl, by: number) => turn(each, turned(each.control, each.position, by))
function slide(each: KeyedControl, event: Event): void {
  const at = Number((event.target as HTMLInputElement).value)
  const to = positionsOf(each.control)[at]
  if (to !== undefined) turn(each, to)
}
const lock = useLockControl()
</script>

<template>
  <div class="cards">
    <section
      v-for="{ column, index, controls, says } in cards"
      :key="index"
      class="card"
      :class="{ hand: index === selected }"
      @focusin="emit('choose', index)"
      @pointerdown="emit('choose', index)"
    >
      <header>
        <h2>
          <span class="figure number">{{ index + 1 }}</span> {{ column.partName
          }}{{ column.name ? `, ${column.name}` : '' }}
        </h2>
        <span class="quiet">{{ says }}</span>
      </header>
      <div v-for="each in controls" :key="each.key" class="control">
        <span>{{ each.control.name }}</span>
        <span class="figure now"
          >{{ positionName(each.control, each.position) }}
          <button
            v-if="balancing.ghosts.value.has(each.key)"
            type="button"
            class="ghost"
            @click="balancing.accept([balancing.ghosts.value.get(each.key)!])"
          >
            {{ positionName(each.control, balancing.ghostOf(each.key)!) }}
          </button></span
        >
        <div v-if="each.control.kind === 'switch'" class="set">
          <ControlFace
            :control="each.control"
            :position="each.position"
            :ghost="balancing.ghostOf(each.key)"
            :locked="each.locked"
            :label="`${column.partName}, ${each.control.name}`"
            @turn="turn(each, $event)"
          />
        </div>
        <div v-else class="set slide">
          <button
            type="button"
            :disabled="each.locked"
            :aria-label="`${each.control.name} down`"
            @click="step(each, -1)"
          >
            &minus;
          </button>
          <input
            type="range"
            min="0"
            :max="positionCount(each.control) - 1"
            :value="stepOf(each)"
            :disabled="each.locked"
            :aria-label="`${column.partName}, ${each.control.name}`"
            :aria-valuetext="positionName(each.control, each.position)"
            @input="slide(each, $event)"
          />
          <button
            type="button"
            :disabled="each.locked"
            :aria-label="`${each.control.name} up`"
            @click="step(each, 1)"
          >
            +
          </button>
        </div>
        <button
          type="button"
          class="lock"
          :aria-pressed="each.locked"
          :aria-label="`Lock ${each.control.name}`"
          @click="lock(each)"
        >
          {{ each.locked ? 'locked' : 'lock' }}
        </button>
      </div>
    </section>
  </div>
</template>

<style scoped>
.card {
  border-top: 1px solid var(--rule);
  padding: 10px 16px 12px;
}
.card.hand {
  background: var(--sheet);
  border-top-color: var(--ink);
}
header {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  gap: 8px;
}
h2 {
  font-size: var(--lead);
}
.number {
  color: var(--quiet);
}
.control {
  display: grid;
  grid-template-columns: 1fr auto 60px;
  align-items: center;
  gap: 2px 8px;
  margin-top: 6px;
}
.now {
  text-align: right;
}
.ghost {
  border: 0;
  background: none;
  min-height: 44px;
  color: var(--verdigris);
  font-weight: 650;
}
.set {
  grid-column: 1 / 3;
  grid-row: 2;
}
.lock {
  grid-column: 3;
  grid-row: 2;
}
.slide {
  display: grid;
  grid-template-columns: 48px 1fr 48px;
  gap: 10px;
  align-items: center;
}
.slide button,
.lock {
  min-height: 44px;
  border: 1px solid var(--ink);
  border-radius: 2px;
  background: var(--sheet);
  font-size: var(--lead);
}
.lock {
  border-color: var(--rule);
  font-size: var(--small);
  color: var(--quiet);
}
.lock[aria-pressed='true'] {
  background: var(--ink);
  color: var(--sheet);
}
input[type='range'] {
  width: 100%;
  min-height: 44px;
  appearance: none;
  background: repeating-linear-gradient(90deg, var(--quiet) 0 1px, transparent 1px 9px) left 60% / 100% 10px
    no-repeat;
  touch-action: pan-y;
}
input[type='range']::-webkit-slider-thumb {
  appearance: none;
  width: 12px;
  height: 32px;
  background: var(--ink);
}
input[type='range']::-moz-range-thumb {
  width: 12px;
  height: 32px;
  border: 0;
  border-radius: 0;
  background: var(--ink);
}
input[type='range']:disabled {
  opacity: 0.4;
}
.set :deep(.switch) {
  justify-content: flex-start;
  padding: 2px 0;
}
.set :deep(.switch button) {
  min-height: 44px;
  min-width: 44px;
  padding: 4px 12px;
}
</style>
