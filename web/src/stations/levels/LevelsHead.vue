<script setup lang="ts">
import Button from 'primevue/button'
import Select from 'primevue/select'
import { computed, ref } from 'vue'
import { Counting, PeakTarget } from '@iron-hush/core/model'
import { targetWords } from '@iron-hush/core/words'
import SceneSelect from '../../frame/SceneSelect.vue'
import SegmentedChoice from '../../parts/SegmentedChoice.vue'
import { useScene } from '../../state/scene'
import type { ScaleMode } from './scale'

/** Head of the station: what is drawn, what is asked for, and the actions. */
defineProps<{ running: boolean; canListen: boolean }>()
const emit = defineEmits<{ listen: []; balance: []; stop: [] }>()
const shows = defineModel<'run' | 'runs' | 'kits'>('shows', { required: true })
const mode = defineModel<ScaleMode>('mode', { required: true })
const ambience = defineModel<boolean>('ambience', { required: true })
const detail = defineModel<'boxes' | 'stages'>('detail', { required: true })
/** On a small screen the switches stand behind one button. */
const viewing = ref(false)
const scene = useScene()
const plan = computed(() => scene.openPatch.plan)

const views = [
  { id: 'run', name: 'this run' },
  { id: 'runs', name: 'all runs' },
  { id: 'kits', name: 'kits' },
] as const
const details = [
  { id: 'boxes', name: 'boxes' },
  { id: 'stages', name: 'stages' },
] as const
const modes = computed(
  () =>
    [
      { id: 'source', name: scene.run?.unit === 'dBu' ? 'at the feed' : 'as pressure' },
      { id: 'volts', name: 'volts' },
      { id: 'dbfs', name: 'dBFS' },
    ] as const,
)
const peakTargets = PeakTarget.options.map((id) => ({ id, name: targetWords(id).name }))
const counting = Counting.options.map((id) => ({ id, name: id }))
</script>

<template>
  <div class="station-head">
    <h1>Levels</h1>
    <SceneSelect />
    <span class="what" :title="scene.openPatch.note"
      ><span class="note">{{ scene.openPatch.note }}</span></span
    >
    <Button
      class="narrow-only"
      severity="secondary"
      label="View"
      :aria-expanded="viewing"
      @click="viewing = !viewing"
    />
    <div class="switches" :class="{ viewing }">
      <SegmentedChoice
        class="joined"
        :model-value="shows"
        :options="views"
        label="View"
        @update:model-value="$event && (shows = $event)"
      />
      <SegmentedChoice
        v-if="shows === 'run'"
        class="joined"
        :model-value="detail"
        :options="details"
        label="Columns"
        @update:model-value="$event && (detail = $event)"
      />
      <label class="layer"><input v-model="ambience" type="checkbox" /> ambience</label>
      <SegmentedChoice
        v-if="shows === 'run'"
        class="joined"
        :model-value="mode"
        :options="modes"
        label="Vertical scale"
        @update:model-value="$event && (mode = $event)"
      />
      <Select
        :model-value="plan.peakTarget"
        :options="peakTargets"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Where peaks should lie"
        @update:model-value="
          scene.change([{ kind: 'change plan', to: { ...plan, peakTarget: $event } }], 'the peak target')
        "
      />
      <Select
        :model-value="plan.counts"
        :options="counting"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="The recording that counts"
        @update:model-value="
          scene.change([{ kind: 'change plan', to: { ...plan, counts: $event } }], 'what counts')
        "
      />
    </div>
    <Button v-if="running" label="Stop" severity="secondary" @click="emit('stop')" />
    <Button
      v-if="!running"
      severity="secondary"
      :disabled="!canListen"
      title="Hear ten seconds of this run"
      @click="emit('listen')"
      >Listen<kbd class="key">L</kbd></Button
    >
    <Button v-if="!running" :disabled="!scene.levels" @click="emit('balance')"
      >Balance<kbd class="key">B</kbd></Button
    >
  </div>
</template>

<style scoped>
.what {
  container-type: inline-size;
}
/* the first word or two say nothing */
@container (max-width: 110px) {
  .note {
    display: none;
  }
}
.layer {
  accent-color: var(--ink);
  display: flex;
  gap: 5px;
  align-items: center;
  min-height: 22px;
  font-size: var(--small);
}
.switches {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
}
.narrow-only {
  display: none;
}
@media (max-width: 1000px) {
  .station-head {
    flex-wrap: wrap;
  }
}
@media (max-width: 700px) {
  .station-head .what,
  .key {
    display: none;
  }
  .narrow-only {
    display: inline-flex;
  }
  .switches {
    order: 9;
    display: none;
    width: 100%;
  }
  .switches.viewing {
    display: flex;
  }
}
</style>
