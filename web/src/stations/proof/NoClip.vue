<script setup lang="ts">
import Button from 'primevue/button'
import { useMeasuring } from '../../state/measuring'

/** What Proof accepts and does, shown until there is a clip. */
const measuring = useMeasuring()
</script>

<template>
  <div class="empty">
    <p>
      Drop clips or a whole folder anywhere here: WAV, AIFF, FLAC, or MOV and MP4 as a camera writes them.
      Each is checked for clipping and its shape, hum, wind, pops, rustle, dropouts, clicks, automatic gain,
      and how its channels relate; then it is held against the plan of this scene.
    </p>
    <p class="quiet">
      No clips with you? The stand-in card holds seven clips from a day at the foundry, six of them with a
      fault.
    </p>
    <Button label="Measure the stand-in card" severity="secondary" @click="measuring.addCard()" />
  </div>
</template>

<style scoped>
.empty {
  align-self: start;
  margin: 4px 18px;
  border: 1px dashed var(--quiet);
  padding: 48px;
  display: grid;
  gap: 16px;
  justify-items: start;
  max-width: 70ch;
}
.body > .empty {
  margin-top: 18px;
}
@media (max-width: 700px) {
  .empty {
    padding: 24px 16px;
  }
}
</style>
