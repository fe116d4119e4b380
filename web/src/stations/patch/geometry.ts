import { computed, type Ref } from 'vue'
import type { Layout, PlacedBox } from './layout'

/** Width at the right kept for the channel plan, px. */
export const planWidth = 188
const narrowestBox = 128
const widestBox = 190
/** Room for the names of what lies in a link. */
const linkRoom = 130
/** Room for the + in front of the first box. */
const edge = 28
const firstTop = 34
const gap = 50
/** Least height of a box, px: three strands and the + at a corner need it. */
const lowestBox = 64

/** Where boxes and rows of the drawing lie, in pixels, for the width that there is and the height that each box needs. */
export function useGeometry(
  layout: Ref<Layout>,
  width: Ref<number>,
  neededBy: (placed: PlacedBox) => number | undefined,
) {
  const pitchOf = (boxWidth: number) =>
    (width.value - planWidth - boxWidth - 68) / Math.max(1, layout.value.columns - 1)
  const boxWidth = computed(() =>
    Math.round(
      Math.min(
        widestBox,
        Math.max(narrowestBox, Math.min(pitchOf(narrowestBox) - linkRoom, width.value / 5)),
      ),
    ),
  )
  const pitch = computed(() => Math.max(boxWidth.value + 70, pitchOf(boxWidth.value)))
  const leftOf = ({ column }: Pick<PlacedBox, 'column'>) => edge + column * pitch.value
  /** Top and height of each row: as high as the highest box in it; what spans several asks for more only if they fall short. */
  const rows = computed(() => {
    const heights = Array.from({ length: layout.value.rows }, () => lowestBox)
    const byRows = [...layout.value.boxes].sort(
      (one, other) => one.bottom - one.top - (other.bottom - other.top),
    )
    for (const placed of byRows) {
      const spanned = heights.slice(placed.top, placed.bottom + 1)
      const there = spanned.reduce((sum, each) => sum + each, 0) + (spanned.length - 1) * gap
      heights[placed.bottom]! += Math.max(0, (neededBy(placed) ?? 0) - there)
    }
    let top = firstTop
    return heights.map((height) => {
      const row = { top, height }
      top += height + gap
      return row
    })
  })
  const bottomOf = (row: number) =>
    row < 0 ? firstTop - gap : rows.value[row]!.top + rows.value[row]!.height
  return {
    pitch,
    boxWidth,
    leftOf,
    rightOf: (placed: PlacedBox) => leftOf(placed) + boxWidth.value,
    rowY: (row: number) => rows.value[row]!.top + rows.value[row]!.height / 2,
    /** The middle of the gap above a row; there is one below the last, too. */
    gapY: (row: number) => bottomOf(row - 1) + gap / 2,
    topOf: (placed: PlacedBox) => rows.value[placed.top]!.top,
    heightOf: (placed: PlacedBox) => bottomOf(placed.bottom) - rows.value[placed.top]!.top,
    total: computed(() => ({
      width: Math.max(
        width.value,
        leftOf({ column: layout.value.columns - 1 }) + boxWidth.value + planWidth + 40,
      ),
      height: bottomOf(layout.value.rows - 1) + gap,
    })),
  }
}
