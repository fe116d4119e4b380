<script setup lang="ts">
import { computed } from 'vue'
import {
  equivalentFocalLengthMm,
  typicalRooms,
  vocalEffortName,
  vocalEfforts,
} from '@iron-hush/core/acoustics'
import { type Brief, Framing, Sensor, withFeedLevel } from '@iron-hush/core/model'
import InlineChoice from '../../parts/InlineChoice.vue'
import { usualFeeds } from '@iron-hush/core/advice'
import { isolated } from '@iron-hush/core/words'
import NumberField from '../../parts/NumberField.vue'
import type { useBriefChanges } from './changing'

/** The brief of one source as a paragraph that is edited in place. */
const props = defineProps<{
  brief: Brief
  source: Brief['sources'][number]
  changes: ReturnType<typeof useBriefChanges>
}>()
// the changes keep their own eye on the brief: they are the same for as long as the station is open
const { acoustic, placesOfSource, change } = props.changes
const feed = computed(() => (props.source.kind === 'line' ? props.source : undefined))

/** Where a noise comes from, as the microphones at the places of this source stand to it; -1 for all round. */
const sides = [
  { value: -1, name: 'all round' },
  { value: 0, name: 'in front of the microphone' },
  { value: 45, name: '45\u00B0 off its axis' },
  { value: 90, name: '90\u00B0 off its axis' },
  { value: 135, name: '135\u00B0 off its axis' },
  { value: 180, name: 'behind the microphone' },
]
const sideOf = (noise: string): number =>
  placesOfSource.value[0]?.noises?.find((each) => each.noise === noise)?.angleDeg ?? -1
/** Efforts of a voice by name, and a level that is none of them. */
function effortsWith(levelDba: number) {
  const named: { name: string; value: number }[] = vocalEfforts.map(({ name, levelDba: value }) => ({
    name,
    value,
  }))
  return named.some(({ value }) => value === levelDba)
    ? named
    : [...named, { name: vocalEffortName(levelDba), value: levelDba }].sort(
        (one, other) => one.value - other.value,
      )
}
const quick = <V extends string>(values: readonly V[]) => values.map((value) => ({ value, name: value }))
const roomChoices = computed(() =>
  typicalRooms.some(({ name }) => name === props.brief.room.name)
    ? [...typicalRooms]
    : [...typicalRooms, props.brief.room],
)
const heardAt = (place: Brief['places'][number]) =>
  place.hears.find((each) => each.source === props.source.id)?.distanceM ?? 0
const feedMoments = [
  { id: 'typical', words: '' },
  { id: 'quietest', words: ', down to ' },
  { id: 'loudest', words: ' and up to ' },
] as const
/** A role takes an article, a proper name does not. */
const opening = computed(() => {
  const { name } = props.source
  return /^\p{Lu}/u.test(name) ? name : `The ${name.replace(/^(the|an?) /, '')}`
})
</script>

<template>
  <p v-if="acoustic" class="paragraph">
    {{ opening
    }}<template v-if="acoustic.kind === 'speech'"
      >,
      <InlineChoice
        :model-value="acoustic.movement"
        :options="quick(['seated', 'standing', 'walking'] as const)"
        label="Movement"
        @update:model-value="changes.changeSource({ movement: $event }, 'the movement')"
      />, speaks at
      <InlineChoice
        :model-value="acoustic.levelsDba.typical"
        :options="effortsWith(acoustic.levelsDba.typical)"
        label="Effort"
        @update:model-value="changes.levels({ typical: $event })"
      />
      effort,
    </template>
    <template v-else> is heard at </template>
    <NumberField
      :model-value="acoustic.levelsDba.typical"
      :min="0"
      :max="150"
      unit="dB(A)"
      label="Typical level"
      @update:model-value="changes.levels({ typical: $event })"
    />
    at 1 m, down to
    <NumberField
      :model-value="acoustic.levelsDba.quietest"
      :min="0"
      :max="150"
      unit="dB(A)"
      label="Quietest"
      @update:model-value="changes.levels({ quietest: $event })"
    />
    and up to
    <NumberField
      :model-value="acoustic.levelsDba.loudest"
      :min="0"
      :max="150"
      :decimals="1"
      unit="dB(A)"
      label="Loudest"
      @update:model-value="changes.levels({ loudest: $event })"
    />, with peaks
    <NumberField
      :model-value="acoustic.crestDb"
      :min="0"
      :max="40"
      unit="dB"
      label="Crest"
      @update:model-value="changes.changeSource({ crestDb: $event }, 'the crest')"
    />
    above, framed
    <InlineChoice
      :model-value="brief.picture.framing"
      :options="quick(Framing.options)"
      label="Framing"
      @update:model-value="changes.changePicture({ framing: $event })"
    />
    with a
    <NumberField
      :model-value="brief.picture.focalLengthMm"
      :min="1"
      :max="2000"
      unit="mm"
      label="Focal length"
      @update:model-value="changes.changePicture({ focalLengthMm: $event })"
    />
    lens on
    <InlineChoice
      :model-value="brief.picture.sensor"
      :options="quick(Sensor.options)"
      label="Sensor"
      @update:model-value="changes.changePicture({ sensor: $event })"
    />
    <span class="quiet"
      >({{ equivalentFocalLengthMm(brief.picture.focalLengthMm, brief.picture.sensor).toFixed(0) }} mm on full
      frame)</span
    >. The room is
    <InlineChoice
      :model-value="brief.room.name"
      :options="roomChoices.map(({ name }) => ({ value: name, name }))"
      label="Room"
      @update:model-value="change({ room: roomChoices.find(({ name }) => name === $event)! }, 'the room')"
    /><template v-if="!brief.room.outdoors"
      >, reverberation
      <NumberField
        :model-value="brief.room.reverberationS"
        :min="0.05"
        :max="20"
        :decimals="2"
        unit="s"
        label="Reverberation"
        @update:model-value="changes.changeRoom({ reverberationS: $event })"
      /> </template
    ><template v-for="noise in brief.noises" :key="noise.id"
      >, with {{ isolated(noise.name) }} at
      <NumberField
        :model-value="noise.levelDba"
        :min="0"
        :max="140"
        unit="dB(A)"
        :label="`Level of ${noise.name}`"
        @update:model-value="changes.changeNoiseLevel(noise.id, $event)" />,
      <InlineChoice
        :model-value="sideOf(noise.id)"
        :options="sides"
        :label="`Where ${noise.name} comes from`"
        @update:model-value="changes.changeSide(noise.id, $event)" /></template
    >. Wind:
    <InlineChoice
      :model-value="brief.wind"
      :options="quick(['none', 'breeze', 'gusts'] as const)"
      label="Wind"
      @update:model-value="change({ wind: $event }, 'the wind')"
    />.
    <template v-for="place in placesOfSource" :key="place.id">
      Microphone ({{ isolated(place.name) }}):
      <NumberField
        :model-value="heardAt(place)"
        :min="0.01"
        :max="200"
        :step="0.05"
        :decimals="2"
        unit="m"
        :label="`Distance of ${place.name}`"
        @update:model-value="changes.changeDistance(place.id, $event)"
      />
      away.
    </template>
  </p>
  <p v-else-if="feed" class="paragraph">
    {{ opening }} arrives as a line signal: no microphone to place. Its level is
    <template v-for="(moment, index) in feedMoments" :key="moment.id"
      >{{ moment.words
      }}<NumberField
        :model-value="feed.levelsDbu[moment.id]"
        :min="-80"
        :max="30"
        :decimals="1"
        unit="dBu"
        :label="`${moment.id} level of ${feed.name}`"
        @update:model-value="
          change(withFeedLevel(brief, feed, { [moment.id]: $event }), 'the level of the feed')
        "
      />{{ index === feedMoments.length - 1 ? '.' : '' }}</template
    >
  </p>
  <p v-if="feed" class="quiet">
    Not known yet? Usual levels:
    <template v-for="(usual, index) in usualFeeds" :key="usual.name"
      >{{ index ? ', ' : ''
      }}<button
        type="button"
        class="usual"
        @click="change(withFeedLevel(brief, feed, usual.levelsDbu), 'the level of the feed')"
      >
        {{ usual.name }}
      </button></template
    >. Ask whoever sends it for the loudest level before the day.
  </p>
</template>

<style scoped>
.paragraph {
  font-size: var(--lead);
  line-height: 2.05;
}
.usual {
  border: 0;
  background: none;
  padding: 0;
  cursor: pointer;
  color: inherit;
  text-decoration: underline;
  text-underline-offset: 3px;
}
</style>
