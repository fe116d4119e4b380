import type { CureChange } from '../findings'
import { bestHarmlessWay, fittingEdits, fittingPieces } from '../circuit'
import { graphOf, asSet } from '../chain'
import { levelsOfGraph, type Run } from '../levels'
import type { Edit } from '../edits'
import {
  betweenKinds,
  type Gear,
  idsOf,
  isPluggable,
  type Link,
  type Patch,
  partId,
  type Port,
  PeakTarget,
  type Shelf,
  shelfFor,
  thingsOf,
  endOf,
  gearOf,
  piecesOf,
  partNameOf,
  boxOf,
} from '../model'
import { controlsOfPatch, freeControls } from './balance'
import { targetApplies } from './targets'

/** A change that may cure something, before it is tried. */
export interface Candidate {
  change: CureChange
  thing?: Gear
  edits: Edit[]
}

/** Where candidates are looked for: the patch, and the runs that are in trouble. */
interface Trouble {
  patch: Patch
  shelf: Shelf
  all: Shelf
  runs: readonly Run[]
  /** Boxes and pieces that the runs pass. */
  parts: ReadonlySet<string>
}

/** Everything worth trying for runs in trouble, what costs nothing first. */
export function candidatesFor(patch: Patch, shelf: Shelf, runs: readonly Run[]): Candidate[] {
  const trouble: Trouble = {
    patch,
    shelf,
    all: shelfFor(patch, shelf),
    runs,
    parts: new Set(runs.flatMap(({ points }) => points.map(({ part }) => part))),
  }
  const costs = ({ thing }: Candidate) => (!thing || thing.owned > 0 ? 0 : (thing.price ?? Infinity))
  const things = [...padsBetween(trouble), ...boxesBetween(trouble), ...swaps(trouble)]
  return [
    ...unlocks(trouble),
    ...places(trouble),
    ...demands(trouble),
    ...things.sort((one, other) => costs(one) - costs(other)),
  ]
}

function nameOf({ patch, all }: Trouble, part: string): string {
  const piece = piecesOf(patch).find(({ id }) => id === part)
  return piece ? gearOf(all, piece.gear).name : partNameOf(boxOf(patch, part), all)
}

const endsOf = (trouble: Trouble, { from, to }: Link): [string, string] => [
  nameOf(trouble, from.box),
  nameOf(trouble, to.box),
]

function unlocks(trouble: Trouble): Candidate[] {
  const { patch, shelf, runs } = trouble
  const graph = graphOf(patch, shelf)
  const unlocked = <T extends { locked: string[] }>(part: T): T => ({ ...part, locked: [] })
  const open: Patch = {
    ...patch,
    boxes: patch.boxes.map(unlocked),
    links: patch.links.map((link) => ({ ...link, pieces: link.pieces.map(unlocked) })),
  }
  const movable = new Set(freeControls(graph, open, shelf).map(({ key }) => key))
  const { reach } = levelsOfGraph(graph, asSet(graph))
  return controlsOfPatch(patch, shelf)
    .filter(
      ({ key, locked }) =>
        locked && movable.has(key) && reach[key]?.some((id) => runs.some((run) => run.id === id)),
    )
    .map(({ key, control }): Candidate => {
      const [part] = key.split('.') as [string]
      return {
        change: { kind: 'unlock', control: control.name, box: nameOf(trouble, part) },
        edits: [{ kind: 'lock control', part, control: control.id, locked: false }],
      }
    })
}

/** Other places of the brief for a microphone, where it hears what it hears now. */
function places(trouble: Trouble): Candidate[] {
  const { patch, runs } = trouble
  return patch.boxes.flatMap((box) => {
    const heard = new Set(runs.flatMap(({ entry, source }) => (entry.part === box.id ? [source.id] : [])))
    if (!box.place || heard.size === 0) return []
    return patch.brief.places
      .filter(
        ({ id, hears }) =>
          id !== box.place && [...heard].every((source) => hears.some((each) => each.source === source)),
      )
      .map((place): Candidate => ({
        change: { kind: 'place', box: nameOf(trouble, box.id), place: place.name },
        edits: [{ kind: 'place box', box: box.id, place: place.id }],
      }))
  })
}

/** Links that the troubled runs pass. */
const linksOf = ({ patch, parts }: Trouble): Link[] =>
  patch.links.filter((link) => parts.has(link.from.box) && parts.has(link.to.box))

function padsBetween(trouble: Trouble): Candidate[] {
  const { patch, shelf } = trouble
  return linksOf(trouble).flatMap((link) =>
    fittingPieces(link, patch, shelf)
      .filter(({ gear }) => attenuates(gear))
      .map((fitting): Candidate => {
        const last = link.pieces.at(-1)
        return {
          change: {
            kind: 'insert',
            thing: fitting.gear.name,
            between: endsOf(trouble, link),
            replaces: fitting.replaces && last ? nameOf(trouble, last.id) : undefined,
          },
          thing: fitting.gear,
          edits: fittingEdits(fitting, link, patch),
        }
      }),
  )
}

/** Whether a piece has resistances that take level away, in any of its positions. */
function attenuates({ passive }: Gear): boolean {
  const ladder = passive?.ladder ?? []
  return (Array.isArray(ladder) ? [ladder] : Object.values(ladder.at)).some((rungs) => rungs.length > 0)
}

/** A preamplifier, mixer or recorder put between two boxes that are joined now, with leads of the shelf. */
function boxesBetween(trouble: Trouble): Candidate[] {
  const { patch, all, parts } = trouble
  const things = thingsOf(all).filter(({ kind, id }) => betweenKinds.has(kind) && !isUsedIn(patch, parts, id))
  return linksOf(trouble)
    .filter((link) => !link.branch && !link.joins && !hangsElse(patch, link))
    .flatMap((link) => things.flatMap((thing) => boxBetween(trouble, link, thing) ?? []))
}

const isUsedIn = (patch: Patch, parts: ReadonlySet<string>, gear: string): boolean =>
  patch.boxes.some((box) => box.gear === gear && parts.has(box.id))

/** Something else begins at or ends in the pieces of a link: it would be cut off. */
const hangsElse = (patch: Patch, { pieces }: Link): boolean =>
  patch.links.some(({ branch, joins }) =>
    pieces.some(({ id }) => id === branch?.piece || id === joins?.piece),
  )

function boxBetween(trouble: Trouble, link: Link, thing: Gear): Candidate | undefined {
  const { patch, shelf, all } = trouble
  const portOf = (end: Link['from']) => endOf(patch, all, end).port
  if (!isPluggable(portOf(link.from).connector) || !isPluggable(portOf(link.to).connector)) return undefined
  const used = idsOf(patch)
  const box = partId(thing.id, used)
  const cut: Patch = {
    ...patch,
    boxes: [...patch.boxes, { id: box, gear: thing.id, settings: {}, locked: [] }],
    links: patch.links.filter(({ id }) => id !== link.id),
  }
  const laidIn = once((port) =>
    laidBest(cut, { id: partId(`${link.id}-in`, used), from: link.from, to: { box, port } }, shelf, used),
  )
  const laidOut = once((port) =>
    laidBest(cut, { id: partId(`${link.id}-out`, used), from: { box, port }, to: link.to }, shelf, used),
  )
  for (const { input, output } of passages(thing)) {
    const into = laidIn(input.id)
    const out = into && laidOut(output.id)
    if (!into || !out) continue
    return {
      change: { kind: 'insert', thing: thing.name, between: endsOf(trouble, link) },
      thing,
      edits: [
        { kind: 'disconnect', link: link.id },
        { kind: 'add box', box: { id: box, gear: thing.id, settings: {}, locked: [] } },
        ...[into, out].map((each): Edit => ({ kind: 'connect', link: each })),
      ],
    }
  }
  return undefined
}

/** Pairs of sockets of a thing between which sound passes. */
function passages({ ports, strips }: Gear): { input: Port; output: Port }[] {
  const reached = (from: string): Set<string> => {
    const seen = new Set<string>()
    const open = strips.filter((strip) => 'port' in strip.from && strip.from.port === from)
    for (let strip = open.pop(); strip; strip = open.pop())
      for (const to of strip.to) {
        const key = 'bus' in to ? `bus ${to.bus}` : to.port
        if (seen.has(key)) continue
        seen.add(key)
        if ('bus' in to) open.push(...strips.filter((each) => 'bus' in each.from && each.from.bus === to.bus))
      }
    return seen
  }
  return ports
    .filter(({ direction, connector }) => direction === 'in' && isPluggable(connector))
    .flatMap((input) => {
      const outputs = reached(input.id)
      return ports
        .filter(
          ({ id, direction, connector }) => direction === 'out' && isPluggable(connector) && outputs.has(id),
        )
        .map((output) => ({ input, output }))
    })
}

/** An answer for each socket that is asked for, worked out once: many passages share one. */
function once<Answer>(answer: (port: string) => Answer): (port: string) => Answer {
  const found = new Map<string, { answer: Answer }>()
  return (port) => {
    const kept = found.get(port) ?? { answer: answer(port) }
    found.set(port, kept)
    return kept.answer
  }
}

/** A link with the best row of leads that joins its two sockets; undefined where none does. */
function laidBest(
  patch: Patch,
  ends: Pick<Link, 'id' | 'from' | 'to'>,
  shelf: Shelf,
  used: readonly string[],
): Link | undefined {
  const link: Link = { ...ends, pieces: [] }
  const way = bestHarmlessWay(patch, link, shelf, 2)
  if (!way) return undefined
  const taken = [...used]
  return {
    ...link,
    pieces: way.pieces.map(({ gear, reversed }) => {
      const id = partId(`${link.id}-${gear.id}`, taken)
      taken.push(id)
      return { id, gear: gear.id, settings: {}, locked: [], reversed: reversed || undefined }
    }),
  }
}

function swaps(trouble: Trouble): Candidate[] {
  const { patch, all, parts } = trouble
  return patch.boxes
    .filter(({ id }) => parts.has(id))
    .flatMap(({ id, gear }) => {
      const { kind } = gearOf(all, gear)
      // another camera is another film, and the desk belongs to the house
      if (kind === 'camera' || kind === 'desk') return []
      return thingsOf(all)
        .filter((thing) => thing.kind === kind && thing.id !== gear)
        .map((thing): Candidate => ({
          change: { kind: 'swap', thing: thing.name, replaces: nameOf(trouble, id) },
          thing,
          edits: [{ kind: 'swap', part: id, gear: thing.id }],
        }))
    })
}

function demands({ patch, shelf }: Trouble): Candidate[] {
  const { plan } = patch
  const targets = PeakTarget.options
    .filter((peakTarget) => peakTarget !== plan.peakTarget && targetApplies(peakTarget, patch, shelf))
    .map((peakTarget): Candidate => ({
      change: { kind: 'peak target', peakTarget },
      edits: [{ kind: 'change plan', to: { ...plan, peakTarget } }],
    }))
  const half = plan.marginDb / 2
  const margin: Candidate[] = half
    ? [
        {
          change: { kind: 'margin', marginDb: half, beforeDb: plan.marginDb },
          edits: [{ kind: 'change plan', to: { ...plan, marginDb: half } }],
        },
      ]
    : []
  const counting = (['recorder first', 'camera only'] as const)
    .filter(() => plan.counts === 'both good')
    .map((counts): Candidate => ({
      change: { kind: 'counting', counts },
      edits: [{ kind: 'change plan', to: { ...plan, counts } }],
    }))
  return [...targets, ...margin, ...counting]
}
