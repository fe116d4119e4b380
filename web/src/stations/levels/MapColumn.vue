<script setup lang="ts">
/** Geometry of one column of a level map, px: a ceiling, a floor, and a second floor for pauses. */
defineProps<{
  x: number
  width: number
  top: number
  bottom: number
  ceiling: number | undefined
  floor: number
  /** How much of the floor, from its top, is the column's own. */
  own?: number
  pause: number | undefined
  /** The largest peak of all that sounds there, where that is more than the source's own. */
  whole?: number
}>()
</script>

<template>
  <template v-if="ceiling !== undefined">
    <rect :x :width :y="top" :height="Math.max(0, ceiling - top)" fill="url(#hatch-ceiling)" />
    <line :x1="x" :x2="x + width" :y1="ceiling" :y2="ceiling" stroke="var(--iron)" stroke-width="2.2" />
  </template>
  <rect :x :width :y="floor" :height="Math.max(0, bottom - floor)" fill="url(#hatch-floor)" />
  <rect v-if="(own ?? 0) > 1" :x :width :y="floor" :height="own" fill="url(#hatch-own)" />
  <line
    v-if="floor < bottom"
    :x1="x"
    :x2="x + width"
    :y1="floor"
    :y2="floor"
    stroke="var(--slate)"
    stroke-width="2"
  />
  <line
    v-if="pause !== undefined"
    :x1="x"
    :x2="x + width"
    :y1="pause"
    :y2="pause"
    stroke="var(--slate)"
    stroke-width="2"
    stroke-dasharray="5 3"
  />
  <line
    v-if="whole !== undefined"
    class="whole"
    :x1="x"
    :x2="x + width"
    :y1="whole"
    :y2="whole"
    stroke="var(--ink)"
    stroke-width="1.6"
    stroke-dasharray="2 2"
  />
</template>
