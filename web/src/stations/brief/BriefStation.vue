<script setup lang="ts">
import InputNumber from 'primevue/inputnumber'
import Select from 'primevue/select'
import { computed, ref } from 'vue'
import {
  candidatePlaces,
  equivalentFocalLengthMm,
  typicalRooms,
  vocalEfforts,
} from '@iron-hush/core/acoustics'
import {
  type Brief,
  Framing,
  movedLevels,
  Sensor,
  type Source,
  withDistance,
  withNoiseAngle,
} from '@iron-hush/core/model'
import { useScene } from '../../state/scene'
import { distance } from '../../state/lengths'
import { useView } from '../../state/view'
import PlanDrawing from './PlanDrawing.vue'

const scene = useScene()
const view = useView()
const brief = computed(() => scene.patch!.brief)
const chosen = ref('')
const source = computed(
  () => brief.value.sources.find(({ id }) => id === chosen.value) ?? brief.value.sources[0]!,
)
const acoustic = computed(() => (source.value.kind === 'line' ? undefined : source.value))
const ranked = computed(() => candidatePlaces(brief.value, source.value.id))
const widest = computed(() =>
  Math.max(
    1,
    ...ranked.value.map(({ overEverythingDb }) => (Number.isFinite(overEverythingDb) ? overEverythingDb : 0)),
  ),
)

const change = (to: Partial<Brief>, name: string) =>
  scene.change([{ kind: 'change brief', to }], name, `brief ${name}`)
function changeSource(
  to: Partial<Extract<Source, { kind: 'speech' | 'strike' | 'music' | 'machine' }>>,
  name: string,
): void {
  const now = acoustic.value
  if (now)
    change(
      { sources: brief.value.sources.map((each) => (each.id === now.id ? { ...now, ...to } : each)) },
      name,
    )
}
const levels = (to: Partial<{ quietest: number; typical: number; loudest: number }>) => {
  const now = acoustic.value
  if (!now) return
  changeSource({ levelsDba: movedLevels(now.levelsDba, to) }, 'the level')
}
const changePicture = (to: Partial<Brief['picture']>) =>
  change({ picture: { ...brief.value.picture, ...to } }, 'the picture')
const changeRoom = (to: Partial<Brief['room']>) =>
  change({ room: { ...brief.value.room, ...to } }, 'the room')
const changeNoise = (id: string, to: Partial<Brief['noises'][number]>) =>
  change(
    { noises: brief.value.noises.map((noise) => (noise.id === id ? { ...noise, ...to } : noise)) },
    'the noise',
  )
const changeDistance = (place: string, distanceM: number) =>
  change({ places: withDistance(brief.value, place, source.value.id, distanceM) }, 'the distance')

/** Where a noise comes from, as the microphones at the places of this source stand to it; -1 for all round. */
const sides = [
  { angleDeg: -1, name: 'all round' },
  { angleDeg: 0, name: 'in front of the microphone' },
  { angleDeg: 45, name: '45\u00B0 off its axis' },
  { angleDeg: 90, name: '90\u00B0 off its axis' },
  { angleDeg: 135, name: '135\u00B0 off its axis' },
  { angleDeg: 180, name: 'behind the microphone' },
]
const sideOf = (noise: string): number =>
  placeOfSource.value[0]?.noises?.find((each) => each.noise === noise)?.angleDeg ?? -1
const changeSide = (noise: string, angleDeg: number) =>
  change(
    {
      places: withNoiseAngle(
        brief.value,
        new Set(placeOfSource.value.map(({ id }) => id)),
        noise,
        angleDeg < 0 ? null : angleDeg,
      ),
    },
    'where the noise comes from',
  )

/** Efforts offered, and the level as it is where that is none of them. */
function effortsWith(levelDba: number) {
  const named: { name: string; levelDba: number }[] = vocalEfforts.map(({ name, levelDba: db }) => ({
    name: `${name}, ${db} dB(A)`,
    levelDba: db,
  }))
  return named.some((each) => each.levelDba === levelDba)
    ? named
    : [...named, { name: `${levelDba} dB(A)`, levelDba }].sort((one, other) => one.levelDba - other.levelDba)
}
const quick = (values: readonly string[]) => values.map((id) => ({ id, name: id }))
const roomChoices = computed(() =>
  typicalRooms.some(({ name }) => name === brief.value.room.name)
    ? [...typicalRooms]
    : [...typicalRooms, brief.value.room],
)
const placeOfSource = computed(() =>
  brief.value.places.filter(({ hears }) => hears.some((each) => each.source === source.value.id)),
)
const heardAt = (place: Brief['places'][number]) =>
  place.hears.find((each) => each.source === source.value.id)!.distanceM
const step = 0.05
</script>

<template>
  <section class="station">
    <div class="station-head">
      <h1>Brief</h1>
      <div class="tabs" role="tablist" aria-label="Scenes">
        <button
          v-for="each in scene.shoots.flatMap(({ scenes }) => scenes)"
          :key="each.id"
          type="button"
          role="tab"
          :aria-selected="each.id === scene.document!.id"
          @click="scene.goTo(each.id)"
        >
          {{ each.id === scene.document!.id ? scene.patch!.name : each.name }}
        </button>
      </div>
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
        <p v-if="acoustic" class="paragraph">
          The {{ acoustic.name }},
          <Select
            class="inline"
            :model-value="acoustic.movement"
            :options="quick(['seated', 'standing', 'walking'])"
            option-label="name"
            option-value="id"
            aria-label="Movement"
            @update:model-value="changeSource({ movement: $event }, 'the movement')"
          />, is heard
          <Select
            class="inline"
            :model-value="acoustic.levelsDba.typical"
            :options="effortsWith(acoustic.levelsDba.typical)"
            option-label="name"
            option-value="levelDba"
            aria-label="Typical level"
            @update:model-value="levels({ typical: $event })"
          />
          at 1 m, down to
          <InputNumber
            class="inline number"
            :model-value="acoustic.levelsDba.quietest"
            :min="0"
            :max="150"
            suffix=" dB(A)"
            aria-label="Quietest"
            @update:model-value="levels({ quietest: $event })"
          />
          and up to
          <InputNumber
            class="inline number"
            :model-value="acoustic.levelsDba.loudest"
            :min="0"
            :max="150"
            :max-fraction-digits="1"
            suffix=" dB(A)"
            aria-label="Loudest"
            @update:model-value="levels({ loudest: $event })"
          />, with peaks
          <InputNumber
            class="inline number"
            :model-value="acoustic.crestDb"
            :min="0"
            :max="40"
            suffix=" dB"
            aria-label="Crest"
            @update:model-value="changeSource({ crestDb: $event }, 'the crest')"
          />
          above, framed
          <Select
            class="inline"
            :model-value="brief.picture.framing"
            :options="quick(Framing.options)"
            option-label="name"
            option-value="id"
            aria-label="Framing"
            @update:model-value="changePicture({ framing: $event })"
          />
          with a
          <InputNumber
            class="inline number"
            :model-value="brief.picture.focalLengthMm"
            :min="1"
            :max="2000"
            suffix=" mm"
            aria-label="Focal length"
            @update:model-value="changePicture({ focalLengthMm: $event })"
          />
          lens on
          <Select
            class="inline"
            :model-value="brief.picture.sensor"
            :options="quick(Sensor.options)"
            option-label="name"
            option-value="id"
            aria-label="Sensor"
            @update:model-value="changePicture({ sensor: $event })"
          />
          <span class="quiet"
            >({{ equivalentFocalLengthMm(brief.picture.focalLengthMm, brief.picture.sensor).toFixed(0) }} mm
            on full frame)</span
          >. The room is
          <Select
            class="inline"
            :model-value="brief.room.name"
            :options="roomChoices"
            option-label="name"
            option-value="name"
            aria-label="Room"
            @update:model-value="
              change({ room: roomChoices.find(({ name }) => name === $event)! }, 'the room')
            "
          />
          <template v-if="!brief.room.outdoors">
            that rings for
            <InputNumber
              class="inline number"
              :model-value="brief.room.reverberationS"
              :min="0.05"
              :max="20"
              :max-fraction-digits="2"
              suffix=" s"
              aria-label="Reverberation"
              @update:model-value="changeRoom({ reverberationS: $event })"
            /> </template
          ><template v-for="noise in brief.noises" :key="noise.id"
            >, with {{ noise.name }} at
            <InputNumber
              class="inline number"
              :model-value="noise.levelDba"
              :min="0"
              :max="140"
              suffix=" dB(A)"
              :aria-label="`Level of ${noise.name}`"
              @update:model-value="changeNoise(noise.id, { levelDba: $event })" />,
            <Select
              class="inline"
              :model-value="sideOf(noise.id)"
              :options="sides"
              option-label="name"
              option-value="angleDeg"
              :aria-label="`Where ${noise.name} comes from`"
              @update:model-value="changeSide(noise.id, $event)" /></template
          >. Wind:
          <Select
            class="inline"
            :model-value="brief.wind"
            :options="quick(['none', 'breeze', 'gusts'])"
            option-label="name"
            option-value="id"
            aria-label="Wind"
            @update:model-value="change({ wind: $event }, 'the wind')"
          />.
          <template v-for="place in placeOfSource" :key="place.id">
            The place {{ place.name }} is
            <InputNumber
              class="inline number"
              :model-value="heardAt(place)"
              :min="0.01"
              :max="200"
              :step
              :max-fraction-digits="2"
              suffix=" m"
              :aria-label="`Distance of ${place.name}`"
              @update:model-value="changeDistance(place.id, $event)"
            />
            off.
          </template>
        </p>
        <p v-else class="paragraph">
          {{ source.name }} comes as a line feed: nothing to place. Its levels are in the patch file.
        </p>
        <p v-if="brief.wind !== 'none'" class="quiet">
          {{
            brief.wind === 'gusts'
              ? 'Gusts want a full basket and fur; plan cover for every microphone outdoors.'
              : 'A breeze wants fur over the foam.'
          }}
          A rule of thumb.
        </p>

        <h2 id="ranking">Places for the microphone, voice over everything else</h2>
        <ol v-if="ranked.length" aria-labelledby="ranking">
          <li
            v-for="(place, index) in ranked"
            :key="place.name + place.patternName"
            :class="{ best: index === 0 }"
          >
            <span class="place"
              >{{ place.name }}
              <span class="quiet"
                >{{ place.patternName }}, {{ distance(place.distanceM, view.imperial) }}</span
              ></span
            >
            <span class="bar"
              ><i
                :style="{
                  width: `${Math.max(0, (100 * Math.min(place.overEverythingDb, widest)) / widest)}%`,
                }"
              ></i
            ></span>
            <span class="figure">{{
              Number.isFinite(place.overEverythingDb)
                ? `${place.overEverythingDb.toFixed(1).replace('-', '\u2212')} dB`
                : 'no noise'
            }}</span>
            <span class="why">{{ place.why }}</span>
          </li>
        </ol>
        <p v-if="acoustic?.movement === 'walking'" class="quiet">
          Nothing to set while walking or working: settle it before, with cables that let go.
        </p>
      </div>
      <PlanDrawing :brief :source="source.id" :imperial="view.imperial" />
    </div>
  </section>
</template>

<style scoped>
.tabs {
  display: flex;
  flex: 1;
  flex-wrap: wrap;
}
.tabs button {
  border: 1px solid var(--rule);
  background: none;
  margin-right: -1px;
  padding: 4px 12px;
  cursor: pointer;
  font-stretch: 85%;
}
.tabs [aria-selected='true'] {
  background: var(--ink);
  color: var(--sheet);
  border-color: var(--ink);
}
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
  align-content: start;
  gap: 14px;
}
.paragraph {
  font-size: 17px;
  line-height: 2.05;
}
.inline {
  border-width: 0 0 1.5px;
  border-color: var(--brass);
  background: var(--brass-wash);
  vertical-align: baseline;
  display: inline-flex;
  border-radius: 2px 2px 0 0;
}
.inline :deep(.p-select-label) {
  padding: 0 2px 0 6px;
  font-size: 16px;
  font-weight: 600;
}
.inline :deep(.p-select-dropdown) {
  width: 22px;
}
.number :deep(input) {
  border: 0;
  background: none;
  padding: 0 6px;
  font-size: 15px;
  font-weight: 600;
  width: 74px;
}
.number {
  height: 29px;
  border-bottom: 1.5px solid var(--brass);
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--rule);
}
li {
  display: grid;
  grid-template-columns: 1fr 130px 70px;
  gap: 2px 12px;
  align-items: center;
  padding: 6px 0;
  border-bottom: 1px solid var(--rule);
}
li .figure {
  text-align: right;
}
.why {
  grid-column: 1 / -1;
  font-size: 12px;
  color: var(--quiet);
}
.best .place {
  font-weight: 650;
}
.bar {
  height: 9px;
  border: 1px solid var(--brass);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--brass);
}
@media (max-width: 900px) {
  .body {
    grid-template-columns: 1fr;
  }
}
</style>
