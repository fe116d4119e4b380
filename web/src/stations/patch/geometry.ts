import { computed, type Ref } from 'vue'
import type { Layout, PlacedBox } from './layout'

/** The right edge is kept for what lands where. */
export const planWidth = 188
export const boxWidth = 128
const rowHeight = 138
const firstRow = 34
const boxHeight = 88

/** Where boxes and rows of the drawing lie, in pixels, for the width that there is. */
export function useGeometry(layout: Ref<Layout>, width: Ref<number>) {
  const pitch = computed(() =>
    Math.max(
      boxWidth + 70,
      (width.value - planWidth - boxWidth - 60) / Math.max(1, layout.value.columns - 1),
    ),
  )
  const leftOf = ({ column }: Pick<PlacedBox, 'column'>) => 20 + column * pitch.value
  return {
    pitch,
    leftOf,
    rightOf: (box: PlacedBox) => leftOf(box) + boxWidth,
    rowY: (row: number) => firstRow + row * rowHeight + boxHeight / 2,
    /** The line above a row, counted from 1. */
    ruleY: (row: number) => firstRow + (row - 1) * rowHeight - 16,
    gapY: rowHeight / 2,
    topOf: (box: PlacedBox) => firstRow + box.top * rowHeight,
    heightOf: (box: PlacedBox) => (box.bottom - box.top) * rowHeight + boxHeight,
    total: computed(() => ({
      width: Math.max(width.value, leftOf({ column: layout.value.columns - 1 }) + boxWidth + planWidth + 40),
      height: firstRow + layout.value.rows * rowHeight + 20,
    })),
  }
}
