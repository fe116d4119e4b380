<script setup lang="ts">
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, ref } from 'vue'
import type { ProofRecord } from '@iron-hush/core/model'
import { signed } from '@iron-hush/core/units'
import BlindChoice from '../../parts/BlindChoice.vue'
import NumberField from '../../parts/NumberField.vue'
import { useReturnFocus } from '../../parts/return-focus'
import SegmentedChoice from '../../parts/SegmentedChoice.vue'
import VolumeSlider from '../../parts/VolumeSlider.vue'
import { useClipFiles } from '../../state/clip-files'
import type { ClipChannel } from '../../workers/sound.worker'
import { useClipComparing } from './clip-comparing'
import SpectraDrawing from './SpectraDrawing.vue'

/** Two clips, or two channels of one, heard in turn from the same moment on at one loudness. */
const { clips, chosen } = defineProps<{ clips: readonly ProofRecord[]; chosen: ProofRecord }>()
const emit = defineEmits<{ close: [] }>()
const clipFiles = useClipFiles()

interface Side extends ClipChannel {
  key: string
  label: string
}
/** Every channel whose clip is at hand; a clip that was measured another day must be given again. */
const offered = computed(() =>
  clips.flatMap(({ id, measurement }): Side[] => {
    const file = clipFiles.files.get(id)
    const several = measurement.channels.length > 1
    return file
      ? measurement.channels.map((_, channel) => ({
          key: `${id} ${channel}`,
          label: several ? `${measurement.clip}, channel ${channel + 1}` : measurement.clip,
          ...{ id, file, channel, name: measurement.clip },
        }))
      : []
  }),
)
/** The selection; by default the clip in view, with its second channel or another clip. */
const picked = ref<{ first?: string; second?: string }>({})
const firstKey = computed({
  get: () => picked.value.first ?? offered.value.find(({ id }) => id === chosen.id)?.key,
  set: (first) => (picked.value = { ...picked.value, first }),
})
const secondKey = computed({
  get: () =>
    picked.value.second ??
    offered.value.find(({ id, channel }) => id === chosen.id && channel === 1)?.key ??
    offered.value.find(({ id }) => id !== chosen.id)?.key,
  set: (second) => (picked.value = { ...picked.value, second }),
})
const of = (key: string | undefined) => offered.value.find((each) => each.key === key)
const sides = (): [Side, Side] | undefined => {
  const [one, other] = [of(firstKey.value), of(secondKey.value)]
  return one && other && one.key !== other.key ? [one, other] : undefined
}
const comparing = useClipComparing(sides)
const { alignment, offsetS, atS, heardSides, working, side, volumeDb, blind, tally, playing } = comparing
const labels = computed((): [string, string] => [
  of(firstKey.value)?.label ?? '',
  of(secondKey.value)?.label ?? '',
])
const names = computed(() =>
  labels.value.map((label, id) => ({ id, name: blind.value ? ['first', 'second'][id]! : label })),
)
const lies = computed(() => {
  if (!alignment.value) return ''
  if (offsetS.value !== alignment.value.offsetS) return 'Aligned by hand.'
  if (!alignment.value.isSame) return 'They are not the same sound, so each plays from its own beginning.'
  const by = alignment.value.offsetS
  if (Math.abs(by) < 0.0005) return 'They are in sync.'
  return `By its sound the second begins ${Math.abs(by).toFixed(3)} s ${by > 0 ? 'later' : 'earlier'} than the first.`
})
useReturnFocus()
</script>

<template>
  <section class="compare" aria-label="Compare" @keydown.esc.stop="emit('close')">
    <div class="row">
      <Select
        v-model="firstKey"
        :options="offered"
        option-label="label"
        option-value="key"
        size="small"
        aria-label="First"
      />
      <span>against</span>
      <Select
        v-model="secondKey"
        :options="offered"
        option-label="label"
        option-value="key"
        size="small"
        aria-label="Second"
      />
      <button type="button" class="link" @click="emit('close')">Close</button>
    </div>
    <p v-if="offered.length < 2">
      Nothing to compare with yet: add a second clip here, or one whose sound is still available. A clip
      measured on another day has to be measured again.
    </p>
    <p v-else-if="!sides()">Choose two that differ.</p>
    <template v-else>
      <div class="row">
        <Button
          :label="playing ? 'Pause' : 'Play'"
          size="small"
          :disabled="!heardSides"
          @click="playing ? comparing.stop() : comparing.play()"
        />
        <SegmentedChoice v-model="side" framed :options="names" label="What is heard" />
        <BlindChoice v-model="blind" :names="labels" :tally @prefer="comparing.prefer()" />
        <VolumeSlider v-model="volumeDb" />
      </div>
      <p class="row">
        <span v-if="working" role="status">Reading both</span>
        <span v-else>{{ lies }}</span>
        <label class="row"
          >the second begins later by
          <NumberField
            :model-value="offsetS"
            unit="s"
            :decimals="3"
            :step="0.001"
            :min="-36000"
            :max="36000"
            label="The second begins later by"
            boxed
            @update:model-value="offsetS = $event"
        /></label>
        <label class="row"
          >heard from
          <NumberField
            :model-value="atS"
            unit="s"
            :decimals="1"
            :min="0"
            :max="86400"
            label="Heard from"
            boxed
            @update:model-value="atS = $event"
        /></label>
      </p>
      <template v-if="heardSides && !blind">
        <SpectraDrawing :one="heardSides[0].heard" :other="heardSides[1].heard" :names="labels" />
        <p class="quiet">
          Recorded at
          <span class="figure">{{ signed(heardSides[0].heard.levelDbfsA) }}</span> and
          <span class="figure">{{ signed(heardSides[1].heard.levelDbfsA) }} dBFS(A)</span>; played at one
          loudness, because the louder one always seems better.
        </p>
      </template>
    </template>
  </section>
</template>

<style scoped>
.compare {
  border: 1px solid var(--ink);
  background: var(--sheet);
  padding: 10px 12px;
  display: grid;
  gap: 8px;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 12px;
}
.link {
  margin-left: auto;
  border: 0;
  background: none;
  text-decoration: underline;
  text-underline-offset: 3px;
  cursor: pointer;
  color: var(--quiet);
}
</style>
