<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { isMyCopy, myCopyOf } from '@iron-hush/core/advice'
import type { Run } from '@iron-hush/core/levels'
import { learntCeiling, withLearntCeiling } from '@iron-hush/core/measure'
import { type ChannelMeasurement, type Gear, known } from '@iron-hush/core/model'
import { signed } from '@iron-hush/core/units'
import type { Act } from '../../state/deed'
import { useGear } from '../../state/gear'
import { historyPlaces, useHistory } from '../../state/history'
import { useScene } from '../../state/scene'
import { newId } from '../../sync/new-id'

/** The ceiling that a clip reveals: where a stage really overloads. It can be taken into one's own copy of the box. */
const { channel, run, clip, sceneId } = defineProps<{
  channel: ChannelMeasurement
  run: Run
  clip: string
  sceneId: string
}>()
const scene = useScene()
const gear = useGear()
const history = useHistory()

/** Of the copy that is made if what was learnt is accepted. */
const unique = newId()
const learnt = computed(() => learntCeiling(channel, run))
const thing = computed(() => {
  const id = scene.patch?.boxes.find((box) => box.id === learnt.value?.part)?.gear
  return id === undefined ? undefined : gear.of(id)
})
const better = computed(() => {
  if (!learnt.value || !thing.value) return undefined
  const into = isMyCopy(thing.value) ? thing.value : myCopyOf(thing.value, gear.all, unique)
  return withLearntCeiling(into, learnt.value, `Learnt from ${clip}.`)
})

function accept(): void {
  const from = known(learnt.value, 'what was learnt')
  const next = known(better.value, 'the thing it goes into')
  const name = `a ceiling learnt from ${clip}`
  const before = gear.of(next.id)
  const put = (content: Gear): Act => ({ do: 'put', kind: 'gear', content })
  const swap = before
    ? { redo: [], undo: [put(before)] }
    : scene.actsOf([{ kind: 'swap', part: from.part, gear: next.id }], [next])
  // undone where it was done; a copy that was made stays on the shelf, for it may be used elsewhere by then
  history.perform(historyPlaces.proofs(sceneId), { name, redo: [put(next), ...swap.redo], undo: swap.undo })
}
</script>

<template>
  <div v-if="learnt && better" class="learnt">
    <p>
      <b>{{ learnt.partName }}, {{ learnt.stageName.toLowerCase() }}</b> overloads at
      <span class="figure">{{ signed(learnt.learntDbu) }} dBu</span>, not at
      <span class="figure">{{ signed(learnt.plannedDbu) }} dBu</span>, if the gains after it are as planned.
      <small class="quiet"
        >{{
          gear.of(better.id) ? `Goes into ${better.name}.` : `Makes ${better.name}, and the scene uses it.`
        }}
        Undo takes it back.</small
      >
    </p>
    <Button label="Accept" size="small" severity="secondary" @click="accept()" />
  </div>
</template>

<style scoped>
.learnt {
  display: flex;
  gap: 12px;
  align-items: start;
  justify-content: space-between;
  border-top: 1px solid var(--ink);
  margin-top: 10px;
  padding-top: 8px;
}
small {
  display: block;
}
</style>
