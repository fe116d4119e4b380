<script setup lang="ts">
import { cureWords, reasonWords, worstRatioName } from '@iron-hush/core/words'
import { signed } from '@iron-hush/core/units'
import Button from 'primevue/button'
import { computed } from 'vue'
import { type Balance, type Cure, worstRatioDb } from '@iron-hush/core/balance'
import { useScene } from '../../state/scene'
import type { useBalancing } from './balancing'
import { useReturnFocus } from '../../parts/return-focus'

/** Balance's proposal and its reasons, with cures where that is not enough. */
const props = defineProps<{ balancing: ReturnType<typeof useBalancing> }>()
const scene = useScene()
const ratio = computed(() => worstRatioName(scene.patch?.brief.sources ?? []))
const { proposal, cures, tried, curing, acceptAll, cancel, cure, stopCuring, takeCure } = props.balancing
/** Text if nothing moves: "nothing is better" only if everything was tried. */
const unchanged = ({ fits, mayGainDb }: Balance) =>
  mayGainDb !== undefined
    ? `${fits ? '\u2713' : '\u25B2'} No better setting was found.`
    : fits
      ? '\u2713 Nothing to change.'
      : '\u25B2 No setting is better than this one.'
const shownCures = computed(() => cures.value?.slice(0, 4) ?? [])
const ratios = ({ clears, before, after }: Cure) =>
  clears ?? { beforeDb: worstRatioDb(before), afterDb: worstRatioDb(after) }
const cost = (price: number | undefined) =>
  price === undefined ? 'price not known' : price === 0 ? 'nothing to buy' : `to buy, about ${price}`
useReturnFocus()
</script>

<template>
  <div v-if="proposal" class="proposal" role="region" aria-label="Proposal of Balance">
    <div class="said">
      <p v-if="proposal.changes.length === 0">
        <b :class="proposal.fits ? 'settled' : 'iron'">{{ unchanged(proposal) }}</b>
        {{ proposal.reasons.map(reasonWords).join(' ') }}
      </p>
      <p v-else>
        <b :class="proposal.fits ? 'settled' : 'iron'"
          >{{ proposal.changes.length === 1 ? 'One control' : `${proposal.changes.length} controls` }} to
          move.</b
        >
        Worst recording that counts:
        <span class="figure"
          >{{ signed(worstRatioDb(proposal.before)) }} &rarr;
          {{ signed(worstRatioDb(proposal.after)) }} dB</span
        >
        {{ ratio }}; least headroom
        <span class="figure"
          >{{ signed(proposal.before.headroomDb) }} &rarr; {{ signed(proposal.after.headroomDb) }} dB</span
        >. {{ proposal.reasons.map(reasonWords).join(' ') }}
      </p>
      <Button v-if="proposal.changes.length" label="Accept all" size="small" @click="acceptAll()" />
      <Button
        v-if="!cures && !curing"
        :label="proposal.fits ? 'What would do better?' : 'What would cure it?'"
        severity="secondary"
        size="small"
        @click="cure()"
      />
      <Button v-if="curing" label="Stop" severity="secondary" size="small" @click="stopCuring()" />
      <Button label="Discard" severity="secondary" size="small" @click="cancel()" />
    </div>
    <p v-if="curing" role="status" class="quiet">
      Trying what the shelf has, each balanced again: {{ Math.round(tried * 100) }} %
    </p>
    <ul v-if="cures" aria-label="Cures">
      <li v-for="each in shownCures" :key="cureWords(each.change)">
        <button type="button" @click="takeCure(each)">
          <b>{{ cureWords(each.change) }}</b>
          <span class="quiet">{{ cost(each.price) }}</span>
          <span :class="each.fits ? 'settled' : 'iron'"
            >{{ each.fits ? '\u2713' : '\u25B2 nearer:' }} {{ ratio }} of
            {{ each.clears?.name ?? 'the worst' }}
            <span class="figure"
              >{{ signed(ratios(each).beforeDb) }} &rarr; {{ signed(ratios(each).afterDb) }} dB</span
            >, headroom <span class="figure">{{ signed(each.after.headroomDb) }} dB</span></span
          >
        </button>
      </li>
      <li v-if="!curing && shownCures.length === 0" class="quiet">
        Nothing on the shelf gains a decibel, and neither does relaxing any demand. Move closer, quieten the
        place, or use another source.
      </li>
    </ul>
  </div>
</template>

<style scoped>
.proposal {
  border-top: 1px solid var(--rule);
  padding-top: 6px;
  display: grid;
  gap: 4px;
}
.said {
  display: flex;
  align-items: center;
  gap: 8px;
}
.said p {
  flex: 1;
  line-height: 1.3;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  border: 1px solid var(--rule);
}
li button {
  width: 100%;
  display: flex;
  gap: 14px;
  text-align: left;
  border: 0;
  border-bottom: 1px solid var(--rule);
  background: var(--sheet);
  padding: 3px 8px;
  cursor: pointer;
}
li button b {
  flex: 1;
}
li button:hover {
  background: var(--paper);
}
li:not(:has(button)) {
  padding: 3px 8px;
}
.settled {
  color: var(--verdigris);
}
.iron {
  color: var(--iron);
}
</style>
