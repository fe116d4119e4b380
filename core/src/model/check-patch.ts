import { hasPosition } from './control'
import { checkGear, hasLoop } from './check-gear'
import type { Source } from './brief'
import { isPiece, type Shelf } from './gear'
import type { Patch } from './patch'
import { Refusal } from './refusal'

/** The shelf a patch sees: the common shelf, overridden by the patch's own gear. */
export function shelfFor(patch: Patch, shelf: Shelf): Shelf {
  return patch.gear.length
    ? new Map([...shelf, ...patch.gear.map((gear) => [gear.id, gear] as const)])
    : shelf
}

/** Faults of a patch as a whole, one sentence each; empty if it can be computed. */
export function checkPatch(patch: Patch, commonShelf: Shelf): string[] {
  const shelf = shelfFor(patch, commonShelf)
  return [
    ...briefProblems(patch),
    ...patch.gear.flatMap(checkGear),
    ...partProblems(patch, shelf),
    ...patch.links.flatMap((link) => linkProblems(link, patch, shelf)),
    ...wholeProblems(patch),
  ]
}

/** Sources, places and noises that do not go together. */
function briefProblems({ brief: { sources, places, noises } }: Patch): string[] {
  const kinds = new Map(sources.map(({ id, kind }) => [id, kind]))
  const noiseIds = new Set(noises.map(({ id }) => id))
  return [
    ...(kinds.size < sources.length ? ['Two sources of the brief share one id; rename one.'] : []),
    ...(new Set(places.map(({ id }) => id)).size < places.length
      ? ['Two places of the brief share one id; rename one.']
      : []),
    ...places.flatMap(({ id, hears, noises: fromOneSide = [] }) => [
      ...fromOneSide.flatMap(({ noise }) =>
        noiseIds.has(noise) ? [] : [`Place "${id}" hears the noise "${noise}", which is not in the brief.`],
      ),
      ...hears.flatMap(({ source }) => {
        const kind = kinds.get(source)
        if (!kind) return [`Place "${id}" hears "${source}", which is not in the brief.`]
        return kind === 'line'
          ? [`Place "${id}" hears "${source}", which is a line feed and makes no sound there.`]
          : []
      }),
    ]),
  ]
}

function carriedProblems(id: string, kind: Source['kind'] | undefined, source: string): string[] {
  if (!kind) return [`"${id}" feeds "${source}", which is not in the brief.`]
  return kind === 'line'
    ? []
    : [`"${id}" feeds "${source}", which is heard at the place and is no line feed.`]
}

/** Boxes and pieces whose gear, place, source or settings are not there. */
function partProblems({ boxes, links, brief }: Patch, shelf: Shelf): string[] {
  const pieces = links.flatMap((link) => link.pieces)
  const ids = [...boxes, ...pieces].map(({ id }) => id)
  const twice = ids.filter((id, index) => ids.indexOf(id) < index)
  const misplaced = boxes.flatMap(({ id, place, source }) => [
    ...(place && !brief.places.some((each) => each.id === place)
      ? [`"${id}" stands at "${place}", which is not in the brief.`]
      : []),
    ...(source ? carriedProblems(id, brief.sources.find((each) => each.id === source)?.kind, source) : []),
  ])
  return [
    ...twice.map((id) => `Two parts of the chain share the id "${id}"; rename one.`),
    ...boxes.flatMap((box) => gearProblems(box, shelf, false)),
    ...misplaced,
    ...pieces.flatMap((piece) => gearProblems(piece, shelf, true)),
  ]
}

/** Faults of one part's gear and settings. */
function gearProblems(
  { id, gear: gearId, settings }: Pick<Patch['boxes'][number], 'id' | 'gear' | 'settings'>,
  shelf: Shelf,
  inLink: boolean,
): string[] {
  const gear = shelf.get(gearId)
  if (!gear) return [`"${id}" refers to gear "${gearId}", which is neither in the file nor on the shelf.`]
  const misplaced =
    isPiece(gear) === inLink
      ? []
      : inLink
        ? [`"${id}": ${gear.name} is a device; it stands in the chain as a box, not inside a link.`]
        : [`"${id}": ${gear.name} is a cable, adapter or pad; it belongs inside a link, not among the boxes.`]
  const set = Object.entries(settings).flatMap(([controlId, position]) => {
    const control = gear.controls.find((each) => each.id === controlId)
    if (!control) return [`"${id}": ${gear.name} has no control "${controlId}".`]
    return hasPosition(control, position)
      ? []
      : [`"${id}": ${control.name} of ${gear.name} cannot be set to "${position}".`]
  })
  return [...misplaced, ...set]
}

/** Faults of a link's ends, or of the splitter or lead that it shares. */
function linkProblems(link: Patch['links'][number], patch: Patch, shelf: Shelf): string[] {
  const ends = (
    [
      [link.from, 'out'],
      [link.to, 'in'],
    ] as const
  ).flatMap(([end, direction]) => {
    const box = patch.boxes.find(({ id }) => id === end.box)
    if (!box) return [`Link "${link.id}" names a box "${end.box}" that is missing.`]
    const gear = shelf.get(box.gear)
    if (!gear) return []
    const port = gear.ports.find(({ id }) => id === end.port)
    if (!port) return [`Link "${link.id}": ${gear.name} has no port "${end.port}".`]
    return port.direction === direction
      ? []
      : [
          `Link "${link.id}": ${port.name} of ${gear.name} is an ${port.direction}put, and the link needs an ${direction}put there.`,
        ]
  })
  const [shared] = [...branchProblems(link, patch, shelf), ...joinProblems(link, patch, shelf)]
  return [...ends, ...(shared ? [shared] : [])]
}

/** Links that share an id or a socket, and chains that run in a circle. */
function wholeProblems({ links }: Patch): string[] {
  const ids = links.map(({ id }) => id)
  const into = links.filter(({ joins }) => !joins).map(({ to }) => `${to.box}.${to.port}`)
  const followers = new Map<string, string[]>()
  for (const { from, to } of links) followers.set(from.box, (followers.get(from.box) ?? []).concat(to.box))
  const twice = (all: readonly string[]) => all.filter((each, index) => all.indexOf(each) < index)
  return [
    ...twice(ids).map((id) => `Two links share the id "${id}"; rename one.`),
    ...twice(into).map((socket) => `Two links end in ${socket}; a socket takes one plug.`),
    ...(hasLoop(followers)
      ? ['The chain runs in a circle: a box feeds itself through others. Remove one of the links.']
      : []),
  ]
}

/** Throws a Refusal with the first problem and the number of further ones. */
export function refuseBadPatch(patch: Patch, shelf: Shelf, what: string): void {
  const [first, ...more] = checkPatch(patch, shelf)
  if (first)
    throw new Refusal(`${what} was refused: ${first}${more.length ? ` (And ${more.length} more.)` : ''}`)
}

/** Faults of the splitter that a link begins at. */
function branchProblems(link: Patch['links'][number], patch: Patch, shelf: Shelf): string[] {
  if (!link.branch) return []
  const { piece, end } = link.branch
  const host = patch.links.find(({ pieces }) => pieces.some(({ id }) => id === piece))
  const says = (what: string) => [`Link "${link.id}" begins at a splitter "${piece}", ${what}.`]
  if (!host || host === link) return says('which lies in no other link')
  const gear = shelf.get(host.pieces.find(({ id }) => id === piece)?.gear ?? '')
  const ends = 2 + (gear?.passive?.more?.length ?? 0)
  if (end >= ends) return says(`which has no end ${end}`)
  const sameOutput = host.from.box === link.from.box && host.from.port === link.from.port
  const ports = shelf.get(patch.boxes.find(({ id }) => id === link.from.box)?.gear ?? '')?.ports
  const [out, into] = [link.from.port, host.to.port].map((id) => ports?.find((port) => port.id === id))
  const sameSocket =
    host.to.box === link.from.box && (out?.socketOf === host.to.port || into?.socketOf === link.from.port)
  if (!sameOutput && !sameSocket) return says('which hangs on another output')
  const taken = patch.links.some(
    (other) => other.id !== link.id && other.branch?.piece === piece && other.branch.end === end,
  )
  return taken ? says(`whose end ${end} is taken`) : []
}

/** Faults of another link's lead that a link ends in. */
function joinProblems(link: Patch['links'][number], patch: Patch, shelf: Shelf): string[] {
  if (!link.joins) return []
  const { piece, end } = link.joins
  const host = patch.links.find(({ pieces }) => pieces.some(({ id }) => id === piece))
  const says = (what: string) => [`Link "${link.id}" ends in a lead "${piece}", ${what}.`]
  if (!host || host === link) return says('which lies in no other link')
  if (host.to.box !== link.to.box || host.to.port !== link.to.port)
    return says('which is plugged in elsewhere')
  const gear = shelf.get(host.pieces.find(({ id }) => id === piece)?.gear ?? '')
  if (end >= 2 + (gear?.passive?.more?.length ?? 0)) return says(`which has no end ${end}`)
  const taken = patch.links.some(
    (other) => other.id !== link.id && other.joins?.piece === piece && other.joins.end === end,
  )
  return taken ? says(`whose end ${end} is taken`) : []
}
