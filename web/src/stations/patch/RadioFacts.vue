<script setup lang="ts">
import { signed } from '@iron-hush/core/units'
import { computed, ref } from 'vue'
import { bodyLossDb, clashesOf, marginDb, type RadioLink, radioLinksOf } from '@iron-hush/core/radio'
import { positionName, positionsOf, controlKey } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import NumberField from '../../parts/NumberField.vue'

/** A transmitter and a receiver as one link: match, delay, range, and the other sets beside them. */
const props = defineProps<{ link: RadioLink | undefined }>()
const scene = useScene()
const gear = useGear()
const distanceM = ref(15)
const picturesPerS = 25
const frames = computed(() => (((props.link?.delayMs ?? 0) * picturesPerS) / 1000).toFixed(1))
const margins = computed(() =>
  [false, true].map((body) => (props.link ? marginDb(props.link, distanceM.value, body) : undefined)),
)
const clashes = computed(() => {
  const mine = props.link
  if (!mine || !scene.patch) return []
  const products = clashesOf(radioLinksOf(scene.patch, gear.shelf))
  return products.filter(({ hits, from }) => hits === mine.sender.name || from.includes(mine.sender.name))
})
/** The level steps that the boxes at both ends have. */
const steps = computed(() => {
  const ends = props.link ? [props.link.sender, props.link.receiver] : []
  return ends.flatMap(({ box: id, name }) => {
    const box = scene.patch?.boxes.find((each) => each.id === id)
    const thing = box && gear.shelf.get(box.gear)
    return (thing?.controls ?? [])
      .filter((control) => (scene.levels?.reach[controlKey(id, control.id)] ?? []).length > 0)
      .map((control) => {
        const all = positionsOf(control).map((position) => positionName(control, position))
        const position = positionName(control, box!.settings[control.id] ?? control.initial)
        const range = all.length > 6 ? `${all[0]} to ${all.at(-1)}` : all.join(', ')
        return `${name}, ${control.name}: ${position} (of ${range})`
      })
  })
})
const db = (value: number | undefined) => (value === undefined ? 'not known' : `${signed(value, 0)} dB`)
const mhz = (value: number) => `${value.toFixed(1)} MHz`
</script>

<template>
  <section v-if="link" class="wiring" aria-label="On the air">
    <p class="brings" :class="link.matched ? 'none' : 'dead'">
      <template v-if="link.matched"
        >&#10003; Both on <span class="figure">{{ mhz(link.sender.carrierMhz) }}</span
        >{{ link.sender.radio.hops ? ', hopping' : '' }}.</template
      >
      <template v-else
        >&#9650; {{ link.sender.name }} is on {{ mhz(link.sender.carrierMhz) }}, {{ link.receiver.name }} on
        {{ mhz(link.receiver.carrierMhz) }}: nothing arrives. Set both to the same channel.</template
      >
    </p>
    <p>
      <span class="figure">{{ link.delayMs }} ms</span> behind the picture,
      <span class="figure">{{ frames }}</span> frames at 25 a second.
      <template v-if="link.dynamicRangeDb"
        >Dynamic range <span class="figure">{{ link.dynamicRangeDb }} dB</span>.</template
      >
    </p>
    <p>
      Up to <span class="figure">{{ link.linkS }} s</span> from power-on until sound passes: switch on early,
      leave it on.
      {{ link.recordsInside.length ? `Records inside: ${link.recordsInside.join(', ')}.` : '' }}
    </p>
    <p v-for="step in steps" :key="step">{{ step }}</p>
    <p class="margin">
      At
      <NumberField
        v-model="distanceM"
        boxed
        :min="1"
        :max="500"
        unit="m"
        label="Distance between transmitter and receiver"
      />
      <span
        >margin: <span class="figure">{{ db(margins[0]) }}</span> in the open,
        <span class="figure">{{ db(margins[1]) }}</span> through a body
        <span class="quiet"
          >(an estimate: free space, {{ bodyLossDb(link.sender.carrierMhz).toFixed(0) }} dB for the body;
          walls and reflections take more)</span
        ></span
      >
    </p>
    <p v-for="clash in clashes" :key="clash.mhz + clash.hits" class="brings harmful">
      &#9650;
      {{
        clash.from.length === 1
          ? `${clash.hits} and ${clash.from[0]} are on one carrier.`
          : `${clash.from.join(' and ')} together make ${mhz(clash.mhz)}, ${clash.offKhz.toFixed(0)} kHz from ${clash.hits}.`
      }}
      Move one set to another channel.
    </p>
    <p v-if="clashes.length === 0 && !link.sender.radio.hops" class="brings none">
      &#10003; No third-order product of the sets in this scene falls on another.
    </p>
    <p class="quiet">Frequencies, power and licences are the local regulator&rsquo;s.</p>
  </section>
  <p v-else class="quiet">One side has no radio data.</p>
</template>

<style scoped src="./panel.css"></style>
<style scoped>
.margin {
  display: flex;
  gap: 6px;
  align-items: baseline;
}
.margin :deep(input) {
  width: 74px;
}
</style>
