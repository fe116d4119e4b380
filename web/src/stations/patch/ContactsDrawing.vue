<script setup lang="ts">
import { withMinus } from '@iron-hush/core/units'
import { computed } from 'vue'
import type { ContactState, LinkContacts } from '@iron-hush/core/circuit'

/** The plugs of a link, contact by contact, with what travels on each. */
const props = defineProps<{ link: LinkContacts; width: number; alone?: boolean }>()

const rowHeight = 27
const top = 34
const side = computed(() => (props.alone ? 84 : 172))
const halves = computed(() => props.link.halves)
/** Output, pieces, input: the two halves of a piece stand close together. */
const xs = computed(() => {
  const gaps = props.link.strands.map((_, index) => (index % 2 === 0 ? 1 : 1.6))
  const whole = gaps.reduce((sum, gap) => sum + gap, 0) || 1
  const room = props.width - 2 * side.value
  let x = side.value
  return halves.value.map((_, index) => {
    if (index > 0) x += (gaps[index - 1]! / whole) * room
    return x
  })
})
const most = computed(() => Math.max(...halves.value.map(({ contacts }) => contacts.length)))
const height = computed(() => top + most.value * rowHeight + 6)
const y = (index: number) => top + index * rowHeight + 8
/** A piece as a frame around its two halves. */
const frames = computed(() =>
  (props.alone ? [] : halves.value).flatMap((half, index) => {
    if (index % 2 === 0 || index + 1 >= halves.value.length) return []
    return [
      { name: half.name, x: xs.value[index]! - 14, width: xs.value[index + 1]! - xs.value[index]! + 28 },
    ]
  }),
)
const strands = computed(() =>
  props.link.strands.flatMap((list, index) =>
    list.map((strand) => ({
      key: `${index} ${strand.from} ${strand.to}`,
      x1: xs.value[index]!,
      y1: y(strand.from),
      x2: xs.value[index + 1]!,
      y2: y(strand.to),
      part: strand.through === 'part',
      travels: halves.value[index]!.contacts[strand.from]!.travels,
    })),
  ),
)
function reading(contact: ContactState): string {
  if (props.alone) return ''
  const volts = Math.abs(contact.volts) > 0.02 ? `${contact.volts.toFixed(2)} V` : ''
  const milliamperes =
    contact.amperes !== undefined && Math.abs(contact.amperes) > 5e-6
      ? `${(contact.amperes * 1000).toFixed(2)} mA`
      : ''
  const loudest = contact.signals.reduce<number | undefined>(
    (yet, { db }) => Math.max(yet ?? -Infinity, db),
    undefined,
  )
  const sound = loudest === undefined ? '' : `${loudest.toFixed(1)} dB`
  return withMinus([sound, volts, milliamperes].filter(Boolean).join(' ')) || words[contact.travels]
}
const words: Record<ContactState['travels'], string> = {
  signal: 'sound',
  return: 'sound, reversed',
  supply: 'supply',
  ground: 'ground',
  nothing: 'nothing',
}
const said = computed(() =>
  halves.value
    .map(
      ({ name, contacts }) =>
        `${name}: ${contacts.map((contact) => `${contact.contact} ${words[contact.travels]}`).join(', ')}`,
    )
    .join('. '),
)
</script>

<template>
  <svg :width="width" :height="height" role="img" :aria-label="said">
    <g v-for="frame in frames" :key="frame.x">
      <rect class="frame" :x="frame.x" :y="top - 10" :width="frame.width" :height="most * rowHeight + 12" />
      <text class="name" :x="frame.x + frame.width / 2" :y="top - 16" text-anchor="middle">
        {{ frame.name }}
      </text>
    </g>
    <line
      v-for="strand in strands"
      :key="strand.key"
      class="strand"
      :class="[strand.travels, { part: strand.part }]"
      :x1="strand.x1"
      :y1="strand.y1"
      :x2="strand.x2"
      :y2="strand.y2"
    />
    <g v-for="(half, index) in halves" :key="index">
      <template v-for="(contact, at) in half.contacts" :key="contact.contact">
        <circle
          v-if="half.gender === 'socket'"
          class="dot"
          :class="contact.travels"
          :cx="xs[index]"
          :cy="y(at)"
          r="5"
        />
        <rect
          v-else
          class="dot"
          :class="contact.travels"
          :x="xs[index]! - 4.5"
          :y="y(at) - 4.5"
          width="9"
          height="9"
        />
        <text
          v-if="index === 0 || index === halves.length - 1"
          class="contact"
          :x="xs[index]! + (index === 0 ? -10 : 10)"
          :y="y(at) + (alone ? 4 : -2)"
          :text-anchor="index === 0 ? 'end' : 'start'"
        >
          {{ contact.contact }}
        </text>
        <text
          v-if="index === 0 || index === halves.length - 1"
          class="reading"
          :x="xs[index]! + (index === 0 ? -10 : 10)"
          :y="y(at) + 12"
          :text-anchor="index === 0 ? 'end' : 'start'"
        >
          {{ reading(contact) }}
        </text>
      </template>
    </g>
    <text class="name" x="2" :y="top - 16">{{ halves[0]!.name }}</text>
    <text class="name" :x="width - 2" :y="top - 16" text-anchor="end">{{ halves.at(-1)!.name }}</text>
  </svg>
</template>

<style scoped>
.frame {
  fill: none;
  stroke: var(--rule);
}
.name {
  font-size: var(--small);
  font-stretch: 80%;
  fill: var(--quiet);
}
.contact {
  font-size: var(--small);
  font-stretch: 85%;
  font-weight: 600;
  fill: var(--ink);
}
.reading {
  font-family: var(--figures);
  font-size: var(--small);
  font-stretch: 75%;
  letter-spacing: -0.06em;
  fill: var(--quiet);
}
.strand {
  stroke-width: 2.2;
  stroke: var(--ink);
}
.strand.part {
  stroke-dasharray: 1.5 3;
}
.strand.signal,
.strand.return {
  stroke: var(--brass);
}
.strand.return {
  stroke-dasharray: 6 3;
}
.strand.supply {
  stroke: var(--verdigris);
}
.strand.nothing {
  stroke: var(--rule);
}
.dot {
  stroke: var(--ink);
  fill: var(--sheet);
}
.dot.signal {
  fill: var(--brass);
}
.dot.return {
  fill: var(--sheet);
  stroke: var(--brass);
  stroke-width: 2.4;
}
.dot.supply {
  fill: var(--verdigris);
}
.dot.ground {
  fill: var(--ink);
}
.dot.nothing {
  stroke: var(--rule);
}
</style>
