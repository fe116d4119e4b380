<script setup lang="ts">
import Button from 'primevue/button'
import { computed, onScopeDispose, ref, shallowRef } from 'vue'
import type { Reverberation, RoomNoise } from '@iron-hush/core/lineup'
import { type Brief, withNoise } from '@iron-hush/core/model'
import { signed } from '@iron-hush/core/units'
import { useEar } from '../../live/ear'
import EarPanel from '../../live/EarPanel.vue'
import NumberField from '../../parts/NumberField.vue'
import { useView } from '../../state/view'
import { startRoomNoise, startReverberation } from '../../workers/compute'

/** The room measured with what the browser hears: a clap gives its reverberation, ten seconds without speech its noise. */
const { brief } = defineProps<{ brief: Brief }>()
const emit = defineEmits<{ change: [to: Partial<Brief>, name: string] }>()
const view = useView()
const ear = useEar()
const { listening, device, meddling, record } = ear
const earDbSpl = computed(() => view.earsDbSpl[device.value ?? ''])
const clapS = 5
const noiseS = 10
const doing = ref<'clap' | 'noise'>()
const clap = shallowRef<Reverberation | 'none'>()
const noise = shallowRef<RoomNoise | 'none'>()

async function listenForClap(): Promise<void> {
  doing.value = 'clap'
  const { channels, rateHz } = await record(clapS)
  clap.value = (await startReverberation(channels[0]!, rateHz).result) ?? 'none'
  doing.value = undefined
}
async function listenForNoise(): Promise<void> {
  doing.value = 'noise'
  const { channels, rateHz } = await record(noiseS)
  noise.value = (await startRoomNoise(channels[0]!, rateHz).result) ?? 'none'
  doing.value = undefined
}
onScopeDispose(() => (doing.value = undefined))

const levelDba = computed(() =>
  noise.value && noise.value !== 'none' && earDbSpl.value !== undefined
    ? Math.max(0, Math.min(140, Math.round(noise.value.levelDbfsA + earDbSpl.value)))
    : undefined,
)
/** One known level tells what full scale is at this microphone. */
function calibrate(known: number): void {
  if (noise.value && noise.value !== 'none')
    view.earsDbSpl[device.value ?? ''] = known - noise.value.levelDbfsA
}
const shownS = (seconds: number) => `${seconds.toFixed(2)} s`
function useReverberation(rt60S: number): void {
  const reverberationS = Math.max(0.05, Math.min(20, Math.round(rt60S * 100) / 100))
  emit('change', { room: { ...brief.room, reverberationS } }, 'the room, as measured')
}
function takeNoise(): void {
  const found = noise.value
  if (!found || found === 'none' || levelDba.value === undefined) return
  const [first, ...others] = brief.noises
  const to = first
    ? { noises: [{ ...first, levelDba: levelDba.value, spectrum: found.spectrum }, ...others] }
    : withMeasured(found.spectrum, levelDba.value)
  emit('change', to, 'the noise, as measured')
}
function withMeasured(spectrum: RoomNoise['spectrum'], level: number): Partial<Brief> {
  const { noises = [] } = withNoise(brief)
  const last = noises.at(-1)
  return last ? { noises: [...noises.slice(0, -1), { ...last, levelDba: level, spectrum }] } : {}
}
</script>

<template>
  <details class="survey">
    <summary>Measure the room with this device</summary>
    <EarPanel :ear />
    <div v-if="listening" class="asks">
      <p>
        <Button
          :label="doing === 'clap' ? 'Clap once, now' : 'Listen for a clap'"
          size="small"
          :disabled="doing !== undefined || meddling.length > 0"
          @click="listenForClap()"
        />
        <span v-if="clap === 'none'" role="status">
          No clap stood out. Clap once, hard, from three metres away, while nobody speaks.</span
        >
        <span v-else-if="clap" role="status">
          Reverberation {{ shownS(clap.rt60S)
          }}<template v-if="clap.straightness < 0.97">, and the decay is uneven</template>; the clap stood
          {{ clap.rangeDb.toFixed(0) }} dB over the noise.
          <Button label="Use it" size="small" severity="secondary" @click="useReverberation(clap.rt60S)" />
        </span>
      </p>
      <p>
        <Button
          :label="doing === 'noise' ? 'Ten seconds, nobody speaks' : 'Listen to the noise'"
          size="small"
          :disabled="doing !== undefined || meddling.length > 0"
          @click="listenForNoise()"
        />
        <span v-if="noise === 'none'" role="status">No sound on this input.</span>
        <span v-else-if="noise" role="status">
          {{ signed(noise.levelDbfsA) }} dBFS(A), sounds like
          {{ noise.spectrum === 'even' ? 'even noise' : noise.spectrum
          }}<template v-if="levelDba !== undefined">: {{ levelDba }} dB(A)</template>.
          <Button
            v-if="levelDba !== undefined"
            label="Use it"
            size="small"
            severity="secondary"
            @click="takeNoise()"
          />
          <label v-else class="known"
            >Relative until one level is known. A sound level meter reads
            <NumberField
              :model-value="null"
              :min="15"
              :max="130"
              unit="dB(A)"
              empty
              entry
              boxed
              placeholder="dB(A)"
              label="Known level of this noise, dB(A)"
              @update:model-value="calibrate($event)"
          /></label>
        </span>
      </p>
    </div>
  </details>
</template>

<style scoped>
.survey {
  margin: 8px 0;
}
summary {
  cursor: pointer;
  font-weight: 600;
}
.asks {
  display: grid;
  gap: 8px;
  margin-top: 8px;
}
.asks p {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
.known {
  display: inline-flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
}
</style>
