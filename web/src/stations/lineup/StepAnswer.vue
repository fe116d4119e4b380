<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, useTemplateRef, watch } from 'vue'
import type { LineUpStep } from '@iron-hush/core/lineup'
import type { ReadingResult } from '@iron-hush/core/model'
import NumberField from '../../parts/NumberField.vue'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { useClipDrop } from './clip-drop'
import ClipPicker from './ClipPicker.vue'
import LiveReading from './LiveReading.vue'
import type { LiningUp } from './lining-up'
import type { StandInDevice } from './stand-in'
import StandInRow from './StandInRow.vue'

/** How a step is answered: seen, a level, a mark, the channels that moved, or a clip; from a stand-in where there is one. */
const { step, lining, standIn } = defineProps<{
  step: LineUpStep
  lining: LiningUp
  standIn: StandInDevice
}>()
const scene = useScene()
const gear = useGear()
const { keep, tracks } = lining
const { devices, working, boxesOf, record, readMeter } = standIn

const seen = computed(() => step.expect.kind === 'seen')
/** Readings that need the sound itself: shapes, hiss, bursts. */
const clipOnly = computed(() => ['shape', 'floor', 'automatic'].includes(step.expect.kind))
const level = computed(() => ['level', 'peak', 'mark'].includes(step.expect.kind))
const marks = computed(() => {
  const box = scene.openPatch.boxes.find(({ id }) => id === step.box)
  return (step.expect.kind === 'level' && box && gear.of(box.gear)?.meter?.marks) || []
})
const clips = computed(() => !seen.value && step.expect.kind !== 'channels' && step.expect.kind !== 'mark')

const moved = ref<string[]>([])
watch(
  () => step.id,
  () => {
    moved.value = []
    sentDbfs.value = undefined
  },
)
function toggle(id: string): void {
  moved.value = moved.value.includes(id) ? moved.value.filter((each) => each !== id) : [...moved.value, id]
}

const zone = useTemplateRef('zone')
const { reading, isOverDropZone, read } = useClipDrop(
  zone,
  lining,
  () => (clips.value ? step : undefined),
  (result) => answer(result),
)

/** Another box may send at a different level than asked: a recorder has no finer steps, or it is too loud for the room. */
const sentDbfs = ref<number>()
const playedDbfs = computed(() => sentDbfs.value ?? step.play?.levelDbfs)
const asksSent = computed(() =>
  step.kind === 'tone' || step.kind === 'overload' ? step.play?.from !== undefined : false,
)
const answer = (result: ReadingResult) => keep(step, result, { playedDbfs: playedDbfs.value })

const standInName = computed(() => {
  if (seen.value || step.kind === 'send') return undefined
  const boxes = boxesOf(step)
  const found = boxes.map((box) => devices.value.get(box))
  return boxes.length && found.every(Boolean) ? found[0]?.name : undefined
})
</script>

<template>
  <div ref="zone" class="answer" :class="{ over: isOverDropZone }">
    <template v-if="seen">
      <Button label="Seen, as planned" size="small" @click="answer({ kind: 'seen' })" />
    </template>
    <template v-else-if="step.expect.kind === 'channels'">
      <span class="quiet">Which meters moved?</span>
      <div class="joined" role="group" aria-label="Channels that moved">
        <button
          v-for="{ id, name } in tracks"
          :key="id"
          role="checkbox"
          :aria-checked="moved.includes(id)"
          @click="toggle(id)"
        >
          {{ name }}
        </button>
      </div>
      <Button
        :label="moved.length ? 'Enter' : 'Nothing moved'"
        size="small"
        :severity="moved.length ? undefined : 'secondary'"
        @click="answer({ kind: 'channels', moved })"
      />
    </template>
    <template v-else>
      <div v-if="marks.length" class="joined" role="group" aria-label="The highest mark it reached">
        <button v-for="mark in marks" :key="mark.id" @click="answer({ kind: 'mark', mark: mark.id })">
          {{ mark.name }}
        </button>
      </div>
      <label v-if="level" class="level"
        >{{
          step.expect.kind === 'mark' ? 'Tone at' : step.expect.kind === 'peak' ? 'Peaks at' : 'Meter reads'
        }}
        <NumberField
          :model-value="null"
          :min="-120"
          :max="6"
          unit="dBFS"
          empty
          entry
          boxed
          placeholder="dBFS"
          :label="
            step.expect.kind === 'mark'
              ? 'Level of the tone, dBFS'
              : step.expect.kind === 'peak'
                ? 'Peaks, dBFS'
                : 'Reading of the meter, dBFS'
          "
          @update:model-value="answer({ kind: 'level', levelDbfs: $event })"
        />
      </label>
      <ClipPicker
        v-if="clips"
        :ask="clipOnly ? 'Drop the clip here, or' : 'or drop a clip, or'"
        :label="`Clip for step: ${step.boxName}`"
        :reading
        @clip="read"
      />
    </template>
    <LiveReading :step @read="answer" />
    <label v-if="asksSent" class="sent"
      >the tone sent at
      <NumberField
        :model-value="playedDbfs ?? null"
        :min="-120"
        :max="12"
        unit="dBFS"
        boxed
        label="Level of the tone as it is sent, dBFS"
        @update:model-value="sentDbfs = $event"
    /></label>
    <StandInRow v-if="standInName" :name="standInName" :working>
      <Button
        v-if="!clipOnly"
        label="Read its meter"
        size="small"
        severity="secondary"
        :disabled="working"
        @click="readMeter(step)"
      />
      <Button
        v-if="clips"
        label="Record a clip"
        size="small"
        severity="secondary"
        :disabled="working"
        @click="record(step)"
      />
    </StandInRow>
  </div>
</template>

<style scoped>
.answer {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  align-items: center;
  font-size: var(--body);
}
.over {
  outline: 2px dashed var(--verdigris);
  outline-offset: 4px;
}
.level,
.sent {
  display: inline-flex;
  gap: 8px;
  align-items: center;
}
.joined > button {
  font-size: var(--body);
}
</style>
