import { defineStore } from 'pinia'
import { shallowReactive } from 'vue'

/** Files of the clips measured since the page was opened, by the id of their measurement. They stay on this machine. */
export const useClipFiles = defineStore('clip files', () => {
  const files = shallowReactive(new Map<string, Blob>())
  return { files }
})
