import { computed, type Ref } from 'vue'
import {
  type Brief,
  movedLevels,
  type Source,
  withDistance,
  withNoiseAngle,
  withNoiseLevel,
} from '@iron-hush/core/model'
import { withPicture } from '@iron-hush/core/advice'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'

type Acoustic = Exclude<Source, { kind: 'line' }>

/** Every change that the sentences of a brief offer, for one of its sources. */
export function useBriefChanges(brief: Ref<Brief>, source: Ref<Source>) {
  const scene = useScene()
  const gear = useGear()
  const acoustic = computed(() => (source.value.kind === 'line' ? undefined : source.value))
  const placesOfSource = computed(() =>
    brief.value.places.filter(({ hears }) => hears.some((each) => each.source === source.value.id)),
  )
  const change = (to: Partial<Brief>, name: string) =>
    scene.change([{ kind: 'change brief', to }], name, `brief ${name}`)
  function changeSource(to: Partial<Acoustic>, name: string): void {
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
    change(withPicture(scene.openPatch, gear.shelf, { ...brief.value.picture, ...to }), 'the picture')
  const changeRoom = (to: Partial<Brief['room']>) =>
    change({ room: { ...brief.value.room, ...to } }, 'the room')
  const changeNoiseLevel = (id: string, levelDba: number) =>
    change({ noises: withNoiseAt(brief.value.noises, id, levelDba) }, 'the noise')
  const changeDistance = (place: string, distanceM: number) =>
    change({ places: withDistance(brief.value, place, source.value.id, distanceM) }, 'the distance')

  const changeSide = (noise: string, angleDeg: number) =>
    change(
      {
        places: withNoiseAngle(
          brief.value,
          new Set(placesOfSource.value.map(({ id }) => id)),
          noise,
          angleDeg < 0 ? null : angleDeg,
        ),
      },
      'where the noise comes from',
    )

  return {
    acoustic,
    placesOfSource,
    change,
    changeSource,
    levels,
    changePicture,
    changeRoom,
    changeNoiseLevel,
    changeDistance,
    changeSide,
  }
}

const withNoiseAt = (noises: Brief['noises'], id: string, levelDba: number): Brief['noises'] =>
  noises.map((noise) => (noise.id === id ? withNoiseLevel(noise, levelDba) : noise))
