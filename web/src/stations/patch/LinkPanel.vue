<script setup lang="ts">
import Button from 'primevue/button'
import { computed, onUnmounted, ref, shallowRef, toRef, watch } from 'vue'
import type { Way } from '@iron-hush/core/circuit'
import type { Edit, Link, Port } from '@iron-hush/core/model'
import { provenanceOf } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { partId } from '../../state/new-id'
import { idsOf } from '../../state/scene'
import { type Job, startFindWays } from '../../workers/compute'
import { useOffers } from './offers'

/** What a link joins, what it costs, what lies in it, and what could. */
const props = defineProps<{ link: Link }>()
const emit = defineEmits<{ close: [] }>()
const scene = useScene()
const gear = useGear()
const link = toRef(props, 'link')
const patch = computed(() => scene.patch!)
const shelf = computed(() => gear.shelf)
const offers = useOffers(patch, shelf, link)

const end = (at: Link['from']) => {
  const box = patch.value.boxes.find(({ id }) => id === at.box)!
  const thing = gear.shelf.get(box.gear) ?? patch.value.gear.find(({ id }) => id === box.gear)!
  return { name: box.name ?? thing.name, port: thing.ports.find(({ id }) => id === at.port)! }
}
const from = computed(() => end(props.link.from))
const to = computed(() => end(props.link.to))
function impedance({ impedanceOhm }: Port): string {
  if (impedanceOhm === undefined) return 'no impedance to count'
  if (impedanceOhm === 'unknown') return 'impedance not known'
  const ohm = typeof impedanceOhm === 'number' ? impedanceOhm : impedanceOhm.value
  return `${ohm.toLocaleString('en')} ohm, ${provenanceOf(impedanceOhm).from}`
}
/** Gain of the whole link and what arrives, from the run that goes through it. */
const arriving = computed(() => {
  for (const run of scene.runs) {
    const points = run.points.filter(({ node }) => node.startsWith(`${props.link.id}.`))
    const first = points[0] && run.points[run.points.indexOf(points[0]) - 1]
    const last = points.at(-1)
    if (first && last)
      return {
        lossDb: last.gainFromSourceDb - first.gainFromSourceDb,
        typical: last.rmsDb.typical,
        peak: last.peakDb.loudest,
        noise: last.noiseDb,
      }
  }
  return undefined
})
const wired = computed(() => scene.wiring.find((each) => each.link === props.link.id)?.report)
const contacts = computed(() => wired.value?.variants.flatMap(({ touching }) => touching) ?? [])
const facts = computed(() => wired.value?.variants[0]?.facts)
const db = (value: number) => value.toFixed(1).replace('-', '\u2212')
const remove = (piece: string) => scene.change([{ kind: 'remove piece', piece }], 'taking out a piece')
/** Ways from one end to the other over the shelf; looked for in a worker, and given up when the link changes. */
const ways = shallowRef<Way[]>()
const looking = ref(false)
let job: Job<Way[]> | undefined
function stopLooking(): void {
  job?.cancel()
  job = undefined
  looking.value = false
}
async function findWay(): Promise<void> {
  stopLooking()
  looking.value = true
  const mine = startFindWays(patch.value, props.link, gear.all)
  job = mine
  ways.value = await mine.result
  if (job === mine) looking.value = false
}
watch(link, () => {
  stopLooking()
  ways.value = undefined
})
onUnmounted(stopLooking)
function take(way: Way): void {
  const used = idsOf(patch.value)
  const out = props.link.through.map((piece): Edit => ({ kind: 'remove piece', piece: piece.id }))
  const put = way.pieces.map((thing, at): Edit => {
    const id = partId(thing.id, used)
    used.push(id)
    return {
      kind: 'insert piece',
      link: props.link.id,
      at,
      piece: { id, gear: thing.id, settings: {}, locked: [] },
    }
  })
  scene.change([...out, ...put], 'taking a way')
}
const wayName = (way: Way) => way.pieces.map(({ name }) => name).join(' + ') || 'straight in, nothing between'

const pull = () => {
  scene.change([{ kind: 'disconnect', link: props.link.id }], 'pulling a plug')
  emit('close')
}
</script>

<template>
  <aside class="panel wide" aria-label="The link in hand">
    <header>
      <h2>{{ from.name }} &rarr; {{ to.name }}</h2>
      <button type="button" @click="emit('close')">Close</button>
    </header>
    <div class="columns">
      <div class="column">
        <div class="ends">
          <p>
            <b>{{ from.port.name }}</b> {{ from.port.connector }}{{ from.port.balanced ? ', balanced' : ''
            }}<br /><span class="quiet">{{ impedance(from.port) }}</span>
          </p>
          <p>
            <b>{{ to.port.name }}</b> {{ to.port.connector }}{{ to.port.balanced ? ', balanced' : ''
            }}<br /><span class="quiet">{{ impedance(to.port) }}</span>
          </p>
        </div>
        <p v-if="arriving && from.port.connector !== 'radio'">
          Loses <span class="figure">{{ db(-arriving.lossDb) }} dB</span> on the way. At the input: typical
          <span class="figure">{{ db(arriving.typical) }}</span>, loudest peak
          <span class="figure">{{ db(arriving.peak) }}</span>, noise
          <span class="figure">{{ db(arriving.noise) }} dBu</span>.
        </p>
        <section v-if="wired" class="wiring" aria-label="What touches what">
          <h3>What touches what</h3>
          <p v-for="each in contacts" :key="each" class="quiet">{{ each }}</p>
          <p v-if="facts">
            <template v-for="reach in facts.reaches" :key="reach.signal + reach.channel">
              <span v-if="reach.db > -60" class="fact"
                >{{ reach.signal }} on {{ reach.channel === 'one' ? to.port.name : reach.channel }}
                <b class="figure">{{ db(reach.db) }} dB</b>{{ reach.sign < 0 ? ', upside down' : '' }}</span
              >
            </template>
            <span v-for="supply in facts.supplies" :key="supply.contact" class="fact"
              >{{ supply.name }} on {{ supply.contact }}
              <b class="figure"
                >{{ supply.volts.toFixed(2) }} V, {{ (supply.amperes * 1000).toFixed(2) }} mA</b
              ></span
            >
          </p>
          <p v-for="finding in wired.findings" :key="finding.what" class="brings" :class="finding.severity">
            {{ finding.severity === 'note' ? '\u25CB' : '\u25B2' }} {{ finding.what }} {{ finding.why }}
            {{ finding.remedy }}
          </p>
        </section>
        <ul v-if="link.through.length" class="pieces">
          <li v-for="piece in link.through" :key="piece.id">
            {{ gear.shelf.get(piece.gear)?.name ?? piece.gear }}
            <button type="button" @click="remove(piece.id)">take out</button>
          </li>
        </ul>
        <Button label="Pull the plug" severity="secondary" size="small" @click="pull" />
      </div>
      <div class="column">
        <template v-if="wired">
          <Button
            :label="looking ? 'Stop looking' : 'Find a way'"
            size="small"
            @click="looking ? stopLooking() : findWay()"
          />
          <ul v-if="ways" class="offers" aria-label="Ways">
            <li v-for="way in ways.slice(0, 8)" :key="wayName(way)">
              <button type="button" @click="take(way)">
                <b>{{ wayName(way) }}</b>
                <span class="brings none"
                  >&#10003; loses {{ db(Math.max(0, way.lossDb)) }} dB{{
                    way.missing ? `; to buy: ${way.missing}, about ${way.price}` : '; all yours'
                  }}</span
                >
              </button>
            </li>
            <li v-if="ways.length === 0" class="quiet">
              No row of up to four pieces from the shelf does it. Look for another output or input.
            </li>
          </ul>
        </template>
        <template v-if="from.port.connector !== 'radio' && from.port.connector !== 'fixed'">
          <h3>Put in</h3>
          <ul class="offers">
            <li v-for="offer in offers" :key="offer.gear.id">
              <button type="button" @click="scene.change(offer.edits, `putting in ${offer.gear.name}`)">
                <b>{{ offer.gear.name }}</b>
                <span class="quiet">{{ offer.gear.owned ? 'yours' : 'not owned' }}</span>
                <span class="brings" :class="offer.severity"
                  >{{ offer.severity === 'none' ? '\u2713 ' : '\u25B2 ' }}{{ offer.brings }}</span
                >
              </button>
            </li>
            <li v-if="offers.length === 0" class="quiet">Nothing on the shelf has plugs for both sides.</li>
          </ul>
        </template>
      </div>
    </div>
  </aside>
</template>

<style scoped src="./panel.css"></style>
