<script setup lang="ts">
import { useDropZone } from '@vueuse/core'
import Button from 'primevue/button'
import { useTemplateRef } from 'vue'
import SceneSelect from '../../frame/SceneSelect.vue'
import { useMeasuring } from '../../state/measuring'
import { useProofs } from '../../state/proofs'
import { useScene } from '../../state/scene'
import ProofClip from './ProofClip.vue'

const proofs = useProofs()
const scene = useScene()
const measuring = useMeasuring()
const zone = useTemplateRef('zone')
const picker = useTemplateRef('picker')
const { isOverDropZone } = useDropZone(zone, { onDrop: (files) => measuring.add(files ?? []) })

function picked(event: Event): void {
  const input = event.target as HTMLInputElement
  measuring.add([...(input.files ?? [])])
  input.value = ''
}
</script>

<template>
  <section ref="zone" class="station" :class="{ over: isOverDropZone }">
    <div class="station-head">
      <h1>Proof</h1>
      <SceneSelect />
      <span class="what" title="Clips are read here and stay here; only what was measured is kept."
        >Clips are read here and stay here; only what was measured is kept.</span
      >
      <input
        ref="picker"
        class="sr-only"
        type="file"
        accept=".wav,audio/wav,audio/x-wav"
        multiple
        tabindex="-1"
        aria-label="WAV clips"
        @change="picked"
      />
      <Button label="Measure clips" @click="picker?.click()" />
    </div>
    <div class="body">
      <ol v-if="measuring.waiting.length" class="waiting" aria-label="Clips being read">
        <li v-for="(each, at) in measuring.waiting" :key="each.id" class="going">
          <span
            >{{ at === 0 ? 'Reading' : 'Waiting:' }} {{ each.name
            }}<span v-if="each.scene !== scene.document?.id" class="quiet">
              for {{ each.sceneName }}</span
            ></span
          >
          <progress :value="each.share" max="1" :aria-label="`Reading ${each.name}`"></progress>
          <span class="figure">{{ Math.round(each.share * 100) }} %</span>
          <Button
            label="Stop"
            size="small"
            severity="secondary"
            :aria-label="`Stop ${each.name}`"
            @click="measuring.stop(each.id)"
          />
        </li>
      </ol>
      <ProofClip v-for="proof in proofs.list" :key="proof.id" :proof />
      <div v-if="proofs.list.length === 0 && measuring.waiting.length === 0" class="empty">
        <p>
          Drop WAV clips anywhere here. You will see where they are cut, how the voice stands over the noise,
          and how both compare with the plan of this run.
        </p>
        <Button label="Measure a made-up clip" severity="secondary" @click="measuring.addMadeUp()" />
      </div>
    </div>
  </section>
</template>

<style scoped>
.over {
  outline: 3px dashed var(--verdigris);
  outline-offset: -8px;
}
.body {
  padding: 4px 18px 20px;
  overflow: auto;
  min-height: 0;
}
.waiting {
  list-style: none;
  margin: 0;
  padding: 0;
}
.going {
  display: grid;
  grid-template-columns: auto 1fr 50px auto;
  gap: 12px;
  align-items: center;
  padding: 8px 0;
}
progress {
  width: 100%;
  accent-color: var(--brass);
}
.empty {
  border: 1px dashed var(--quiet);
  padding: 48px;
  display: grid;
  gap: 16px;
  justify-items: start;
  max-width: 70ch;
}
</style>
