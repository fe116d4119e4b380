<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { freeName } from '@iron-hush/core/model'
import { type Planned, scenarios, unknownCameras } from '@iron-hush/core/plan'
import { useShoots } from '../../state/shoots'
import PlanVerdict from './PlanVerdict.vue'
import { suggestId, usePlanning } from './planning'
import QuestionRow from './QuestionRow.vue'
import { ownShoot } from '../../state/scene-files'
import ShootList from './ShootList.vue'
import WhichLead from './WhichLead.vue'

const router = useRouter()
const shoots = useShoots()
const planning = usePlanning()
const { films, hears, heardBy, outdoors, far, planned, running, progress, camera } = planning

const cameras = computed(() => [
  ...planning.cameraChoices.value,
  ...unknownCameras.map(({ gear, name, note }) => ({
    id: gear.id,
    name: `Not on the shelf: ${name}`,
    note,
    owned: false,
  })),
])
const heard = scenarios.map(({ id, name, note }) => ({ id, name, note, owned: false }))
const microphones = computed(() => [
  { id: suggestId, name: 'Suggest something', note: 'tries all you own', owned: false },
  ...planning.heardWithChoices.value.filter(({ owned }) => owned),
  ...planning.heardWithChoices.value.filter(({ owned }) => !owned),
])
/** Most answers shown as buttons; the others are found by typing. */
const most = 6

/** Makes the scene as it was planned, and opens it on the recording that its verdict is about. */
async function open({ patch, run }: Planned): Promise<void> {
  const shoot = await ownShoot()
  const names = shoots.list.find((each) => each.id === shoot)?.scenes.map(({ name }) => name) ?? []
  const id = shoot && (await shoots.makeScene(shoot, { ...patch, name: freeName(patch.name, names) }))
  if (id) await router.push({ name: 'levels', params: { scene: id }, query: { run: run?.id } })
}
</script>

<template>
  <div class="start">
    <section class="plan">
      <h1>Plan a scene</h1>
      <p class="quiet">
        Three answers are enough. Change any of them later; what you do not know is set to a typical value.
      </p>
      <QuestionRow
        :model-value="camera?.id ?? ''"
        title="What films?"
        note="the box the sound ends in"
        :choices="cameras"
        :most
        @update:model-value="films = $event"
      />
      <QuestionRow v-model="hears" title="Who is heard?" note="and where" :choices="heard">
        <span class="where">
          <label><input v-model="far" type="checkbox" /> keep the microphone out of a wide shot</label>
          <label
            ><input
              type="checkbox"
              :checked="outdoors ?? planning.scenario.value.brief.room.outdoors ?? false"
              @change="outdoors = ($event.target as HTMLInputElement).checked"
            />
            outdoors</label
          >
        </span>
      </QuestionRow>
      <QuestionRow
        :model-value="planning.heardWithId.value"
        title="Heard with?"
        note="owned first"
        :choices="microphones"
        :most
        @update:model-value="heardBy = $event"
      />
      <PlanVerdict :planned :running :progress @open="open" />
    </section>
    <aside>
      <ShootList />
      <WhichLead />
    </aside>
  </div>
</template>

<style scoped>
.start {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 400px;
  min-height: 100%;
}
.plan {
  padding: 20px 28px 20px 18px;
  display: grid;
  align-content: start;
}
.plan > .quiet {
  padding: 4px 0 14px;
}
.where {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 14px;
  align-items: center;
  font-size: var(--small);
}
.where label {
  display: flex;
  gap: 5px;
  align-items: center;
  accent-color: var(--ink);
}
aside {
  border-left: 1px solid var(--rule);
  padding: 20px 18px;
}
@media (max-width: 900px) {
  .start {
    grid-template-columns: 1fr;
  }
  aside {
    border-left: 0;
    border-top: 1px solid var(--ink);
  }
}
</style>
