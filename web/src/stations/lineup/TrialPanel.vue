<script setup lang="ts">
import Button from 'primevue/button'
import { computed, useTemplateRef } from 'vue'
import { type LineUpStep, type Setting, placedBox, trialOfScene, trialSetting } from '@iron-hush/core/lineup'
import { controlKey, type LineUpReading, positionName } from '@iron-hush/core/model'
import { signed } from '@iron-hush/core/units'
import { resultWords } from '@iron-hush/core/words'
import { useScene } from '../../state/scene'
import { useClipDrop } from './clip-drop'
import ClipPicker from './ClipPicker.vue'
import type { LiningUp } from './lining-up'
import type { StandInDevice } from './stand-in'
import StandInRow from './StandInRow.vue'

/** A trial under the real noise: the setting to record next, and once nothing more would change it the one to use. */
const { step, lining, standIn } = defineProps<{
  step: LineUpStep
  lining: LiningUp
  standIn: StandInDevice
}>()
const scene = useScene()
const { bench, keep, trackName } = lining
const { devices, working, recordAt } = standIn

const trial = computed(() =>
  bench.value && step.run !== undefined ? trialOfScene(bench.value, step.run) : undefined,
)
const setting = computed(() => (trial.value ? trialSetting(trial.value) : []))
const over = computed(() => trial.value?.trial.next === undefined)
const said = computed(() =>
  setting.value
    .map((each) => `${each.boxName}: ${each.controlName.toLowerCase()} ${each.positionName}`)
    .join('; '),
)
/** Where a control stood at a reading, in the marks of its box. */
function stoodAt({ box, control, controlName }: Setting, { settings }: LineUpReading): string {
  const known = bench.value && placedBox(bench.value, box).gear.controls.find(({ id }) => id === control)
  const position = settings[controlKey(box, control)]
  return known && position !== undefined
    ? `${controlName.toLowerCase()} ${positionName(known, position)}`
    : ''
}
const heard = computed(() =>
  (trial.value?.readings ?? []).map((reading) => ({
    id: reading.id,
    at: setting.value.map((each) => stoodAt(each, reading)).join(', '),
    pressed:
      reading.result.kind === 'clip' && (reading.result.atFullScale || reading.result.ceilingDbfs !== null),
    words:
      reading.result.kind === 'clip' &&
      reading.result.speechDbfsA !== null &&
      reading.result.noiseDbfsA !== null
        ? `speech-to-noise ${signed(reading.result.speechDbfsA - reading.result.noiseDbfsA)} dB`
        : resultWords(step, reading, undefined, trackName),
  })),
)
const stands = computed(() =>
  setting.value.every(({ box, control, position }) => {
    const found = scene.openPatch.boxes.find(({ id }) => id === box)
    return found?.settings[control] === position
  }),
)
const use = () =>
  scene.change(
    setting.value.map(({ box, control, position }) => ({
      kind: 'set control',
      part: box,
      control,
      position,
    })),
    'the setting of a trial',
  )

const zone = useTemplateRef('zone')
const { reading, read } = useClipDrop(
  zone,
  lining,
  () => (over.value ? undefined : step),
  (result) => keep({ ...step, set: setting.value }, result, { stays: true }),
)
const standInName = computed(() => devices.value.get(step.box)?.name)
</script>

<template>
  <div v-if="trial" ref="zone" class="trial">
    <p v-if="over" role="status">
      Use <b>{{ said }}</b>. {{ heard.length === 1 ? 'One clip was' : `${heard.length} clips were` }} enough:
      what is still unknown would not change it.
    </p>
    <p v-else>
      {{ heard.length ? 'Next, record' : 'Record' }} the real words, quiet and loud, at <b>{{ said }}</b>.
      <span class="quiet"
        >Judge by the clip, not by a red meter. On a vehicle, somebody else drives; set nothing while
        moving.</span
      >
    </p>
    <ul v-if="heard.length">
      <li v-for="each in heard" :key="each.id">
        {{ each.at }}: {{ each.words
        }}<template v-if="each.pressed">, <b class="pressed">it overloads</b></template>
      </li>
    </ul>
    <div class="row">
      <Button v-if="over && !stands" label="Use these settings" size="small" @click="use()" />
      <template v-if="!over">
        <ClipPicker ask="Drop the clip here, or" label="Clip for the trial" :reading @clip="read" />
        <StandInRow v-if="standInName" :name="standInName" :working>
          <Button
            label="Record a clip"
            size="small"
            severity="secondary"
            :disabled="working"
            @click="recordAt(step, setting)"
          />
        </StandInRow>
      </template>
    </div>
  </div>
</template>

<style scoped>
.trial {
  display: grid;
  gap: 8px;
}
ul {
  margin: 0;
  padding-left: 18px;
  font-size: var(--small);
}
.pressed {
  color: var(--iron);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 10px;
  align-items: center;
  font-size: var(--small);
}
</style>
