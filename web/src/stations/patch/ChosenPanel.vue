<script setup lang="ts">
import type { Box, Link } from '@iron-hush/core/model'
import AddPanel from './AddPanel.vue'
import BoxPanel from './BoxPanel.vue'
import type { Chosen } from './chosen'
import EndPanel from './EndPanel.vue'
import LinkPanel from './LinkPanel.vue'

/** The panel of what is chosen: a link, a box, an open end, or a box that is to be added. */
defineProps<{ link?: Link; box?: Box }>()
const chosen = defineModel<Chosen>()
</script>

<template>
  <LinkPanel v-if="link" :link @close="chosen = undefined" />
  <BoxPanel v-else-if="box" :box @close="chosen = undefined" />
  <EndPanel
    v-else-if="chosen?.kind === 'end'"
    :box="chosen.id"
    :direction="chosen.direction"
    @close="chosen = undefined"
    @added="chosen = { kind: 'box', id: $event }"
  />
  <AddPanel
    v-else-if="chosen?.kind === 'add'"
    @close="chosen = undefined"
    @added="chosen = { kind: 'box', id: $event }"
  />
</template>
