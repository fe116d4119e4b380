import { computed, type Ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { useScene } from '../state/scene'
import { useView } from '../state/view'
import { stations } from './stations'

/** A part of the address behind the question mark, as something that can be read and set. */
export function useQuery(name: string): Ref<string | undefined> {
  const route = useRoute()
  const router = useRouter()
  return computed({
    get: () => (typeof route.query[name] === 'string' ? route.query[name] : undefined),
    set(value) {
      if (value !== route.query[name]) void router.replace({ query: { ...route.query, [name]: value } })
    },
  })
}

/** The title and the address say where one is: station, scene, run, and whether the reasons are open. */
export function useAddress(): void {
  const route = useRoute()
  const scene = useScene()
  const view = useView()
  const run = useQuery('run')
  const why = useQuery('why')

  const inScene = computed(() => route.params.scene !== undefined)
  const station = computed(() => stations.find(({ name }) => name === route.name)?.title)
  const title = computed(() => {
    const shelf = route.name === 'gear' || route.name === 'shelf'
    const here = shelf ? 'Gear' : station.value
    return [here, inScene.value && scene.patch?.name, 'Iron Hush'].filter(Boolean).join(' \u2013 ')
  })
  watch(title, (now) => (document.title = now), { immediate: true })

  // the address first: it is what was asked for
  watch(
    () => [scene.document?.id, run.value],
    () => {
      if (run.value && scene.runs.some(({ id }) => id === run.value)) scene.runId = run.value
    },
    { immediate: true },
  )
  watch(
    () => scene.runId,
    (now) => {
      if (inScene.value && scene.document) run.value = now || undefined
    },
  )
  if (why.value) view.open = 'why'
  watch(
    () => view.open === 'why',
    (open) => (why.value = open ? 'open' : undefined),
  )
}
