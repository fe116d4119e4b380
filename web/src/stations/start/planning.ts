import { useSessionStorage } from '@vueuse/core'
import { computed, onUnmounted, type Ref, ref, shallowRef, watch } from 'vue'
import { z } from 'zod'
import { patternDb } from '@iron-hush/core/acoustics'
import type { Gear } from '@iron-hush/core/model'
import {
  type HeardWith,
  heardWithChoices,
  isOwned,
  type Planned,
  type Question,
  scenarios,
  unknownCameras,
} from '@iron-hush/core/plan'
import { useGear } from '../../state/gear'
import { useNotices } from '../../state/notices'
import { type Job, startPlan } from '../../workers/compute'
import { startSuggest } from '../../workers/suggesting'

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

/** Owned microphones for a boom, the more directional the likelier. */
function directness(heardWith: HeardWith): number {
  if (heardWith === 'built in' || !isOwned(heardWith)) return -100
  const { mount = 'boom', strips } = heardWith.microphone
  const capsule = strips.flatMap(({ stages }) => stages).find(({ kind }) => kind === 'transducer')
  const side = capsule?.kind === 'transducer' ? patternDb(capsule.pattern, 90) : 0
  return (mount === 'boom' ? 50 : 0) - Math.max(-40, side)
}

/** Plans a question again whenever an answer changes, one plan at a time. */
function usePlans(
  asked: () => Omit<Question, 'heardWith'> | undefined,
  by: () => HeardWith | 'suggest' | undefined,
) {
  const gear = useGear()
  const planned = shallowRef<Planned[]>([])
  const running = ref(false)
  const progress = ref<number>()
  let job: Job<Planned[]> | undefined

  async function plan(): Promise<void> {
    job?.cancel()
    const [question, heardWith] = [asked(), by()]
    if (!question || !heardWith) return
    running.value = true
    progress.value = undefined
    planned.value = []
    const mine =
      heardWith === 'suggest'
        ? startSuggest(question, gear.all, (share, soFar) => {
            if (job !== mine) return
            progress.value = share
            planned.value = soFar
          })
        : startPlan({ ...question, heardWith }, gear.all)
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
  watch([asked, by], () => void plan(), { immediate: true })
  onUnmounted(() => job?.cancel())
  return { planned, running, progress }
}

/** The camera: the one chosen, from the shelf or not, or the most common. */
function useCamera(films: Ref<string>) {
  const gear = useGear()
  const cameras = computed(() => gear.all.filter(({ kind }) => kind === 'camera').sort(byOwnedName))
  const camera = computed(
    () =>
      gear.of(films.value) ??
      unknownCameras.find(({ gear: each }) => each.id === films.value)?.gear ??
      cameras.value.find(isUsual) ??
      cameras.value[0],
  )
  return { cameras, camera }
}

const byOwnedName = (one: Gear, other: Gear) =>
  Number(other.owned > 0) - Number(one.owned > 0) || one.name.localeCompare(other.name)

const Answers = z.object({
  films: z.string().default(''),
  hears: z.string().default(scenarios[0]!.id),
  heardBy: z.string().default(''),
  outdoors: z.boolean().optional(),
  far: z.boolean().default(false),
})

type Answers = z.infer<typeof Answers>

/** What was answered in this window, which a reload and a look at a scene leave as it is. Empty means what is likely. */
function useAnswers() {
  const answers = useSessionStorage('iron-hush.answers', Answers.parse({}), {
    serializer: {
      read: (text) => Answers.catch(Answers.parse({})).parse(JSON.parse(text)),
      write: JSON.stringify,
    },
  })
  const answer = <Key extends keyof Answers>(key: Key) =>
    computed({
      get: () => answers.value[key],
      set: (value: Answers[Key]) => (answers.value = { ...answers.value, [key]: value }),
    })
  return {
    films: answer('films'),
    hears: answer('hears'),
    heardBy: answer('heardBy'),
    outdoors: answer('outdoors'),
    far: answer('far'),
  }
}

/** The three answers, the chains that follow from them, and what else would do. */
export function usePlanning() {
  const gear = useGear()
  const { films, hears, heardBy, outdoors, far } = useAnswers()
  const { cameras, camera } = useCamera(films)
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
  const question = computed(
    () =>
      camera.value && {
        camera: camera.value,
        scenario: scenario.value,
        outdoors: outdoors.value,
        far: far.value,
      },
  )
  const plans = usePlans(
    () => question.value,
    () => (heardBy.value === suggestId ? suggestId : chosen.value),
  )
  return {
    ...{ films, hears, heardBy, outdoors, far, camera, scenario, ...plans },
    cameraChoices: computed((): Choice[] =>
      cameras.value.map(({ id, name, owned, maker }) => ({ id, name, note: maker, owned: owned > 0 })),
    ),
    heardWithChoices: computed(() => heardWith.value.map(choiceOf)),
    heardWithId: computed(() =>
      heardBy.value === suggestId ? suggestId : chosen.value ? idOf(chosen.value) : '',
    ),
  }
}

const choiceOf = (heardWith: HeardWith): Choice => ({
  id: idOf(heardWith),
  name:
    heardWith === 'built in'
      ? 'What it has built in'
      : `${heardWith.microphone.name}${heardWith.radio ? ', by radio' : ''}`,
  note: heardWith === 'built in' ? 'nothing to plug' : mountWords[heardWith.microphone.mount ?? 'boom'],
  owned: isOwned(heardWith),
})

const mountWords = {
  worn: 'worn',
  hand: 'held',
  boom: 'on a boom or stand',
  camera: 'on the camera',
  table: 'on the table',
} as const
