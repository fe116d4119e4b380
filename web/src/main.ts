import '@fontsource-variable/archivo/standard.css'
import '@fontsource-variable/martian-mono/standard.css'
import './theme/base.css'
import { createPinia } from 'pinia'
import PrimeVue from 'primevue/config'
import { createApp, markRaw } from 'vue'
import App from './App.vue'
import { tellUnexpected } from './frame/unexpected'
import { keepForOffline } from './offline'
import { fetchAhead, router } from './router'
import { foundry } from './theme/preset'

const app = createApp(App)
tellUnexpected(app)
app
  .use(createPinia())
  .use(router)
  .use(PrimeVue, {
    theme: {
      // it never changes: to watch its thousands of values would cost a tenth of a second at every start
      preset: markRaw(foundry),
      options: { darkModeSelector: '.night', cssLayer: { name: 'primevue', order: 'base, primevue' } },
    },
  })
  .mount('#app')

/** The station that is asked for comes first. */
const fetchAheadAfterMs = 1500
// anything that cannot be fetched now is fetched when needed, with a message if that fails
const ahead = () =>
  void fetchAhead()
    .then(keepForOffline)
    .catch(() => undefined)
addEventListener('load', () => setTimeout(ahead, fetchAheadAfterMs))
