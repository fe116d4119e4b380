import { type Graph, graphOf } from '../chain'
import { incrementalLevels, type Levels, type Point, type Run } from '../levels'
import {
  type Box,
  type Control,
  type Gear,
  gearOf,
  type LineUpReading,
  type Patch,
  type Position,
  type Shelf,
  shelfFor,
  trackKey,
} from '../model'

/** Control positions that differ from the patch, by `box.control`. */
export type Settings = Readonly<Record<string, Position>>

/** A scene with data that the line-up needs again and again. */
export interface Bench {
  patch: Patch
  /** With the gear that the scene brings. */
  shelf: Shelf
  graph: Graph
  levels: Levels
  /** The same run with some controls elsewhere; undefined where it does not arrive then. */
  runAt: (run: string, settings: Settings) => Run | undefined
}

export function benchOf(patch: Patch, commonShelf: Shelf): Bench {
  const graph = graphOf(patch, commonShelf)
  const levelsOf = incrementalLevels()
  const found = new Map<string, Levels>()
  const levelsAt = (settings: Settings): Levels => {
    const key = JSON.stringify(settings)
    const known = found.get(key) ?? levelsOf(withSettings(patch, settings), commonShelf)
    found.set(key, known)
    return known
  }
  return {
    patch,
    shelf: shelfFor(patch, commonShelf),
    graph,
    levels: levelsAt({}),
    runAt: (run, settings) => levelsAt(settings).runs.find(({ id }) => id === run),
  }
}

/** The scene with some controls elsewhere, of boxes and of what lies between them: a pad or a supply changes the circuit. */
function withSettings(patch: Patch, settings: Settings): Patch {
  const moved = <Part extends Pick<Box, 'id' | 'settings'>>(part: Part): Part => {
    const own = Object.entries(settings).flatMap(([key, position]) =>
      key.startsWith(`${part.id}.`) ? [[key.slice(part.id.length + 1), position] as const] : [],
    )
    const isMoved = own.some(([control, position]) => part.settings[control] !== position)
    return isMoved ? { ...part, settings: { ...part.settings, ...Object.fromEntries(own) } } : part
  }
  const boxes = patch.boxes.map(moved)
  // a link that stays the same object stays solved
  const links = patch.links.map((link) => {
    const pieces = link.pieces.map(moved)
    return pieces.every((piece, index) => piece === link.pieces[index]) ? link : { ...link, pieces }
  })
  return { ...patch, boxes, links }
}

/** A box of the scene with its gear. */
export interface PlacedBox {
  box: Box
  gear: Gear
  name: string
}

export function placedBox({ patch, shelf }: Pick<Bench, 'patch' | 'shelf'>, id: string): PlacedBox {
  const box = patch.boxes.find((each) => each.id === id)
  if (!box) throw new Error(`Missing: box ${id}.`)
  const gear = gearOf(shelf, box.gear)
  return { box, gear, name: box.name ?? gear.name }
}

/** Position of a box's control. */
export const positionOf = ({ box }: PlacedBox, control: Control): Position =>
  box.settings[control.id] ?? control.initial

/** The thing a box is, whether it is the shelf's or a copy of one's own. */
export const identityOf = ({ id, copyOf }: Gear): string => copyOf ?? id

/** Every track that the boxes of a chain write and show, with its name. */
export const allTracks = ({ graph }: Bench): { id: string; name: string; box: string }[] =>
  graph.ends.flatMap(({ box, gear, node, stage }) =>
    stage.kind === 'recording' && showsLevels(gear)
      ? [
          {
            id: trackKey({ box, track: stage.track }),
            name: `${graph.nodes[node]!.partName}, ${stage.name}`,
            box,
          },
        ]
      : [],
  )

/** Whether a box is still what it was when a reading was taken; a copy of one's own counts as the same. */
export function isOfThing(bench: Bench, { gear }: LineUpReading, box: string): boolean {
  const thing = gear[box]
  const now = bench.shelf.get(bench.patch.boxes.find(({ id }) => id === box)?.gear ?? '')
  if (thing === undefined || !now) return false
  return now.id === thing || identityOf(now) === (bench.shelf.get(thing)?.copyOf ?? thing)
}

/** The way of a tone: from the recorder that sends it to the recording that it is read from. */
export interface ToneWay {
  run: Run
  /** The last recording before the box that it ends in, by its place among the points; undefined: nothing that can send. */
  sender: number | undefined
  /** The first point of the box that it ends in. */
  entry: number
}

/** A transmitter records inside, but nobody reads its level there, and nothing can be played from it. */
const showsLevels = (gear: Gear | undefined): boolean => gear !== undefined && gear.kind !== 'radio'

/** The ways on which tones can be read: one for each recording that something arrives at. */
export function toneWays({ levels, patch, shelf }: Bench): ToneWay[] {
  const gearOfBox = (id: string) => shelf.get(patch.boxes.find((box) => box.id === id)?.gear ?? '')
  const ways = new Map<string, ToneWay>()
  for (const run of levels.runs) {
    if (run.end.kind !== 'recording' || run.stop || run.spill) continue
    const key = `${run.end.box}.${run.end.track}`
    if (ways.has(key)) continue
    const entry = run.points.findIndex(({ part }) => part === run.end.box)
    const before = run.points.slice(0, entry)
    const sender = before.findLastIndex(
      ({ kind, part }) => kind === 'recording' && showsLevels(gearOfBox(part)),
    )
    ways.set(key, { run, entry, sender: sender < 0 ? undefined : sender })
  }
  return [...ways.values()]
}

/** Gain from one point to a later one, dB. */
export const gainBetween = (from: Point, to: Point): number => to.gainFromSourceDb - from.gainFromSourceDb

/** Output level of a 0 dBFS tone at the sender, dBu; undefined without a sender, or if it sends digitally. */
export function sentDbuOf({ run, sender }: ToneWay): number | undefined {
  const from = sender === undefined ? undefined : run.points[sender]
  const out = from && run.points.findLast(({ part }) => part === from.part)
  return from && out?.domain === 'volts' ? gainBetween(from, out) : undefined
}

/** Whether automatic gain acts somewhere between: what is read then depends on what was read before. */
export const turnsItself = ({ run, sender }: ToneWay): boolean =>
  run.points.slice(sender === undefined ? 0 : sender + 1).some(({ automatic }) => automatic !== undefined)

/** Boxes on the way of a run from one point on, each once. */
export const boxesFrom = (points: readonly Point[], patch: Patch): string[] => [
  ...new Set(points.map(({ part }) => part).filter((part) => patch.boxes.some(({ id }) => id === part))),
]

/** Strips of the box at the end of a way that the run passes. */
export function stripsOfWay({ run, entry }: ToneWay): Set<string> {
  const part = run.end.box
  return new Set(
    run.points
      .slice(entry)
      .flatMap(({ node }) =>
        node.startsWith(`${part}.`) ? [node.slice(part.length + 1).split('.')[0]!] : [],
      ),
  )
}

/** Strips of the sending box behind its recording. */
export const stripsBetween = ({ run, sender, entry }: ToneWay, part: string): Set<string> =>
  new Set(
    run.points
      .slice((sender ?? 0) + 1, entry)
      .flatMap(({ node }) =>
        node.startsWith(`${part}.`) ? [node.slice(part.length + 1).split('.')[0]!] : [],
      ),
  )
