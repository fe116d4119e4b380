<script setup lang="ts">
/** Legend of the drawing's strands. */
</script>

<template>
  <span class="legend"
    ><i class="signal"></i>signal <i class="return"></i>return leg <i class="supply"></i>supply
    <i class="ground"></i>ground <i class="nothing"></i>nothing</span
  >
</template>

<style scoped>
.legend {
  display: flex;
  align-items: center;
  gap: 5px;
  font-size: var(--small);
  font-stretch: 80%;
  color: var(--quiet);
  white-space: nowrap;
}
.legend i {
  width: 16px;
  border-top: 2.5px solid var(--ink);
  margin-left: 5px;
}
.legend .signal {
  border-color: var(--brass);
}
.legend .supply {
  border-color: var(--verdigris);
}
.legend .nothing {
  border-color: var(--rule);
  border-top-style: dotted;
}
.legend .return {
  border-color: var(--brass);
  border-top-style: dashed;
}
@media (max-width: 700px) {
  .legend {
    display: none;
  }
}
</style>
