<script setup lang="ts">
import { useDropZone } from '@vueuse/core'
import Button from 'primevue/button'
import { soundFiles } from '@iron-hush/core/media'
import { computed, onMounted, useTemplateRef, watch } from 'vue'
import { useQuery } from '../../frame/address'
import SceneSelect from '../../frame/SceneSelect.vue'
import { useMeasuring } from '../../state/measuring'
import { useProofs } from '../../state/proofs'
import { warmUp } from '../../workers/compute'
import ClipList from './ClipList.vue'
import { droppedFiles, soundIn } from './dropped'
import ExportClips from './ExportClips.vue'
import NoClip from './NoClip.vue'
import ProofClip from './ProofClip.vue'

const proofs = useProofs()
const measuring = useMeasuring()
const zone = useTemplateRef('zone')
const picker = useTemplateRef('picker')
const folderPicker = useTemplateRef('folderPicker')
const { isOverDropZone } = useDropZone(zone, {
  onDrop: (_, event) => void droppedFiles(event.dataTransfer).then(measuring.addFolder),
})

/** The clip that is shown: the one of the address, else the newest. */
const inAddress = useQuery('clip')
const chosen = computed(() => proofs.list.find(({ id }) => id === inAddress.value) ?? proofs.list[0])
/** A clip that was just measured is shown. */
watch(
  () => proofs.list[0]?.id,
  (newest, before) => {
    if (before !== undefined && newest !== before) inAddress.value = undefined
  },
)

function picked(event: Event): void {
  const input = event.target as HTMLInputElement
  const files = [...(input.files ?? [])]
  if (input.webkitdirectory) measuring.addFolder(soundIn(files))
  else measuring.add(files)
  input.value = ''
}
// clips are about to be given: their first wave is not to wait for a worker to begin
onMounted(warmUp)
watch(isOverDropZone, warmUp)
function pick(input: HTMLInputElement | null): void {
  warmUp()
  input?.click()
}
</script>

<template>
  <section ref="zone" class="station" :class="{ over: isOverDropZone }">
    <div class="station-head">
      <h1>Proof</h1>
      <SceneSelect />
      <span
        class="what"
        title="Clips are read here and stay here; only the measurements are kept, unless you keep the sound."
        >Clips are read here and stay here; only the measurements are kept, unless you keep the sound.</span
      >
      <input
        ref="picker"
        class="sr-only"
        type="file"
        :accept="soundFiles"
        multiple
        tabindex="-1"
        aria-label="Clips"
        @change="picked"
      />
      <input
        ref="folderPicker"
        class="sr-only"
        type="file"
        webkitdirectory
        tabindex="-1"
        aria-label="A folder of clips"
        @change="picked"
      />
      <ExportClips v-if="proofs.list.length" :proofs="proofs.list" />
      <Button label="Measure a folder" severity="secondary" @click="pick(folderPicker)" />
      <Button label="Measure clips" @click="pick(picker)" />
    </div>
    <div v-if="proofs.list.length || measuring.waiting.length" class="body">
      <ClipList :clips="proofs.list" :chosen="chosen?.id" @choose="inAddress = $event" />
      <ProofClip v-if="chosen" :key="chosen.id" :proof="chosen" />
      <NoClip v-else-if="measuring.waiting.every(({ refused }) => refused)" />
    </div>
    <NoClip v-else />
  </section>
</template>

<style scoped>
.over {
  outline: 3px dashed var(--verdigris);
  outline-offset: -8px;
}
.body {
  display: grid;
  grid-template-columns: 274px minmax(0, 1fr);
  border-top: 1px solid var(--rule);
  min-height: 0;
}
.body > * {
  overflow: auto;
  min-height: 0;
}
.body > :first-child {
  border-right: 1px solid var(--rule);
}
@media (max-width: 700px) {
  .station {
    display: block;
    overflow: auto;
  }
  .body {
    grid-template-columns: minmax(0, 1fr);
  }
  .body > :first-child {
    border-right: 0;
  }
}
</style>
