<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import NoticeList from './frame/NoticeList.vue'
import TapeBar from './frame/TapeBar.vue'
import VerdictLine from './frame/VerdictLine.vue'
import { listGear, listShoots, sceneOpenedEarly } from '@iron-hush/core/contract'
import { dialogs } from './frame/dialogs'
import { useAddress } from './frame/address'
import { useKeys } from './frame/keys'
import { placeOfRoute } from './frame/history-place'
import { useGear } from './state/gear'
import { useHistory } from './state/history'
import { useNotices } from './state/notices'
import { askAhead, forgetAhead, ServerAway } from './sync/ask'
import { useLive } from './sync/live'
import { useOutbox } from './sync/outbox'
import { meetRestored } from './sync/restored'
import { useScene } from './state/scene'
import { useShoots } from './state/shoots'
import { importFiles } from './state/scene-files'
import { useView } from './state/view'

const AboutDialog = defineAsyncComponent(dialogs.about)
const ConflictDialog = defineAsyncComponent(dialogs.conflict)
const FindDialog = defineAsyncComponent(dialogs.find)
const KeysDialog = defineAsyncComponent(dialogs.keys)
const ShareDialog = defineAsyncComponent(dialogs.share)
const TermsDialog = defineAsyncComponent(dialogs.terms)

const route = useRoute()
const router = useRouter()
const scene = useScene()
const gear = useGear()
const shoots = useShoots()
const view = useView()
const trouble = ref('')
const ready = ref(false)
const listsAway = ref(false)
const needsScene = computed(() => route.params.scene !== undefined)
const onRoll = computed(() => route.name === 'roll')
const opens = computed(() =>
  needsScene.value ? scene.patch && (ready.value || sceneOpenedEarly(route.path) !== undefined) : ready.value,
)
watch(
  () => scene.patch && !opens.value,
  (waits) => waits && void gear.whenWhole(),
)

/** Stored data is read while the station is still loading. */
async function start(station: Promise<unknown> = Promise.resolve()): Promise<void> {
  trouble.value = ''
  try {
    // read while the browser opens its storage; the router itself waits for the station
    const early = sceneOpenedEarly(location.pathname)
    if (early) scene.expect(early)
    else {
      askAhead(listGear)
      askAhead(listShoots)
    }
    await Promise.all([useOutbox().takeOver(), meetRestored()])
    const isOpen = early !== undefined && (await scene.openEarly(early))
    if (early && !isOpen) forgetAhead()
    await Promise.all([readLists(isOpen), station])
    scene.carry()
    ready.value = true
    await follow()
  } catch (error) {
    trouble.value = error instanceof Error ? error.message : String(error)
  } finally {
    forgetAhead()
  }
}

/** Reads the shelf and the shoots. A scene that is open is worked with meanwhile, also while the server is away. */
async function readLists(isOpen: boolean): Promise<void> {
  for (;;) {
    try {
      await Promise.all([isOpen ? gear.loadGently() : gear.load(), shoots.load()])
      listsAway.value = false
      return
    } catch (error) {
      if (!isOpen || !(error instanceof ServerAway)) throw error
    }
    listsAway.value = true
    await Promise.race([
      new Promise((again) => setTimeout(again, 2500)),
      new Promise((again) => addEventListener('online', again, { once: true })),
    ])
  }
}

/** Opens the scene of the address. One that is not there is said so, on the first page. */
async function follow(): Promise<void> {
  if (!ready.value) return
  if (route.redirectedFrom && route.redirectedFrom.path !== '/')
    useNotices().say(`There is no page at ${route.redirectedFrom.path}. These are your shoots.`)
  if (route.params.scene === undefined) return
  const wanted = String(route.params.scene)
  const found = scene.shoots.flatMap(({ scenes }) => scenes).find(({ id }) => id === wanted)
  if (!found) {
    useNotices().say('There is no scene at this address; it may have been deleted. Undo brings it back.')
    await router.replace({ name: 'start' })
  } else if (scene.document?.id !== found.id)
    await scene.open(found.id).catch((error: Error) => (trouble.value = error.message))
}

onMounted(() => start(router.isReady()).then(useLive().listen))
watch(() => route.params.scene, follow)
watch(opens, (now) => void (useHistory().held = !now), { immediate: true })
watch(
  () => placeOfRoute(route),
  (place) => void useHistory().go(place),
  { immediate: true },
)
useEventListener(window, 'dragover', (event) => event.preventDefault())
/** A patch or a shoot may be dropped anywhere; other files are handled by the station. */
useEventListener(window, 'drop', (event) => {
  event.preventDefault()
  const files = [...(event.dataTransfer?.files ?? [])].filter(({ name }) => name.endsWith('.json'))
  if (files.length) void importFiles(files)
})
useEventListener(window, 'focus', () => void scene.refresh())
useEventListener(window, 'online', () => useOutbox().retry())
useEventListener(window, 'pagehide', () => scene.flush())
useKeys()
useAddress()
</script>

<template>
  <div class="frame" :class="{ roll: onRoll }">
    <a class="skip" href="#station">Skip to content</a>
    <TapeBar />
    <main id="station" tabindex="-1">
      <div v-if="trouble" class="trouble" role="alert">
        <h1>Iron Hush cannot be reached</h1>
        <p>
          {{ trouble }} Nothing is lost: what you changed is kept in this browser. Start it again with
          <code>npm start</code>.
        </p>
        <button type="button" @click="start()">Try again</button>
      </div>
      <RouterView v-else-if="opens" />
      <p v-else class="opening quiet">
        {{
          listsAway
            ? 'The shelf cannot be read while the server is away. It opens when the server is back.'
            : scene.patch
              ? 'Reading the shelf\u2026'
              : 'Opening the scene\u2026'
        }}
      </p>
    </main>
    <NoticeList />
    <VerdictLine />
    <ConflictDialog v-if="scene.conflict" />
    <KeysDialog v-if="view.open === 'keys'" />
    <FindDialog v-if="view.open === 'find'" />
    <TermsDialog v-if="view.open === 'terms'" />
    <ShareDialog v-if="view.open === 'share'" />
    <AboutDialog v-if="view.open === 'about'" />
  </div>
</template>

<style scoped>
.frame {
  height: 100dvh;
  display: grid;
  grid-template-rows: 54px 1fr auto auto;
  grid-template-columns: minmax(0, 1fr);
}
main {
  min-height: 0;
  overflow: auto;
}
.trouble,
.opening {
  padding: 40px;
  max-width: 60ch;
  display: grid;
  gap: 12px;
}
.trouble button {
  justify-self: start;
  border: 1px solid var(--ink);
  background: var(--sheet);
  padding: 5px 12px;
  border-radius: 2px;
}
@media (max-width: 700px) {
  .frame {
    grid-template-rows: auto 1fr auto auto;
  }
}
</style>
