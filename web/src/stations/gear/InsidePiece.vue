<script setup lang="ts">
import { computed } from 'vue'
import { pieceOfGear, pieceStrands } from '@iron-hush/core/circuit'
import { connectorNames, type Gear } from '@iron-hush/core/model'
import ContactsDrawing from '../patch/ContactsDrawing.vue'

/** What a cable, a pad or an adapter is made of: its parts counted, and its contacts drawn. */
const { thing } = defineProps<{ thing: Gear }>()
const drawings = computed(() => {
  const piece = pieceOfGear(thing.id, thing, {})
  return piece ? pieceStrands(piece) : []
})
const partCount = computed(() => {
  const kinds = (thing.passive?.parts ?? []).map(({ kind }) => kind)
  return [...new Set(kinds)].map((kind) => {
    const count = kinds.filter((each) => each === kind).length
    const plural = kind === 'supply' ? 'supplies' : `${kind}s`
    return `${count} ${count > 1 ? plural : kind}`
  })
})
</script>

<template>
  <p v-if="thing.passive">
    {{ connectorNames[thing.passive.from] }} to {{ connectorNames[thing.passive.to]
    }}{{ partCount.length ? `; ${partCount.join(', ')}` : '' }}
  </p>
  <div class="drawings">
    <ContactsDrawing v-for="(each, index) in drawings" :key="index" :link="each" :width="380" alone />
  </div>
</template>

<style scoped>
.drawings {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
}
@media (max-width: 700px) {
  .drawings {
    overflow: auto;
  }
}
</style>
