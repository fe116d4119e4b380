import { type Box, type Gear, type Patch, type Shelf, shelfFor, controlKey, gearOf } from '../model'
import { type Graph, graphOf, asSet } from '../chain'
import { type Levels, levelsOfGraph } from './levels'

/**
 * Levels of one patch after another, as a control is turned: the chain is laid out again only when more than the
 * settings of boxes changed. What a setting does to the circuit of a link (a supply, a piece's switch) lays it out again.
 */
export function incrementalLevels(): (patch: Patch, shelf: Shelf) => Levels {
  let last: { patch: Patch; shelf: Shelf; graph: Graph } | undefined
  return (patch, shelf) => {
    if (last?.shelf !== shelf || !sameCircuits(last.patch, patch, shelf))
      last = { patch, shelf, graph: graphOf(patch, shelf) }
    const { graph } = last
    const set = new Map<string, string | number>()
    for (const box of patch.boxes)
      for (const [control, position] of Object.entries(box.settings))
        set.set(controlKey(box.id, control), position)
    const initial = last.patch === patch ? undefined : initials(patch, shelf)
    return levelsOfGraph(graph, (key) => set.get(key) ?? initial?.get(key) ?? asSet(graph)(key))
  }
}

/** Initial positions of the boxes' controls. */
function initials(patch: Patch, commonShelf: Shelf): Map<string, string | number> {
  const shelf = shelfFor(patch, commonShelf)
  return new Map(
    patch.boxes.flatMap(({ id, gear }) =>
      gearOf(shelf, gear).controls.map((control) => [controlKey(id, control.id), control.initial] as const),
    ),
  )
}

/** Whether two patches differ only in settings of boxes that change no circuit. */
export function sameCircuits(one: Patch, other: Patch, commonShelf: Shelf): boolean {
  if (one.brief !== other.brief || one.gear !== other.gear) return false
  if (one.boxes.length !== other.boxes.length || one.links.length !== other.links.length) return false
  if (one.links.some((link, index) => link !== other.links[index])) return false
  const shelf = shelfFor(other, commonShelf)
  return one.boxes.every((box, index) => {
    const now = other.boxes[index]!
    return (
      box === now ||
      (box.id === now.id &&
        box.gear === now.gear &&
        box.name === now.name &&
        box.place === now.place &&
        box.source === now.source &&
        changed(box, now).every((control) => !inCircuit(gearOf(shelf, box.gear), control)))
    )
  })
}

const changed = (one: Box, other: Box): string[] =>
  [...new Set([...Object.keys(one.settings), ...Object.keys(other.settings)])].filter(
    (control) => one.settings[control] !== other.settings[control],
  )

/** Whether a control of a box changes the circuit behind its contacts, or the channel of its radio. */
const inCircuit = ({ ports, radio }: Gear, control: string): boolean =>
  ports.some(({ supplies }) => supplies?.some(({ when }) => when?.control === control)) ||
  (typeof radio?.carrierMhz === 'object' && radio.carrierMhz.control === control)
