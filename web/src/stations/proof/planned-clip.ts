import { computed } from 'vue'
import { asTaken } from '@iron-hush/core/advice'
import { levelsOfPatch, runsOfClip } from '@iron-hush/core/levels'
import type { ProofRecord } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { useTakeParts } from '../../state/take-parts'
import { useTakes } from '../../state/takes'

/** The plan for a clip, with the controls as they stood when it was recorded if its take has them. */
export function usePlannedClip(proof: () => ProofRecord) {
  const scene = useScene()
  const gear = useGear()
  const takes = useTakes()
  const { changedSince } = useTakeParts()

  const taken = computed(() => takes.list.find(({ id }) => id === proof().take?.id))
  const patch = computed(() =>
    scene.patch && taken.value ? asTaken(scene.patch, taken.value.parts, gear.shelf) : scene.patch,
  )
  /** Changes since then, in words. */
  const changes = computed(() => (taken.value ? changedSince(taken.value) : []))
  const levels = computed(() =>
    patch.value && patch.value !== scene.patch ? levelsOfPatch(patch.value, gear.shelf) : scene.levels,
  )
  /** The run each channel is held against: the chosen recording, then the tracks of the same box that it names. */
  const runs = computed(() => {
    const { recording, measurement } = proof()
    return recording && levels.value
      ? runsOfClip(levels.value, recording, measurement.channels.length, measurement.stream.channelNames)
      : []
  })
  return { taken, patch, changes, runs }
}
