import { hasPosition } from './control'
import { checkGear, hasLoop } from './check-gear'
import { type Gear, isPiece, type Shelf } from './gear'
import type { Patch } from './patch'
import { Refusal } from './refusal'

/** The shelf a patch sees: what lies on the common shelf, with its own gear in front. */
export function shelfFor(patch: Patch, shelf: Shelf): Shelf {
  return patch.gear.length
    ? new Map([...shelf, ...patch.gear.map((gear) => [gear.id, gear] as const)])
    : shelf
}

/** What is wrong with a patch as a whole, one sentence each; empty when it can be computed. */
export function checkPatch(patch: Patch, commonShelf: Shelf): string[] {
  const says: string[] = []
  const say = (what: string) => says.push(what)
  const shelf = shelfFor(patch, commonShelf)
  const ids = new Set<string>()
  const claim = (id: string) =>
    ids.has(id) ? say(`Two parts of the chain share the id "${id}"; rename one.`) : ids.add(id)
  const sources = new Map(patch.brief.sources.map((source) => [source.id, source]))
  const places = new Map(patch.brief.places.map((place) => [place.id, place]))
  if (sources.size < patch.brief.sources.length) say('Two sources of the brief share one id; rename one.')
  if (places.size < patch.brief.places.length) say('Two places of the brief share one id; rename one.')
  for (const place of patch.brief.places) {
    for (const { noise } of place.noises ?? [])
      if (!patch.brief.noises.some(({ id }) => id === noise))
        say(`Place "${place.id}" hears the noise "${noise}", which is not in the brief.`)
    for (const { source } of place.hears) {
      const kind = sources.get(source)?.kind
      if (!kind) say(`Place "${place.id}" hears "${source}", which is not in the brief.`)
      else if (kind === 'line')
        say(`Place "${place.id}" hears "${source}", which is a line feed and makes no sound there.`)
    }
  }
  for (const gear of patch.gear) checkGear(gear).forEach(say)

  const part = (id: string, gearId: string, settings: Record<string, number | string>, piece: boolean) => {
    claim(id)
    const gear = shelf.get(gearId)
    if (!gear) {
      say(`"${id}" refers to gear "${gearId}", which is neither in the file nor on the shelf.`)
      return undefined
    }
    if (isPiece(gear) !== piece)
      say(
        piece
          ? `"${id}": ${gear.name} is a device; it stands in the chain as a box, not inside a link.`
          : `"${id}": ${gear.name} is a cable, adapter or pad; it belongs inside a link, not among the boxes.`,
      )
    for (const [controlId, position] of Object.entries(settings)) {
      const control = gear.controls.find((each) => each.id === controlId)
      if (!control) say(`"${id}": ${gear.name} has no control "${controlId}".`)
      else if (!hasPosition(control, position))
        say(`"${id}": ${control.name} of ${gear.name} cannot stand at "${position}".`)
    }
    return gear
  }
  const gearOf = new Map<string, Gear>()
  for (const box of patch.boxes) {
    const gear = part(box.id, box.gear, box.settings, false)
    if (gear) gearOf.set(box.id, gear)
    if (box.place && !places.has(box.place))
      say(`"${box.id}" stands at "${box.place}", which is not in the brief.`)
    if (box.source && !sources.has(box.source))
      say(`"${box.id}" feeds "${box.source}", which is not in the brief.`)
  }
  const fed = new Set<string>()
  const linkIds = new Set<string>()
  const followers = new Map<string, string[]>()
  for (const link of patch.links) {
    if (linkIds.has(link.id)) say(`Two links share the id "${link.id}"; rename one.`)
    linkIds.add(link.id)
    for (const [end, way] of [
      [link.from, 'out'],
      [link.to, 'in'],
    ] as const) {
      const gear = gearOf.get(end.box)
      if (!patch.boxes.some(({ id }) => id === end.box))
        say(`Link "${link.id}" names a box "${end.box}" that is missing.`)
      else if (gear) {
        const port = gear.ports.find(({ id }) => id === end.port)
        if (!port) say(`Link "${link.id}": ${gear.name} has no port "${end.port}".`)
        else if (port.direction !== way)
          say(
            `Link "${link.id}": ${port.name} of ${gear.name} is an ${way === 'in' ? 'output' : 'input'}, and the link needs an ${way}put there.`,
          )
      }
    }
    const into = `${link.to.box}.${link.to.port}`
    if (fed.has(into) && !link.joins) say(`Two links end in ${into}; a socket takes one plug.`)
    if (!link.joins) fed.add(into)
    for (const piece of link.pieces) part(piece.id, piece.gear, piece.settings, true)
    const [problem] = [...branchProblems(link, patch, shelf), ...joinProblems(link, patch, shelf)]
    if (problem) say(problem)
    followers.set(link.from.box, (followers.get(link.from.box) ?? []).concat(link.to.box))
  }
  if (hasLoop(followers))
    say('The chain runs in a circle: a box feeds itself through others. Take out one of the links.')
  return says
}

/** Throws a Refusal with the first problem and the number of further ones. */
export function refuseBadPatch(patch: Patch, shelf: Shelf, what: string): void {
  const [first, ...more] = checkPatch(patch, shelf)
  if (first)
    throw new Refusal(`${what} was refused: ${first}${more.length ? ` (And ${more.length} more.)` : ''}`)
}

/** What is wrong with the splitter that a link begins at. */
function branchProblems(link: Patch['links'][number], patch: Patch, shelf: Shelf): string[] {
  if (!link.branch) return []
  const { piece, end } = link.branch
  const host = patch.links.find(({ pieces }) => pieces.some(({ id }) => id === piece))
  const says = (what: string) => [`Link "${link.id}" begins at a splitter "${piece}", ${what}.`]
  if (!host || host === link) return says('which lies in no other link')
  const gear = shelf.get(host.pieces.find(({ id }) => id === piece)!.gear)
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

/** What is wrong with the lead of another link that a link ends in. */
function joinProblems(link: Patch['links'][number], patch: Patch, shelf: Shelf): string[] {
  if (!link.joins) return []
  const { piece, end } = link.joins
  const host = patch.links.find(({ pieces }) => pieces.some(({ id }) => id === piece))
  const says = (what: string) => [`Link "${link.id}" ends in a lead "${piece}", ${what}.`]
  if (!host || host === link) return says('which lies in no other link')
  if (host.to.box !== link.to.box || host.to.port !== link.to.port)
    return says('which is plugged in elsewhere')
  const gear = shelf.get(host.pieces.find(({ id }) => id === piece)!.gear)
  if (end >= 2 + (gear?.passive?.more?.length ?? 0)) return says(`which has no end ${end}`)
  const taken = patch.links.some(
    (other) => other.id !== link.id && other.joins?.piece === piece && other.joins.end === end,
  )
  return taken ? says(`whose end ${end} is taken`) : []
}
