import { computed, type Ref, ref, watch } from 'vue'
import { powerControls, type Run } from '@iron-hush/core/levels'
import { controlsByKey } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useScene } from '../../state/scene'
import { useDetail } from './detail'

/** The columns of the selected run, the controls under them, and what of both is selected. */
export function useChainColumns(run: Ref<Run | undefined>) {
  const scene = useScene()
  const gear = useGear()
  const { detail, columns, opening, open, narrow } = useDetail(run)
  /** Power switches and channels, which stand under no stage of their own. */
  const powers = computed(() =>
    run.value ? powerControls(run.value, columns.value, scene.openPatch, gear.shelf) : [],
  )
  const sets = computed(() =>
    columns.value.map(({ controls }, index) =>
      controlsByKey(scene.openPatch, gear.shelf, [...controls, ...(powers.value[index] ?? [])]),
    ),
  )
  /** Controls whose names must be said: where the column is not called after its one control. */
  const captioned = computed(() =>
    columns.value.map(({ name }, index) =>
      name ? (powers.value[index] ?? []) : (sets.value[index] ?? []).map(({ key }) => key),
    ),
  )
  const selection = useSelection(run, columns)
  /** The control of a column that has the hand on it, or else its first. */
  const inHand = ref('')
  const controlOf = (index: number) => {
    const set = sets.value[index] ?? []
    return set.find(({ key }) => key === inHand.value) ?? set[0]
  }
  return { detail, columns, opening, open, narrow, sets, captioned, inHand, controlOf, ...selection }
}

/** Which column is selected, and which are pinned. A run is opened at its narrowest place. */
function useSelection(
  run: Ref<Run | undefined>,
  columns: Ref<{ points: number[]; part: string; name: string }[]>,
) {
  const selected = ref(0)
  const pins = ref<string[]>([])
  const columnOf = (point: number) =>
    Math.max(
      0,
      columns.value.findIndex(({ points }) => points.includes(point)),
    )
  watch(
    () => run.value?.id,
    () => {
      const tightest = run.value?.tightest?.point
      selected.value = tightest === undefined ? 0 : columnOf(tightest)
    },
    { immediate: true },
  )
  // boxes open and close around what is selected
  watch(columns, (now, before) => {
    const point = before[selected.value]?.points[0]
    if (point !== undefined && now.length !== before.length) selected.value = columnOf(point)
  })
  function pin(): void {
    const column = columns.value[selected.value]
    if (!column) return
    const key = `${column.part}.${column.name}`
    pins.value = pins.value.includes(key) ? pins.value.filter((each) => each !== key) : [...pins.value, key]
  }
  const step = (by: number) =>
    (selected.value = Math.min(columns.value.length - 1, Math.max(0, selected.value + by)))
  return { selected, pins, pin, step }
}
