import { type Contact, hasPins, type Passive, type Rung, type Shape, known } from '../model'
import type { Terminal } from './link'

/** A resistor of a ladder between two places of a piece. */
export interface LadderResistor {
  kind: 'resistor'
  from: Terminal
  to: Terminal
  ohm: number
}

/** The two legs of a balanced run on this connector by convention; undefined where each contact carries its own signal. */
export const legsOf = (shape: Shape): readonly [Contact, Contact] | undefined =>
  hasPins(shape) ? ['2', '3'] : shape === 'jack-3' ? ['tip', 'ring'] : undefined

/** The legs that the ladder of a piece lies between; undefined where it lies in every conductor by itself. */
export function ladderLegs(
  { ladderAcross }: Pick<Passive, 'ladderAcross'>,
  shape: Shape,
  wired: ReadonlySet<Contact>,
): readonly [Contact, Contact] | undefined {
  const legs = legsOf(shape) ?? (ladderAcross === 'pair' ? (['tip', 'ring'] as const) : undefined)
  if (ladderAcross === 'each' || !legs) return undefined
  return legs.every((leg) => wired.has(leg)) ? legs : undefined
}

/** Where the rungs of a conductor lead to, with the resistors on the way. */
interface Climbed {
  resistors: LadderResistor[]
  end: Map<Contact, Terminal>
}

/**
 * A ladder of any rungs in any order, walked from end 0: along the pair of legs, or along each conductor by itself with
 * its shunts to `ground`.
 */
export function climb(
  rungs: readonly Rung[],
  legs: readonly [Contact, Contact] | undefined,
  conductors: readonly Contact[],
  ground: Terminal,
): Climbed {
  const resistors: LadderResistor[] = []
  const end = new Map(conductors.map((contact): [Contact, Terminal] => [contact, { end: 0, contact }]))
  const reached = (contact: Contact) => known(end.get(contact), `conductor ${contact}`)
  const forward = (contact: Contact, ohm: number, index: number) => {
    const to: Terminal = { inside: `${contact} ${index}` }
    resistors.push({ kind: 'resistor', from: reached(contact), to, ohm })
    end.set(contact, to)
  }
  rungs.forEach((rung, index) => {
    if ('seriesOhm' in rung)
      for (const contact of legs ?? conductors) forward(contact, rung.seriesOhm / (legs ? 2 : 1), index)
    else if (legs)
      resistors.push({ kind: 'resistor', from: reached(legs[0]), to: reached(legs[1]), ohm: rung.shuntOhm })
    else
      for (const contact of conductors)
        resistors.push({ kind: 'resistor', from: reached(contact), to: ground, ohm: rung.shuntOhm })
  })
  return { resistors, end }
}
