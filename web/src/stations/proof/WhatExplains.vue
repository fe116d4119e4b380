<script setup lang="ts">
import Button from 'primevue/button'
import { watchDebounced } from '@vueuse/core'
import { computed, onScopeDispose, ref, toRaw } from 'vue'
import type { Explanation } from '@iron-hush/core/advice'
import type { Run } from '@iron-hush/core/levels'
import type { ChannelMeasurement, Patch } from '@iron-hush/core/model'
import { explanationWords } from '@iron-hush/core/words'
import { useGear } from '../../state/gear'
import { historyPlaces, useHistory } from '../../state/history'
import { distance } from '../../state/lengths'
import { useScene } from '../../state/scene'
import { useView } from '../../state/view'
import { type Job, startExplanations } from '../../workers/compute'

/** Which assumptions of the plan may be off, the likeliest first; each goes into the plan with one click. */
const { channel, patch, run, clip, sceneId } = defineProps<{
  channel: ChannelMeasurement
  /** The scene as it was set when the clip was recorded. */
  patch: Patch
  run: Run
  clip: string
  sceneId: string
}>()
const scene = useScene()
const gear = useGear()
const view = useView()
const found = ref<Explanation[]>([])
let job: Job<Explanation[]> | undefined

watchDebounced(
  [() => channel, () => run.id, () => patch, () => gear.all],
  async () => {
    job?.cancel()
    const asking = startExplanations(channel, run.id, patch, gear.all)
    job = asking
    const answer = await asking.result
    if (job === asking) found.value = answer
  },
  // while many clips come in, only the one that stays is explained
  { immediate: true, debounce: 400 },
)
onScopeDispose(() => job?.cancel())

const words = ({ cause }: Explanation) => explanationWords(cause, (metres) => distance(metres, view.imperial))
const history = useHistory()
/** Undone where it was done: the undo of another station would take back something else. */
const accept = ({ edits }: Explanation) =>
  history.perform(historyPlaces.proofs(sceneId), {
    name: `what explains ${clip}`,
    ...scene.actsOf(edits.map(toRaw)),
  })
/** A control that was moved since is not to be turned by what an earlier clip says. */
const canAccept = ({ cause, edits }: Explanation) =>
  edits.length > 0 && (cause.kind !== 'control' || patch === scene.patch)
const percent = (share: number) => `${Math.round(share * 100)} %`
const elsePercent = computed(() => percent(1 - found.value.reduce((sum, { belief }) => sum + belief, 0)))
/** Two of them are nearly as good when nothing but the clip is known. */
const isOpen = computed(() => found.value.length > 1 && found.value[0]!.belief - found.value[1]!.belief < 0.2)
</script>

<template>
  <div v-if="found.length" class="explains">
    <h3>What explains it</h3>
    <ul>
      <li v-for="each in found" :key="words(each)">
        <span>{{ words(each) }}</span>
        <span class="figure">{{ percent(each.belief) }}</span>
        <Button
          v-if="canAccept(each)"
          label="Accept"
          size="small"
          severity="secondary"
          :aria-label="`Accept: ${words(each)}`"
          @click="accept(each)"
        />
        <meter :value="each.belief" max="1" :aria-label="`Likelihood: ${percent(each.belief)}`"></meter>
      </li>
    </ul>
    <p class="quiet">
      Something else: {{ elsePercent }}.
      <template v-if="isOpen"
        >One clip cannot tell the first two apart: check the box, or measure the distance.</template
      >
      Accept changes the plan of this scene; undo takes it back.
    </p>
  </div>
</template>

<style scoped>
.explains {
  padding-top: 12px;
}
h3 {
  font-size: var(--small);
  font-stretch: 88%;
  font-weight: 650;
  padding-bottom: 4px;
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto 76px;
  gap: 4px 10px;
  align-items: center;
  border-top: 1px solid var(--ink);
  padding: 6px 0;
}
meter {
  grid-column: 1 / -1;
  width: 100%;
  height: 6px;
}
meter::-webkit-meter-bar {
  background: var(--rule);
  border: 0;
  border-radius: 0;
  height: 6px;
}
meter::-webkit-meter-optimum-value {
  background: var(--brass);
  border-radius: 0;
}
p {
  font-size: var(--small);
}
</style>
