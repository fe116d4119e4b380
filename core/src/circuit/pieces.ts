import {
  type Contact,
  type Gear,
  groundContact,
  hasContacts,
  hasPins,
  type Passive,
  type Position,
  type Rung,
  type Shape,
  contactsOf,
} from '../model'
import { strayCapacitors } from './cable'
import type { Half } from './contacts'
import { climb, ladderLegs } from './ladder'
import type { Piece, Terminal } from './link'

function rungsOf(passive: Passive, at: (control: string) => Position | undefined): readonly Rung[] {
  return Array.isArray(passive.ladder)
    ? passive.ladder
    : (passive.ladder.at[`${at(passive.ladder.control)}`] ?? [])
}

/** A cable, adapter or pad as wires and parts, with its ladder at the present position of its control. */
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
    (hasPins(shapes[end]) && end === 0 ? 'socket' : 'plug')
  const pairs: (readonly [Contact, Contact])[] =
    passive.wires ?? contactsOf[from].map((contact) => [contact, contact] as const)
  const ground = groundAt(from, to, pairs)
  const conductors = [...new Set(pairs.map(([near]) => near))].filter((contact) => contact !== ground)
  const legs = ladderLegs(passive, from, new Set(conductors))
  const { resistors, end } = climb(rungsOf(passive, at), legs, conductors, { end: 0, contact: ground })
  return {
    id,
    name: gear.name,
    ends: [
      { shape: from, gender: gender(0) },
      { shape: to, gender: gender(1) },
      ...(passive.more ?? []).flatMap(({ connector, gender: stated }) =>
        hasContacts(connector) ? [{ shape: connector, gender: stated ?? 'plug' } as const] : [],
      ),
    ],
    wires: [
      ...pairs.map(([near, far]): readonly [Terminal, Terminal] => [
        end.get(near) ?? { end: 0, contact: near },
        { end: 1, contact: far },
      ]),
      ...(passive.more ?? []).flatMap((further, index) =>
        further.wires.map(([near, far]): readonly [Terminal, Terminal] => [
          { end: 0, contact: near },
          { end: index + 2, contact: far },
        ]),
      ),
    ],
    parts: [...resistors, ...(passive.parts ?? []).map(partOf)],
    lengthM: passive.lengthM,
    strays: strayCapacitors(passive, shapes, pairs),
  }
}

/** The ground contact of end 0: by convention, or by what it is wired to. */
const groundAt = (from: Shape, to: Shape, pairs: readonly (readonly [Contact, Contact])[]): Contact =>
  groundContact(from) ?? pairs.find(([, far]) => far === groundContact(to))?.[0] ?? 'sleeve'

function partOf(part: NonNullable<Passive['parts']>[number]): NonNullable<Piece['parts']>[number] {
  if (part.kind === 'capacitor') return { ...part, farad: part.microfarad * 1e-6 }
  if (part.kind !== 'transformer') return part
  const { windingOhm, secondWindingOhm = windingOhm * part.ratio ** 2, leakageHenry = 0 } = part
  return { ...part, firstOhm: windingOhm, secondOhm: secondWindingOhm, leakageHenry }
}

/** A passive thing as a piece of a link, its controls as set, with its other end first when reversed; undefined where it has no plugs. */
export function pieceOfGear(
  id: string,
  gear: Gear,
  settings: Record<string, Position>,
  reversed = false,
): Piece | undefined {
  if (!gear.passive) return undefined
  const { from, to } = gear.passive
  if (!hasContacts(from) || !hasContacts(to)) return undefined
  const piece = pieceOf(id, gear, gear.passive, [from, to], positionOf(gear, settings))
  return reversed ? turnedPiece(piece, [1, 0]) : piece
}

/** The same piece with its ends in another order. */
export function turnedPiece(piece: Piece, order: readonly number[]): Piece {
  const turn = (place: Terminal): Terminal =>
    'inside' in place ? place : { ...place, end: order.indexOf(place.end) }
  const pair = ([one, other]: readonly [Terminal, Terminal]) => [turn(one), turn(other)] as const
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
    strays: piece.strays?.map((stray) => ({ ...stray, from: turn(stray.from), to: turn(stray.to) })),
  }
}

/** Positions of a thing's controls. */
export const positionOf = (gear: Gear, settings: Record<string, Position>) => (control: string) =>
  settings[control] ?? gear.controls.find(({ id }) => id === control)?.initial
