<script setup lang="ts">
import { computed } from 'vue'
import { channelsOf, type Levels, monoLosses } from '@iron-hush/core/levels'
import type { PlacedBox } from './layout'

/** The channel plan: each recording beside its box, moved down where two would overlap. */
const props = defineProps<{
  levels: Levels | undefined
  width: number
  placedOf: (box: string) => PlacedBox
  topOf: (box: PlacedBox) => number
}>()
const recorded = computed(() => (props.levels ? channelsOf(props.levels) : []))
type Channel = ReturnType<typeof channelsOf>[number]

const lost = computed(() => monoLosses(recorded.value))
const lostOn = (box: string) =>
  lost.value
    .filter((each) => each.box === box)
    .map(({ tracks, source }) => `${tracks.join(' + ')} to mono: ${source} is gone`)
/** Characters of a line in the plan: there is room for some 28, and words are not broken. */
const lettersOfLine = 22
const linePx = 14
const meant = ({ holds }: Channel) => holds.filter(({ spillDb }) => spillDb === undefined)
/** What only spills in, each with how far it is below what the channel is meant for. */
const spill = ({ holds }: Channel) =>
  holds.flatMap(({ source, spillDb }) =>
    spillDb === undefined ? [] : `spill: ${source}, \u2212${spillDb.toFixed(0)} dB`,
  )
const named = ({ source, behindDb }: Channel['holds'][number]) =>
  behindDb === undefined ? source : `${source} (${behindDb.toFixed(0)} dB softer)`
const linesOf = (channel: Channel) => {
  const all = [channel.track, ...meant(channel).map(named)].join(' + ')
  return [all, ...spill(channel)].reduce((sum, text) => sum + Math.ceil(text.length / lettersOfLine), 0)
}
const plan = computed(() => {
  const byBox = new Map<string, Channel[]>()
  for (const channel of recorded.value) byBox.set(channel.box, [...(byBox.get(channel.box) ?? []), channel])
  let free = 0
  return [...byBox]
    .map(([box, channels]) => ({ placed: props.placedOf(box), channels }))
    .sort(
      (one, other) =>
        props.topOf(one.placed) - props.topOf(other.placed) || other.placed.column - one.placed.column,
    )
    .map(({ placed, channels }) => {
      const top = Math.max(props.topOf(placed), free)
      const warnings = lostOn(placed.box.id)
      const channelsPx = channels.reduce((sum, each) => sum + 28 + (linesOf(each) - 1) * linePx, 0)
      free = top + 20 + channelsPx + warnings.length * 32 + 8
      return { name: placed.box.name ?? placed.gear.name, channels, warnings, top }
    })
})
const channelTitle = ({ track, holds }: Channel) =>
  `${track}: ${holds.map(({ source, by, gainDb, sign }) => `${sign < 0 ? 'inverted ' : ''}${source} by ${by}, ${gainDb.toFixed(1)} dB`).join(' + ')}`
</script>

<template>
  <div
    v-for="each in plan"
    :key="each.name"
    class="plan"
    :style="{ top: `${each.top}px`, width: `${width}px` }"
  >
    <h2 :title="each.name">{{ each.name }}</h2>
    <p v-for="channel in each.channels" :key="channel.id" :title="channelTitle(channel)">
      <span>{{ channel.track }}</span>
      <template v-for="(held, at) in meant(channel)" :key="held.source + held.by"
        >{{ held.sign < 0 ? ' \u2212 ' : at > 0 ? ' + ' : ' ' }}{{ named(held) }}</template
      >
      {{ channel.holds.length ? '' : 'nothing' }}
      <span v-for="words in spill(channel)" :key="words" class="spill">{{ words }}</span>
    </p>
    <p v-for="warning in each.warnings" :key="warning" class="lost">&#9650; {{ warning }}</p>
  </div>
</template>

<style scoped>
.plan {
  position: absolute;
  right: 18px;
}
.plan h2 {
  font-size: var(--small);
  font-stretch: 85%;
  color: var(--quiet);
  font-weight: 500;
  margin: 0;
  height: 18px;
  overflow: hidden;
  white-space: nowrap;
  text-overflow: ellipsis;
}
.plan p {
  border: 1px solid var(--verdigris);
  margin-bottom: 4px;
  font-size: var(--small);
  font-stretch: 85%;
  font-weight: 600;
  line-height: 14px;
  padding: 4px 7px;
  overflow-wrap: anywhere;
}
.plan span {
  color: var(--quiet);
  margin-right: 6px;
  font-weight: 400;
}
.plan .spill {
  display: block;
  margin-right: 0;
}
.plan .lost {
  border-color: var(--iron);
  color: var(--iron);
  height: auto;
  white-space: normal;
  line-height: 1.15;
  padding: 3px 7px;
}
</style>
