<script setup lang="ts">
import { clipFindings } from '@iron-hush/core/measure'
import type { ProofRecord } from '@iron-hush/core/model'
import { clock } from '@iron-hush/core/units'
import { clipSummary } from '@iron-hush/core/words'
import Button from 'primevue/button'
import { useMeasuring } from '../../state/measuring'
import { useScene } from '../../state/scene'

/** Every clip of the scene with what was found in it, and above them those that are still being read. */
defineProps<{ clips: readonly ProofRecord[]; chosen: string | undefined }>()
const emit = defineEmits<{ choose: [id: string] }>()
const measuring = useMeasuring()
const scene = useScene()
const summaryOf = ({ measurement }: ProofRecord) => clipSummary(measurement, clipFindings(measurement))
</script>

<template>
  <div>
    <ol v-if="measuring.waiting.length" class="waiting" aria-label="Clips being read">
      <li v-for="each in measuring.waiting" :key="each.id">
        <b :title="each.name">{{ each.name }}</b>
        <span class="figure">{{ Math.round(each.share * 100) }} %</span>
        <Button
          label="Stop"
          size="small"
          severity="secondary"
          :aria-label="`Stop ${each.name}`"
          @click="measuring.stop(each.id)"
        />
        <progress :value="each.share" max="1" :aria-label="`Reading ${each.name}`"></progress>
        <small
          >{{ each.isBeingRead ? 'reading' : 'waiting'
          }}{{ each.scene === scene.document?.id ? '' : `, for ${each.sceneName}` }}</small
        >
      </li>
    </ol>
    <ol v-if="clips.length" aria-label="Clips of this scene">
      <li v-for="clip in clips" :key="clip.id">
        <button
          type="button"
          :aria-current="clip.id === chosen"
          :class="summaryOf(clip).severity"
          @click="emit('choose', clip.id)"
        >
          <span class="mark" aria-hidden="true">{{ summaryOf(clip).mark }}</span>
          <b :title="clip.measurement.clip">{{ clip.measurement.clip }}</b>
          <span class="figure">{{ clock(clip.measurement.lengthS) }}</span>
          <small>{{ summaryOf(clip).words }}</small>
        </button>
      </li>
    </ol>
  </div>
</template>

<style scoped>
ol {
  list-style: none;
  margin: 0;
  padding: 0;
}
button:not(.p-button),
.waiting li {
  display: grid;
  grid-template-columns: 16px minmax(0, 1fr) auto;
  gap: 1px 6px;
  align-items: baseline;
  width: 100%;
  padding: 8px 12px 8px 15px;
  border: 0;
  border-bottom: 1px solid var(--rule);
  border-left: 3px solid transparent;
  background: none;
  text-align: left;
  cursor: pointer;
}
.waiting li {
  grid-template-columns: minmax(0, 1fr) auto auto;
  align-items: center;
  cursor: default;
}
button[aria-current='true'] {
  background: var(--sheet);
  border-left-color: var(--ink);
}
b {
  font-stretch: 88%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
small {
  grid-column: 2 / -1;
  font-size: var(--small);
  font-stretch: 90%;
  color: var(--quiet);
  line-height: 1.25;
}
.waiting small,
progress {
  grid-column: 1 / -1;
}
progress {
  width: 100%;
  accent-color: var(--brass);
}
.mark {
  color: var(--verdigris);
}
.degraded .mark,
.note .mark {
  color: var(--brass-ink);
}
.dead .mark,
.harmful .mark {
  color: var(--iron);
}
</style>
