import { computed, nextTick, type Ref, watch } from 'vue'
import { type Router, useRoute, useRouter } from 'vue-router'
import { useScene } from '../state/scene'
import { useView } from '../state/view'
import { stations } from './stations'

/** Pending changes of the address, applied once no navigation is under way: they would cancel it. */
const wanted = new Map<string, string | undefined>()
let moving = false

function write(router: Router): void {
  if (moving || wanted.size === 0) return
  const query = { ...router.currentRoute.value.query, ...Object.fromEntries(wanted) }
  wanted.clear()
  void router.replace({ query })
}

/** A part of the address behind the question mark, as something that can be read and set. */
export function useQuery(name: string): Ref<string | undefined> {
  const route = useRoute()
  const router = useRouter()
  return computed({
    get: () => (typeof route.query[name] === 'string' ? route.query[name] : undefined),
    set(value) {
      if (value === route.query[name]) return void wanted.delete(name)
      wanted.set(name, value)
      void nextTick(() => write(router))
    },
  })
}

/** The title and the address say where one is: station, scene, run, and whether the reasons are open. */
export function useAddress(): void {
  const route = useRoute()
  const router = useRouter()
  const scene = useScene()
  const view = useView()
  router.beforeEach(({ path }, from) => void (moving = path !== from.path))
  router.afterEach(() => {
    moving = false
    write(router)
  })
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

  // the address first: it is what the person asked for
  watch(
    () => [scene.document?.id, run.value],
    () => {
      if (run.value && scene.runs.some(({ id }) => id === run.value)) scene.runId = run.value
    },
    { immediate: true },
  )
  watch(
    () => [scene.runId, route.path],
    () => {
      if (inScene.value && scene.document) run.value = scene.runId || undefined
    },
  )
  watch(
    why,
    (now) => {
      if (now) view.open = 'why'
    },
    { immediate: true },
  )
  watch(
    () => view.open === 'why',
    (open) => (why.value = open ? 'open' : undefined),
  )
}
