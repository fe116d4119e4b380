import type { Gear, Passive, Position, Rung } from '../model'
import { type Contact, contactsOf, type Half, type Shape } from './contacts'
import type { Piece, Place } from './link'
import { isShape } from './ports'

function rungsOf(passive: Passive, at: (control: string) => Position | undefined): Rung[] {
  return Array.isArray(passive.ladder)
    ? passive.ladder
    : (passive.ladder.at[`${at(passive.ladder.control)}`] ?? [])
}

/** A cable, adapter or pad as wires and resistances. Its ladder lies in every conductor that carries signal. */
function pieceOf(
  id: string,
  gear: Gear,
  passive: Passive,
  shapes: readonly [Shape, Shape],
  at: (control: string) => Position | undefined,
): Piece {
  const [from, to] = shapes
  const gender = (end: 0 | 1): Half['gender'] =>
    (end === 0 ? passive.fromGender : passive.toGender) ??
    (pinned(shapes[end]) && end === 0 ? 'socket' : 'plug')
  const pairs: (readonly [Contact, Contact])[] =
    passive.wires ?? contactsOf[from].map((contact) => [contact, contact] as const)
  const xlr = pinned(from) && pinned(to)
  const grounds = pinned(from) ? ['1'] : from === 'usb-c' ? ['ground'] : ['sleeve']
  const rungs = rungsOf(passive, at)
  const piece: Piece = {
    id,
    name: gear.name,
    ends: [
      { shape: from, gender: gender(0) },
      { shape: to, gender: gender(1) },
      ...(passive.more ?? []).flatMap(({ connector, gender: stated }) =>
        isShape(connector) ? [{ shape: connector, gender: stated ?? 'plug' } as const] : [],
      ),
    ],
    wires: [],
    lengthM: passive.lengthM,
    faradPerM: passive.picofaradPerM === undefined ? undefined : passive.picofaradPerM * 1e-12,
  }
  const wires: (readonly [Place, Place])[] = []
  const parts: NonNullable<Piece['parts']>[number][] = []
  const near = (contact: Contact): Place => ({ end: 0, contact })
  const ground: Place = near(grounds[0]!)
  const lanes = new Map<Contact, Contact[]>()
  for (const [one, other] of pairs) lanes.set(one, [...(lanes.get(one) ?? []), other])
  const live = [...lanes.keys()].filter((contact) => !grounds.includes(contact))
  for (const [contact, others] of lanes) {
    let place: Place = near(contact)
    if (live.includes(contact))
      rungs.forEach((rung, index) => {
        if ('seriesOhm' in rung) {
          const next: Place = { inside: `${contact} ${index}` }
          // a balanced pad has half in each leg
          parts.push({
            kind: 'resistor',
            from: place,
            to: next,
            ohm: xlr ? rung.seriesOhm / 2 : rung.seriesOhm,
          })
          place = next
        } else if (!xlr) parts.push({ kind: 'resistor', from: place, to: ground, ohm: rung.shuntOhm })
        else if (contact === '2')
          parts.push({ kind: 'resistor', from: place, to: { inside: `3 ${index - 1}` }, ohm: rung.shuntOhm })
      })
    for (const other of others) wires.push([place, { end: 1, contact: other }])
  }
  for (const [index, further] of (passive.more ?? []).entries())
    for (const [one, other] of further.wires) wires.push([near(one), { end: index + 2, contact: other }])
  for (const part of passive.parts ?? [])
    parts.push(part.kind === 'capacitor' ? { ...part, farad: part.microfarad * 1e-6 } : part)
  return { ...piece, wires, parts }
}

/** Connectors of three pins, of which the first is ground. */
const pinned = (shape: Shape): boolean => shape === 'xlr-3' || shape === 'ta-3'

/** A passive thing as a piece of a link, its controls as set, with its other end first when turned; undefined where it has no plugs. */
export function pieceOfGear(
  id: string,
  gear: Gear,
  settings: Record<string, Position>,
  turned = false,
): Piece | undefined {
  if (!gear.passive) return undefined
  const { from, to } = gear.passive
  if (!isShape(from) || !isShape(to)) return undefined
  const piece = pieceOf(id, gear, gear.passive, [from, to], standsAt(gear, settings))
  return turned ? turnedPiece(piece, [1, 0]) : piece
}

/** The same piece with its ends in another order. */
export function turnedPiece(piece: Piece, order: readonly number[]): Piece {
  const turn = (place: Place): Place =>
    'inside' in place ? place : { ...place, end: order.indexOf(place.end) }
  const pair = ([one, other]: readonly [Place, Place]) => [turn(one), turn(other)] as const
  const kept = order.concat(piece.ends.map((_, index) => index).filter((index) => !order.includes(index)))
  if (kept.length > order.length) return turnedPiece(piece, kept)
  return {
    ...piece,
    ends: order.map((index) => piece.ends[index]!),
    wires: piece.wires.map(pair),
    parts: piece.parts?.map((part) =>
      'first' in part
        ? { ...part, first: pair(part.first), second: pair(part.second) }
        : { ...part, from: turn(part.from), to: turn(part.to) },
    ),
  }
}

/** Where the controls of a thing stand. */
export const standsAt = (gear: Gear, settings: Record<string, Position>) => (control: string) =>
  settings[control] ?? gear.controls.find(({ id }) => id === control)?.initial
