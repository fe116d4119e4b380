<script setup lang="ts">
import { computed } from 'vue'
import { openSides } from '@iron-hush/core/advice'
import type { Patch } from '@iron-hush/core/model'
import { circuitWords } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import type { Chosen } from './chosen'
import type { DrawnLink } from './draw-links'
import type { Layout } from './layout'

/** For a small screen: each box, and under it the links that begin there, with what is wrong with them. */
const props = defineProps<{
  patch: Patch
  layout: Layout
  links: readonly DrawnLink[]
  inNeed: ReadonlySet<string | undefined>
  chosen: Chosen | undefined
}>()
const emit = defineEmits<{ choose: [what: Chosen] }>()
const scene = useScene()
const gear = useGear()

const nameOf = (id: string) => {
  const placed = props.layout.boxes.find(({ box }) => box.id === id)
  return placed?.box.name ?? placed?.gear.name ?? id
}
const rows = computed(() =>
  [...props.layout.boxes]
    .sort((one, other) => one.column - other.column || one.top - other.top)
    .map((placed) => ({
      ...placed,
      place: props.patch.brief.places.find(({ id }) => id === placed.box.place)?.name,
      links: props.links.filter(({ link }) => link.from.box === placed.box.id),
      sides: openSides(props.patch, placed.box.id, placed.gear, gear.shelf),
    })),
)
/** The worst that is found in a link. */
const found = (link: string) => {
  const [worst] = scene.wiringFaults.filter(
    ({ subject, severity }) => subject.link === link && severity !== 'note',
  )
  return worst && { severity: worst.severity, ...circuitWords(worst) }
}
const isChosen = (kind: 'box' | 'link', id: string) => props.chosen?.kind === kind && props.chosen.id === id
</script>

<template>
  <ol aria-label="The chain">
    <li v-for="{ box, gear: thing, place, links: outgoing, sides } in rows" :key="box.id">
      <button
        type="button"
        class="box"
        :class="{ hand: isChosen('box', box.id), needs: inNeed.has(box.id) }"
        @click="emit('choose', { kind: 'box', id: box.id })"
      >
        <b>{{ box.name ?? thing.name }}</b>
        <span class="quiet">{{ [box.name ? thing.name : '', place].filter(Boolean).join(', ') }}</span>
        <span v-if="inNeed.has(box.id)" class="flag">&#9650; needs you</span>
      </button>
      <slot v-if="isChosen('box', box.id)" />
      <template v-for="drawn in outgoing" :key="drawn.link.id">
        <button
          type="button"
          class="link"
          :class="{ hand: isChosen('link', drawn.link.id) }"
          :aria-label="`Link ${nameOf(drawn.link.from.box)} to ${nameOf(drawn.link.to.box)}`"
          @click="emit('choose', { kind: 'link', id: drawn.link.id })"
        >
          <span
            >&rarr; {{ nameOf(drawn.link.to.box) }}
            <span class="quiet">{{
              drawn.strands[0] === 'radio' ? 'by radio' : drawn.words ? `by ${drawn.words}` : 'straight in'
            }}</span></span
          >
          <span v-if="found(drawn.link.id)" class="brings" :class="found(drawn.link.id)!.severity">{{
            found(drawn.link.id)!.what
          }}</span>
        </button>
        <slot v-if="isChosen('link', drawn.link.id)" />
      </template>
      <template v-for="side in sides" :key="side">
        <button
          type="button"
          class="link quiet"
          @click="emit('choose', { kind: 'end', id: box.id, direction: side })"
        >
          + Connect something {{ side === 'out' ? 'after' : 'before' }} {{ box.name ?? thing.name }}
        </button>
        <slot v-if="chosen?.kind === 'end' && chosen.id === box.id && chosen.direction === side" />
      </template>
    </li>
  </ol>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0 16px 12px;
}
li {
  border-top: 1px solid var(--rule);
  padding: 6px 0;
}
button {
  width: 100%;
  border: 0;
  background: none;
  text-align: left;
  padding: 6px 8px;
  cursor: pointer;
  overflow-wrap: anywhere;
}
.box {
  display: grid;
  gap: 2px;
  border: 1px solid var(--ink);
  border-radius: 2px;
  background: var(--sheet);
}
.box.needs {
  border: 2px solid var(--iron);
}
.flag {
  color: var(--iron);
  font-weight: 650;
}
.link {
  display: grid;
  align-content: center;
  padding-left: 20px;
}
.hand {
  background: var(--brass-wash);
}
</style>
