<script setup lang="ts">
import type { Run } from '@iron-hush/core/levels'
import { signed } from '@iron-hush/core/units'
import { chanceWords, peakWords, ratioName } from '@iron-hush/core/words'
import HissStrip from './HissStrip.vue'

/** The figures of every run under its column; one is chosen by a click. */
defineProps<{
  drawn: {
    run: Run
    stops: { partName: string } | undefined
    headroomDb: number | undefined
    /** Where its headroom is least. */
    narrowest: string | undefined
    /** Which stage makes the most of its hiss, and how much. */
    noisiest: string | undefined
    /** Chance of clipping, once it is known. */
    clipping: number | undefined
  }[]
  selected: string
}>()
const emit = defineEmits<{ choose: [id: string] }>()
</script>

<template>
  <div class="facts" :style="{ '--columns': drawn.length }">
    <button
      v-for="each in drawn"
      :key="each.run.id"
      type="button"
      :class="{ hand: each.run.id === selected }"
      :aria-pressed="each.run.id === selected"
      @click="emit('choose', each.run.id)"
    >
      <b>{{ each.run.entry.name }} &rarr; {{ each.run.end.boxName }}, {{ each.run.end.name }}</b>
      <span class="quiet">{{ each.run.source.name }}</span>
      <template v-if="each.stops">
        <span class="iron">&#9650; stops at {{ each.stops.partName }}</span>
      </template>
      <template v-else>
        <span>peaks <span class="figure">{{ peakWords(each.run) }}</span></span>
        <span
          ><span class="figure">{{ signed(each.run.speechToNoiseDb) }}</span> dB
          {{ ratioName(each.run.source) }}</span
        >
        <span v-if="each.headroomDb !== undefined" :class="{ iron: each.headroomDb < 0 }"
          ><span class="figure">{{ signed(each.headroomDb) }}</span> dB to {{ each.narrowest }}</span
        >
        <HissStrip class="strip" :run="each.run" :worded="false" />
        <span v-if="each.noisiest && drawn.length <= 10" class="slate">{{ each.noisiest }}</span>
        <span v-if="each.clipping !== undefined" :class="each.clipping > 0.02 ? 'iron' : 'settled'"
          >clips in {{ chanceWords(each.clipping) }}</span
        >
      </template>
    </button>
  </div>
</template>

<style scoped>
.facts {
  display: grid;
  grid-template-columns: repeat(var(--columns), minmax(0, 1fr));
  padding: 0 18px 8px 64px;
}
.facts button {
  border: 0;
  border-top: 2px solid transparent;
  background: none;
  padding: 4px 3px;
  display: grid;
  align-content: start;
  gap: 2px;
  text-align: center;
  font-size: var(--small);
  font-stretch: 84%;
  line-height: 1.15;
  cursor: pointer;
  overflow-wrap: anywhere;
}
.facts .hand {
  border-top-color: var(--ink);
  background: var(--sheet);
}
.strip {
  height: 9px;
  margin: 2px 14px;
}
.facts .figure {
  font-size: var(--small);
}
.iron {
  color: var(--iron);
}
.slate {
  color: var(--slate-deep);
}
.settled {
  color: var(--verdigris);
}
</style>
