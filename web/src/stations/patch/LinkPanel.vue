<script setup lang="ts">
import Button from 'primevue/button'
import { computed, toRef } from 'vue'
import type { Link, Port } from '@iron-hush/core/model'
import { provenanceOf } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
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
const db = (value: number) => value.toFixed(1).replace('-', '\u2212')
const remove = (piece: string) => scene.change([{ kind: 'remove piece', piece }], 'taking out a piece')
const pull = () => {
  scene.change([{ kind: 'disconnect', link: props.link.id }], 'pulling a plug')
  emit('close')
}
</script>

<template>
  <aside class="panel" aria-label="The link in hand">
    <header>
      <h2>{{ from.name }} &rarr; {{ to.name }}</h2>
      <button type="button" @click="emit('close')">Close</button>
    </header>
    <div class="ends">
      <p>
        <b>{{ from.port.name }}</b> {{ from.port.connector }}{{ from.port.balanced ? ', balanced' : ''
        }}<br /><span class="quiet">{{ impedance(from.port) }}</span>
      </p>
      <p>
        <b>{{ to.port.name }}</b> {{ to.port.connector }}{{ to.port.balanced ? ', balanced' : '' }}<br /><span
          class="quiet"
          >{{ impedance(to.port) }}</span
        >
      </p>
    </div>
    <p v-if="arriving && from.port.connector !== 'radio'">
      Loses <span class="figure">{{ db(-arriving.lossDb) }} dB</span> on the way. At the input: typical
      <span class="figure">{{ db(arriving.typical) }}</span>, loudest peak
      <span class="figure">{{ db(arriving.peak) }}</span>, noise
      <span class="figure">{{ db(arriving.noise) }} dBu</span>.
    </p>
    <ul v-if="link.through.length" class="pieces">
      <li v-for="piece in link.through" :key="piece.id">
        {{ gear.shelf.get(piece.gear)?.name ?? piece.gear }}
        <button type="button" @click="remove(piece.id)">take out</button>
      </li>
    </ul>
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
    <Button label="Pull the plug" severity="secondary" size="small" @click="pull" />
  </aside>
</template>

<style scoped src="./panel.css"></style>
