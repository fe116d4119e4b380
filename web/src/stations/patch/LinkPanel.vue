<script setup lang="ts">
import { signed } from '@iron-hush/core/units'
import Button from 'primevue/button'
import { computed, onUnmounted, ref, shallowRef, watch } from 'vue'
import { offersForLink, outcomeOf, standingOf, takeWay } from '@iron-hush/core/advice'
import { toBuyFor } from '@iron-hush/core/edits'
import {
  contactStates,
  pluggedLink,
  ranked,
  variantsOf,
  type Way,
  withoutDetours,
} from '@iron-hush/core/circuit'
import { type Link, shelfFor, endOf } from '@iron-hush/core/model'
import { radioLinksOf } from '@iron-hush/core/radio'
import { circuitWords, ownedWords, toBuyPriced } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { type Job, startFindWays } from '../../workers/compute'
import TermedText from '../../parts/TermedText.vue'
import ContactsDrawing from './ContactsDrawing.vue'
import RadioFacts from './RadioFacts.vue'
import OutcomeLine from '../../parts/OutcomeLine.vue'
import { useReturnFocus } from '../../parts/return-focus'

/** A link contact by contact, its losses, its pieces, and alternatives. */
const props = defineProps<{ link: Link }>()
const emit = defineEmits<{ close: [] }>()
const scene = useScene()
const gear = useGear()
const patch = computed(() => scene.openPatch)
const shelf = computed(() => shelfFor(patch.value, gear.shelf))
const offers = computed(() => offersForLink(patch.value, props.link, gear.shelf))

const end = (at: Link['from']) => {
  const { boxName: name, port } = endOf(patch.value, shelf.value, at)
  return { name, port }
}
const from = computed(() => end(props.link.from))
const to = computed(() => end(props.link.to))
const radio = computed(() => from.value.port.connector === 'radio')
const plugged = computed(() => !radio.value && from.value.port.connector !== 'fixed')
/** Gain of the whole link and what arrives, from the run that goes through it. */
const arriving = computed(() => {
  for (const run of scene.runs) {
    const points = run.points.filter(({ node }) => node.startsWith(`${props.link.id}.`))
    const first = points[0] && run.points[run.points.indexOf(points[0]) - 1]
    const last = points.at(-1)
    if (first && last)
      return {
        lossDb: first.domain === last.domain ? last.gainFromSourceDb - first.gainFromSourceDb : undefined,
        typical: last.rmsDb.typical,
        peak: last.peakDb.loudest,
        noise: last.noiseDb,
        unit: last.domain === 'digital' ? 'dBFS' : 'dBu',
      }
  }
  return undefined
})
const silent = computed(() => arriving.value !== undefined && arriving.value.typical < -150)
const wired = computed(() => scene.wiring.find((each) => each.link === props.link.id)?.report)
const contacts = computed(() => {
  const link = pluggedLink(patch.value, props.link, gear.shelf)
  const found = link && variantsOf(link)
  return !found || 'misfit' in found ? undefined : contactStates(link, found.variants[0]!)
})
const air = computed(() => radioLinksOf(patch.value, gear.shelf).find((each) => each.link === props.link.id))
const name = (id: string) => shelf.value.get(id)?.name ?? id
const remove = (piece: string) => scene.change([{ kind: 'remove piece', piece }], 'taking out a piece')
const turnRound = (piece: Link['pieces'][number], at: number) =>
  scene.change(
    [
      { kind: 'remove piece', piece: piece.id },
      { kind: 'insert piece', link: props.link.id, at, piece: { ...piece, reversed: !piece.reversed } },
    ],
    'turning a piece round',
  )

/** Ways from one end to the other over the shelf; looked for in a worker, and given up when the link changes. */
const ways = shallowRef<Way[]>()
const looking = ref(false)
let job: Job<Way[]> | undefined
function stopLooking(): void {
  job?.cancel()
  job = undefined
  looking.value = false
}
function findWay(otherSockets: boolean): void {
  stopLooking()
  looking.value = true
  ways.value = []
  // it may be stopped before the shelf is there
  gear.whole(() => looking.value && !job && void lookForWays(otherSockets))
}
async function lookForWays(otherSockets: boolean): Promise<void> {
  const mine = startFindWays(patch.value, props.link, gear.all, { otherPorts: otherSockets }, (way) => {
    if (job === mine) ways.value = ranked([...(ways.value ?? []), way])
  })
  job = mine
  const all = await mine.result
  if (job !== mine) return
  // late answers from the worker no longer count
  job = undefined
  ways.value = all
  looking.value = false
}
watch(
  () => props.link,
  () => {
    stopLooking()
    ways.value = undefined
  },
)
onUnmounted(stopLooking)
const take = (way: Way) => scene.change(takeWay(patch.value, props.link, way), 'taking a way')
/** The best ways, each with what it would bring to the whole patch. */
const shownWays = computed(() => {
  if (!ways.value) return undefined
  const before = standingOf(patch.value, gear.shelf)
  return withoutDetours(ways.value)
    .slice(0, 8)
    .map((way) => {
      const edits = takeWay(patch.value, props.link, way)
      const toBuy = toBuyPriced(toBuyFor(patch.value, edits, gear.shelf))
      return { way, toBuy, outcome: outcomeOf(patch.value, edits, gear.shelf, before) }
    })
})
const wayName = (way: Way) =>
  way.pieces.map(({ gear: piece, reversed }) => `${piece.name}${reversed ? ', reversed' : ''}`).join(' + ') ||
  'straight in, nothing between'
function bySockets(way: Way): string {
  const port = (at: Link['from']) => endOf(patch.value, shelf.value, at).port.name
  return way.from.port === props.link.from.port && way.to.port === props.link.to.port
    ? ''
    : `${port(way.from)} to ${port(way.to)}: `
}

const pull = () => {
  scene.change([{ kind: 'disconnect', link: props.link.id }], 'pulling a plug')
  emit('close')
}
useReturnFocus()
</script>

<template>
  <aside class="panel" :class="{ wide: plugged }" aria-label="Selected link">
    <header>
      <h2>{{ from.name }} &rarr; {{ to.name }}</h2>
      <button type="button" @click="emit('close')">Close</button>
    </header>
    <ContactsDrawing v-if="contacts" :link="contacts" :width="752" />
    <div :class="{ columns: plugged }">
      <div class="column">
        <RadioFacts v-if="radio" :link="air" />
        <p v-else-if="arriving && !silent">
          <template v-if="arriving.lossDb !== undefined"
            >Loses <span class="figure">{{ signed(-arriving.lossDb) }} dB</span> on the way. </template
          >At the input: typical <span class="figure">{{ signed(arriving.typical) }}</span>, loudest peak
          <span class="figure">{{ signed(arriving.peak) }}</span>, noise
          <span class="figure">{{ signed(arriving.noise) }} {{ arriving.unit }}</span>.
        </p>
        <p v-else-if="silent">Nothing arrives.</p>
        <section v-if="wired" class="wiring" aria-label="Contacts">
          <p v-for="(finding, at) in wired.findings" :key="at" class="brings" :class="finding.severity">
            {{ finding.severity === 'note' ? '\u25CB' : '\u25B2' }}
            <TermedText :text="Object.values(circuitWords(finding)).join(' ')" />
          </p>
          <p v-if="wired.findings.length === 0" class="brings none">
            &#10003; Every contact does what it should.
          </p>
        </section>
        <ul v-if="link.pieces.length" class="pieces">
          <li v-for="(piece, at) in link.pieces" :key="piece.id">
            <span>{{ name(piece.gear) }}{{ piece.reversed ? ', reversed' : '' }}</span>
            <span
              ><button
                v-if="!shelf.get(piece.gear)?.passive?.more"
                type="button"
                @click="turnRound(piece, at)"
              >
                reverse
              </button>
              <button type="button" @click="remove(piece.id)">remove</button></span
            >
          </li>
        </ul>
        <Button label="Disconnect" severity="secondary" size="small" @click="pull" />
      </div>
      <div v-if="plugged" class="column">
        <div class="buttons">
          <Button
            :label="looking ? 'Stop looking' : 'Find a way'"
            size="small"
            @click="looking ? stopLooking() : findWay(false)"
          />
          <Button
            label="By other sockets"
            severity="secondary"
            size="small"
            :disabled="looking"
            @click="findWay(true)"
          />
        </div>
        <ul v-if="shownWays" class="offers" aria-label="Ways">
          <li v-for="{ way, toBuy, outcome } in shownWays" :key="bySockets(way) + wayName(way)">
            <button type="button" @click="take(way)">
              <b>{{ bySockets(way) }}{{ wayName(way) }}</b>{{ ' '
              }}<span class="quiet"
                >loses {{ signed(Math.max(0, way.lossDb)) }} dB{{
                  toBuy ? `; to buy: ${toBuy}` : '; all yours'
                }}</span
              >
              <OutcomeLine :outcome />
            </button>
          </li>
          <li v-if="shownWays.length === 0" class="quiet">
            {{
              looking
                ? 'Looking\u2026'
                : 'No chain of up to four cables and adapters from the shelf does it. Try other sockets or another box.'
            }}
          </li>
        </ul>
        <h3>Put in</h3>
        <ul class="offers">
          <li v-for="offer in offers" :key="offer.gear.id">
            <button type="button" @click="scene.change(offer.edits, `putting in ${offer.gear.name}`)">
              <b>{{ offer.gear.name }}</b>{{ ' '
              }}<span class="quiet"
                >{{ ownedWords(offer.gear, patch)
                }}{{ offer.instead ? `, instead of ${offer.instead}` : '' }}</span
              >
              <OutcomeLine :outcome="offer.outcome" />
            </button>
          </li>
          <li v-if="offers.length === 0" class="quiet">Nothing on the shelf has plugs for both sides.</li>
        </ul>
      </div>
    </div>
  </aside>
</template>

<style scoped src="./panel.css"></style>
