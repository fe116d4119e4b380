import { joinAt } from '../circuit'
import type { Edit } from '../edits'
import { type Gear, idsOf, type Link, type Patch, type Shelf, shelfFor } from '../model'
import { leadBetween } from './leads'
import { newBox } from './new-box'
import { plugIn } from './plugging'

/** A socket of a box in the chain. */
export interface Socket {
  /** `box.port` */
  id: string
  name: string
  end: Link['from']
  connector: string
}

/** Sockets of all boxes in one direction; `free`: only empty ones. */
export function socketsOf(
  patch: Patch,
  commonShelf: Shelf,
  direction: 'in' | 'out',
  free: boolean,
): Socket[] {
  const shelf = shelfFor(patch, commonShelf)
  const taken = (box: string, port: string) =>
    free && patch.links.some(({ to }) => to.box === box && to.port === port)
  return patch.boxes.flatMap((box) => {
    const gear = shelf.get(box.gear)
    if (!gear) return []
    return gear.ports
      .filter((port) => port.direction === direction && port.connector !== 'air' && !taken(box.id, port.id))
      .map(({ id, name, connector }) => ({
        id: `${box.id}.${id}`,
        name: `${box.name ?? gear.name}: ${name}`,
        end: { box: box.id, port: id },
        connector,
      }))
  })
}

interface Connections {
  /** Its place; null: none yet. Left out: the usual place of its kind. */
  place?: string | null
  /** The output that feeds the new box. */
  source?: Socket
  /** The input that the new box feeds. */
  target?: Socket
}

/** The edits that add a thing to the chain and plug it in, with the leads that takes. The first of them is the box. */
export function addingEdits(
  patch: Patch,
  gear: Gear,
  shelf: Shelf,
  { place, source, target }: Connections,
): Edit[] {
  const { box, edits } = newBox(patch, gear, place)
  const ids = [...idsOf(patch), box.id]
  const input = source && portFor(gear, 'in', source)
  const output = target && portFor(gear, 'out', target)
  const placed: Patch = { ...patch, boxes: [...patch.boxes, box] }
  return [
    ...edits,
    ...(source && input ? joined(placed, shelf, source.end, { box: box.id, port: input }, ids) : []),
    ...(target && output ? joined(placed, shelf, { box: box.id, port: output }, target.end, ids) : []),
  ]
}

/** The edits that plug an output into an input by the lead that a person would take. */
export const joined = (
  patch: Patch,
  shelf: Shelf,
  from: Link['from'],
  to: Link['to'],
  used: string[] = idsOf(patch),
): Edit[] => plugIn(patch, shelf, from, to, leadBetween(patch, shelf, from, to), used)

/** A port of a new thing for a socket: one of the same shape, else the first of its direction. */
function portFor({ ports }: Gear, direction: 'in' | 'out', socket: Socket): string | undefined {
  const possible = ports.filter((port) => port.direction === direction && port.connector !== 'air')
  return (possible.find(({ connector }) => connector === socket.connector) ?? possible[0])?.id
}

/** Sides of a box at which something could still be joined on. */
export function openSides(patch: Patch, box: string, gear: Gear, shelf: Shelf): ('in' | 'out')[] {
  const ports = gear.ports.filter(({ connector }) => connector !== 'air' && connector !== 'fixed')
  const fed = (port: string) => patch.links.some(({ to }) => to.box === box && to.port === port)
  const open = (port: string) => !fed(port) || joinAt(patch, { box, port }, shelf) !== undefined
  return [
    ...(ports.some(({ id, direction }) => direction === 'in' && open(id)) ? ['in' as const] : []),
    ...(ports.some(({ direction }) => direction === 'out') ? ['out' as const] : []),
  ]
}
