import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, watchEffect } from 'vue'

type Panel = 'keys' | 'why' | 'find' | 'terms' | 'share' | 'about'

/** Countries whose paper is Letter and not A4 (Unicode CLDR, supplemental data, paperSize). */
const letterRegions = new Set('BZ CA CL CO CR GT MX NI PA PH PR SV US VE'.split(' '))
const printsOnLetter = (language: string): boolean =>
  letterRegions.has(new Intl.Locale(language).maximize().region ?? '')

/** How things are shown on this device. */
export const useView = defineStore('view', () => {
  const night = useLocalStorage('iron-hush.night', matchMedia('(prefers-color-scheme: dark)').matches)
  const imperial = useLocalStorage('iron-hush.imperial', false)
  const letterPaper = useLocalStorage('iron-hush.letter', printsOnLetter(navigator.language))
  /** Sound pressure of a full-scale sine at each microphone of this device that was calibrated, dB SPL by its id. */
  const earsDbSpl = useLocalStorage<Record<string, number>>('iron-hush.ears', {})
  /** What the output of this device gives at full scale, dBu; null: not known. */
  const outputDbu = useLocalStorage<number | null>('iron-hush.output', null, {
    serializer: {
      read: (text) => (text === '' ? null : Number(text)),
      write: (value) => (value === null ? '' : String(value)),
    },
  })
  /** What is open over the station. */
  const open = ref<Panel>()
  /** The term that is explained. */
  const term = ref('')
  /** What is in front of everything else, and takes every key. */
  const dialog = computed(() => open.value !== undefined && open.value !== 'why')
  watchEffect(() => document.documentElement.classList.toggle('night', night.value))
  const toggle = (what: Panel) => (open.value = open.value === what ? undefined : what)
  function explain(name: string): void {
    term.value = name
    open.value = 'terms'
  }
  return { night, imperial, letterPaper, earsDbSpl, outputDbu, open, dialog, term, toggle, explain }
})
