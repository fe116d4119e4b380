import { controlKey, type Patch, type Shelf, shelfFor } from '../model'
import type { Column } from './columns'
import type { Run } from './run'

/**
 * Switches that decide whether anything arrives and stand under no stage: those of the supplies of the sockets that a
 * run comes in by, and of the channel of a radio. By column: each is at the column where its box begins.
 *
 * @returns keys, `part.control`, for each column
 */
export function powerControls(
  run: Run,
  columns: readonly Column[],
  patch: Patch,
  commonShelf: Shelf,
): string[][] {
  const shelf = shelfFor(patch, commonShelf)
  const passed = new Set(run.points.map(({ node }) => node.split('.')[0]))
  const shown = new Set(columns.flatMap(({ controls }) => controls))
  return columns.map(({ part }, index) => {
    const box = patch.boxes.find(({ id }) => id === part)
    const gear = box && shelf.get(box.gear)
    if (!gear || columns.findIndex((column) => column.part === part) !== index) return []
    const entered = new Set(
      patch.links.flatMap(({ id, to }) => (to.box === part && passed.has(id) ? [to.port] : [])),
    )
    const supplies = gear.ports.flatMap(({ id, supplies: all = [] }) => (entered.has(id) ? all : []))
    const carrier = gear.radio?.carrierMhz
    const controls = [
      ...supplies.flatMap(({ when }) => (when ? [when.control] : [])),
      ...(typeof carrier === 'object' ? [carrier.control] : []),
    ]
    return [...new Set(controls)].map((id) => controlKey(part, id)).filter((key) => !shown.has(key))
  })
}
