import { defineStore } from 'pinia'
import { ref } from 'vue'

/** A sentence for the person, shown until it is read or its time is over. */
export const useNotices = defineStore('notices', () => {
  const list = ref<{ id: number; text: string }[]>([])
  let next = 1
  function say(text: string): void {
    const id = next++
    list.value = [...list.value.slice(-2), { id, text }]
    setTimeout(() => dismiss(id), 12_000)
  }
  function dismiss(id: number): void {
    list.value = list.value.filter((notice) => notice.id !== id)
  }
  return { list, say, dismiss }
})
