<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import type { LineUpStep } from '@iron-hush/core/lineup'
import { wavBytes } from '@iron-hush/core/media'
import type { ClipReading } from '@iron-hush/core/model'
import { useEar } from '../../live/ear'
import EarPanel from '../../live/EarPanel.vue'
import { useNotices } from '../../state/notices'
import { startClipReading } from '../../workers/compute'

/** A reading taken live: a few seconds of what the browser hears, read as a clip of the box would be. */
const { step } = defineProps<{ step: LineUpStep }>()
const emit = defineEmits<{ read: [result: ClipReading] }>()
const notices = useNotices()
const ear = useEar()
const { listening, meddling, record } = ear
const lengthS = computed(() => ({ automatic: 22, peak: 12 })[step.expect.kind as string] ?? 5)
const recording = ref(false)
/** Steps that a sound can answer; which channels of which box move the person says, who sees it here. */
const can = computed(() => ['level', 'shape', 'floor', 'automatic', 'peak'].includes(step.expect.kind))
const shows = computed(() => can.value || step.expect.kind === 'channels')
/** A channel this much louder than the other is the one that moves, dB. */
const movesDb = 20

async function read(): Promise<void> {
  recording.value = true
  try {
    const { channels, rateHz } = await record(lengthS.value)
    const bytes = wavBytes(channels, rateHz, 32, 'float') as Uint8Array<ArrayBuffer>
    const name = `live ${new Date().toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hourCycle: 'h23' })}.wav`
    emit('read', await startClipReading(new File([bytes], name), name, loudest(channels), step).result)
  } catch (error) {
    notices.say(error instanceof Error ? error.message : String(error))
  } finally {
    recording.value = false
  }
}
/** One socket is joined: the channel that is meant is the one with the sound on it, the first where both have it. */
function loudest(channels: readonly Float32Array[]): number {
  const squares = channels.map((samples) => samples.reduce((sum, each) => sum + each * each, 0))
  return squares.findIndex((square) => square * 10 ** (movesDb / 10) > Math.max(...squares))
}
</script>

<template>
  <div v-if="shows" class="live">
    <EarPanel :ear />
    <Button
      v-if="can && listening"
      :label="recording ? `Listening for ${lengthS} s` : 'Take this reading'"
      size="small"
      :disabled="recording || meddling.length > 0"
      @click="read()"
    />
  </div>
</template>

<style scoped>
.live {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
}
</style>
