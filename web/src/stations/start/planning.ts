import { computed, ref, shallowRef, watch } from 'vue'
import { patternDb } from '@iron-hush/core/acoustics'
import type { Gear } from '@iron-hush/core/model'
import {
  type HeardWith,
  heardWithChoices,
  isOwned,
  type Planned,
  scenarios,
  unknownCameras,
} from '@iron-hush/core/plan'
import { useGear } from '../../state/gear'
import { useNotices } from '../../state/notices'
import { type Job, startPlan, startSuggest } from '../../workers/compute'

/** One answer of a question, as it is offered. */
export interface Choice {
  id: string
  name: string
  note: string
  owned: boolean
}

export const suggestId = 'suggest'

const idOf = (heardWith: HeardWith): string =>
  heardWith === 'built in' ? 'built-in' : `${heardWith.microphone.id}${heardWith.radio ? ' by radio' : ''}`

/** A camera as most have it: a level by hand and a mini socket. */
const isUsual = ({ owned, ports, controls }: Gear): boolean =>
  owned > 0 &&
  controls.length > 0 &&
  ports.some(({ connector, direction }) => connector === 'mini-3' && direction === 'in')

/** What is owned and on a boom, the more directional the likelier. */
function directness(heardWith: HeardWith): number {
  if (heardWith === 'built in' || !isOwned(heardWith)) return -100
  const { mount = 'boom', strips } = heardWith.microphone
  const capsule = strips.flatMap(({ stages }) => stages).find(({ kind }) => kind === 'transducer')
  const side = capsule?.kind === 'transducer' ? patternDb(capsule.pattern, 90) : 0
  return (mount === 'boom' ? 50 : 0) - Math.max(-40, side)
}

/** The three answers, the chains that follow from them, and what else would do. */
export function usePlanning() {
  const gear = useGear()
  const films = ref('')
  const hears = ref(scenarios[0]!.id)
  const heardBy = ref('')
  const outdoors = ref<boolean>()
  const far = ref(false)

  const byName = (one: Gear, other: Gear) =>
    Number(other.owned > 0) - Number(one.owned > 0) || one.name.localeCompare(other.name)
  const cameras = computed(() => gear.all.filter(({ kind }) => kind === 'camera').sort(byName))
  const camera = computed(
    () =>
      gear.of(films.value) ??
      unknownCameras.find(({ gear: each }) => each.id === films.value)?.gear ??
      cameras.value.find(isUsual) ??
      cameras.value[0],
  )
  const scenario = computed(() => scenarios.find(({ id }) => id === hears.value) ?? scenarios[0]!)
  const heardWith = computed(() =>
    (camera.value ? heardWithChoices(camera.value, gear.shelf) : []).sort(
      (one, other) => Number(isOwned(other)) - Number(isOwned(one)),
    ),
  )
  const chosen = computed(
    () =>
      heardWith.value.find((each) => idOf(each) === heardBy.value) ??
      heardWith.value.reduce<HeardWith | undefined>(
        (best, each) => (best && directness(best) >= directness(each) ? best : each),
        undefined,
      ),
  )

  const planned = shallowRef<Planned[]>([])
  const running = ref(false)
  const progress = ref<number>()
  let job: Job<Planned[]> | undefined

  async function plan(): Promise<void> {
    job?.cancel()
    if (!camera.value) return
    const asked = {
      camera: camera.value,
      scenario: scenario.value,
      outdoors: outdoors.value,
      far: far.value,
    }
    if (heardBy.value !== suggestId && !chosen.value) return
    running.value = true
    progress.value = undefined
    const mine =
      heardBy.value === suggestId
        ? startSuggest(asked, gear.all, (share) => {
            if (job === mine) progress.value = share
          })
        : startPlan({ ...asked, heardWith: chosen.value! }, gear.all)
    job = mine
    try {
      const found = await mine.result
      if (job === mine) planned.value = found
    } catch (error) {
      useNotices().say(error instanceof Error ? error.message : String(error))
    } finally {
      if (job === mine) running.value = false
    }
  }
  watch([camera, scenario, chosen, heardBy, outdoors, far], () => void plan(), { immediate: true })

  return {
    ...{ films, hears, heardBy, outdoors, far, planned, running, progress },
    camera,
    scenario,
    cameraChoices: computed((): Choice[] =>
      cameras.value.map(({ id, name, owned, maker }) => ({ id, name, note: maker, owned: owned > 0 })),
    ),
    heardWithChoices: computed((): Choice[] =>
      heardWith.value.map((each) => ({
        id: idOf(each),
        name:
          each === 'built in'
            ? 'What it has built in'
            : `${each.microphone.name}${each.radio ? ', by radio' : ''}`,
        note: each === 'built in' ? 'nothing to plug' : mountWords[each.microphone.mount ?? 'boom'],
        owned: isOwned(each),
      })),
    ),
    heardWithId: computed(() =>
      heardBy.value === suggestId ? suggestId : chosen.value ? idOf(chosen.value) : '',
    ),
    stop: () => job?.cancel(),
  }
}

const mountWords = {
  worn: 'worn',
  hand: 'held',
  boom: 'on a boom or stand',
  camera: 'on the camera',
  table: 'on the table',
} as const
