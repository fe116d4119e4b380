import { defineStore } from 'pinia'
import { ref } from 'vue'

interface Notice {
  id: number
  text: string
  /** What can be done about it. */
  offer?: { name: string; act: () => void }
}

/** A sentence for the person, shown until it is read or its time is over. */
export const useNotices = defineStore('notices', () => {
  const list = ref<Notice[]>([])
  let next = 1
  function say(text: string): void {
    const id = next++
    list.value = [...list.value.slice(-2), { id, text }]
    setTimeout(() => dismiss(id), 12_000)
  }
  /** A sentence with something to do about it; it stays until it is answered or closed. */
  function offer(text: string, name: string, act: () => void): void {
    list.value = [...list.value.slice(-2), { id: next++, text, offer: { name, act } }]
  }
  function dismiss(id: number): void {
    list.value = list.value.filter((notice) => notice.id !== id)
  }
  return { list, say, offer, dismiss }
})
