import { useMediaQuery } from '@vueuse/core'
import { computed, type Ref, ref, watch } from 'vue'
import { boxColumns, boxGroups, columnsOf, type Run } from '@iron-hush/core/levels'

/** Chains with more stages are drawn box by box unless the person chooses otherwise. */
const mostStages = 12

/** How finely the chain of a run is drawn: a column for each box, or for each of its stages. */
export function useDetail(run: Ref<Run | undefined>) {
  const narrow = useMediaQuery('(max-width: 700px)')
  const stages = computed(() => (run.value ? columnsOf(run.value) : []))
  const wanted = ref<'boxes' | 'stages'>()
  const detail = computed({
    get: () => wanted.value ?? (narrow.value || stages.value.length > mostStages ? 'boxes' : 'stages'),
    set: (value) => (wanted.value = value),
  })
  /** Boxes that were opened where they stand. */
  const opened = ref<ReadonlySet<string>>(new Set())
  watch(detail, () => (opened.value = new Set()))
  const columns = computed(() =>
    detail.value === 'stages' ? stages.value : boxColumns(stages.value, opened.value),
  )
  /** Boxes of more than one stage, where they can be opened, and whether they are. */
  const opening = computed(
    () =>
      new Map(
        detail.value === 'stages'
          ? []
          : boxGroups(stages.value)
              .filter(({ count }) => count > 1)
              .map(({ part }) => [part, opened.value.has(part)] as const),
      ),
  )
  function open(part: string): void {
    const now = new Set(opened.value)
    if (!now.delete(part)) now.add(part)
    opened.value = now
  }
  return { detail, columns, opening, open, narrow }
}
