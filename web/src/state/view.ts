import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, watchEffect } from 'vue'

/** How things are shown on this device. */
export const useView = defineStore('view', () => {
  const night = useLocalStorage('iron-hush.night', matchMedia('(prefers-color-scheme: dark)').matches)
  const imperial = useLocalStorage('iron-hush.imperial', false)
  /** The list of keys, the reasons behind the verdict, the finder. */
  const open = ref<'keys' | 'why' | 'find' | undefined>()
  /** What stands before everything else, and takes every key. */
  const dialog = computed(() => open.value === 'keys' || open.value === 'find')
  watchEffect(() => document.documentElement.classList.toggle('night', night.value))
  const toggle = (what: 'keys' | 'why' | 'find') => (open.value = open.value === what ? undefined : what)
  return { night, imperial, open, dialog, toggle }
})
