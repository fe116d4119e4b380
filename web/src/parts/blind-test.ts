import { computed, type Ref, ref, watch } from 'vue'

/** Two sides of which a person may not know which is heard, with a tally of what was preferred. */
export function useBlindTest(side: Ref<number>) {
  const blind = ref(false)
  /** Blind, the sides change places by chance. */
  const swapped = ref(false)
  const tally = ref<[number, number]>([0, 0])
  const heard = computed(() => (swapped.value && blind.value ? 1 - side.value : side.value))
  const shuffle = () => (swapped.value = Math.random() < 0.5)

  /** The one being heard is liked better; the two change places by chance for the next. */
  function prefer(): void {
    const next: [number, number] = [...tally.value]
    next[heard.value]!++
    tally.value = next
    shuffle()
  }
  watch(blind, () => (tally.value = [0, 0]))
  return { blind, tally, heard, shuffle, prefer }
}
