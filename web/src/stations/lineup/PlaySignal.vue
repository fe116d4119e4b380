<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import type { TestSignal } from '@iron-hush/core/signals'
import { signed } from '@iron-hush/core/units'
import { signalName } from '@iron-hush/core/words'
import { useView } from '../../state/view'
import VolumeSlider from '../../parts/VolumeSlider.vue'
import { useSignalPlayer } from './signal-player'

/** A test signal: played from this page, low at first, or written as a file. */
const { signal, outDbu } = defineProps<{ signal: TestSignal; outDbu?: number }>()
const view = useView()
const { playing, volumeDb, play, stop, write } = useSignalPlayer()
/** How loud it is where it is played from: at the output of a box that sends it, or of this device once that is known. */
const atOutput = computed(() => {
  const dbu =
    outDbu ??
    (view.outputDbu === null
      ? undefined
      : view.outputDbu + signal.levelDbfs + (playing.value ? volumeDb.value : 0))
  return dbu === undefined ? '' : `${signed(dbu)} dBu`
})
const named = computed(() => `${signalName(signal)}, ${signed(signal.levelDbfs, 0)} dBFS`)
</script>

<template>
  <div class="play">
    <Button v-if="!playing" :label="`Play ${named}`" size="small" @click="play(signal)" />
    <Button v-else label="Stop" size="small" @click="stop()" />
    <Button label="Write WAV" size="small" severity="secondary" @click="write(signal)" />
    <VolumeSlider v-if="playing" v-model="volumeDb" />
    <span v-if="atOutput"><span class="figure">{{ atOutput }}</span> at the output</span>
    <span v-if="!playing" class="quiet">Starts low. Take headphones off: hearing loss is permanent.</span>
  </div>
</template>

<style scoped>
.play {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  font-size: var(--small);
}
</style>
