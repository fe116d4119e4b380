<script setup lang="ts">
import Select from 'primevue/select'
import { computed, ref, watch } from 'vue'
import { candidatePlaces, onCameraReach } from '@iron-hush/core/acoustics'
import { withNewPlace } from '@iron-hush/core/model'
import { reachWords } from '@iron-hush/core/words'
import { distance } from '../../state/lengths'
import { useScene } from '../../state/scene'
import { useView } from '../../state/view'
import SceneTabs from '../../frame/SceneTabs.vue'
import AfterPaint from '../../parts/AfterPaint.vue'
import BriefParagraph from './BriefParagraph.vue'
import BriefParts from './BriefParts.vue'
import BriefPurpose from './BriefPurpose.vue'
import { useBriefChanges } from './changing'
import FeedDrawing from './FeedDrawing.vue'
import PlanDrawing from './PlanDrawing.vue'
import RankedPlaces from './RankedPlaces.vue'
import RoomSurvey from './RoomSurvey.vue'

const scene = useScene()
const view = useView()
const brief = computed(() => scene.openPatch.brief)
const chosen = ref('')
// the verdict below is about the selected run: so is this paragraph, until another source is chosen
watch(
  () => scene.run?.source.id ?? '',
  (id) => (chosen.value = id),
  { immediate: true },
)
const source = computed(
  () => brief.value.sources.find(({ id }) => id === chosen.value) ?? brief.value.sources[0]!,
)
const ranked = computed(() => candidatePlaces(brief.value, source.value.id))
const reach = computed(() => onCameraReach(brief.value, source.value.id))
const shownDistance = (metres: number) => distance(metres, view.imperial)
const changes = useBriefChanges(brief, source)
const { acoustic, change } = changes
</script>

<template>
  <section class="station">
    <div class="station-head">
      <h1>Brief</h1>
      <SceneTabs />
      <Select
        v-if="brief.sources.length > 1"
        :model-value="source.id"
        :options="brief.sources"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Who or what"
        @update:model-value="chosen = $event"
      />
    </div>
    <div class="body">
      <div class="words">
        <BriefParagraph :brief :source :changes />
        <p v-if="brief.wind !== 'none'" class="quiet">
          {{
            brief.wind === 'gusts'
              ? 'Gusts need a full basket and fur; plan cover for every microphone outdoors.'
              : 'A breeze needs fur over the foam.'
          }}
          A rule of thumb.
        </p>

        <AfterPaint :frames="2">
          <BriefPurpose />
          <BriefParts />
          <RoomSurvey :brief @change="change" />
          <RankedPlaces
            v-if="acoustic"
            :places="ranked"
            :is-voice="source.kind === 'speech'"
            @take="change(withNewPlace(brief, $event), 'adding a place')"
          />
        </AfterPaint>
        <p v-if="reach" class="quiet">{{ reachWords(reach, shownDistance) }}</p>
        <p v-if="acoustic?.movement === 'walking'" class="quiet">
          Nothing can be adjusted while walking or working: set it up beforehand, with breakaway cables.
        </p>
      </div>
      <AfterPaint v-if="acoustic">
        <PlanDrawing :brief :source="source.id" :imperial="view.imperial" @move="changes.changeDistance" />
      </AfterPaint>
      <AfterPaint v-else-if="source.kind === 'line'">
        <FeedDrawing :feed="source" />
      </AfterPaint>
    </div>
  </section>
</template>

<style scoped>
.body {
  display: grid;
  grid-template-columns: minmax(480px, 1.15fr) minmax(340px, 1fr);
  gap: 24px;
  padding: 6px 18px 18px;
  min-height: 0;
  overflow: auto;
}
.words {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  align-content: start;
  gap: 14px;
}
@media (max-width: 900px) {
  .body {
    grid-template-columns: minmax(0, 1fr);
    align-content: start;
  }
}
</style>
