import { type Contact, groundContact, type Passive, type Shape } from '../model'
import type { Terminal, StrayCapacitor } from './link'

/** Electrical data of a cable. */
export type Cable = Pick<Passive, 'lengthM' | 'picofaradPerM' | 'corePicofaradPerM' | 'shieldedAt'>

/** Capacitance between two cores over that from core to shield, for ordinary twisted microphone cable. */
const coresOverShield = 0.5

/** A conductor of a cable: its place at each end, where it has one. */
interface Conductor {
  near: Terminal
  far: Terminal
  shield: boolean
}

/**
 * The capacitance of a cable between its conductors, half of each at either end. Cores are what its wires join from end
 * to end; the shield is the conductor on a ground contact. It goes to the shield and never to the ground of a box: a
 * shield that is joined at one end only is still the shield.
 */
export function strayCapacitors(
  cable: Cable,
  [from, to]: readonly [Shape, Shape],
  wires: readonly (readonly [Contact, Contact])[],
): StrayCapacitor[] {
  const { lengthM = 0, picofaradPerM, corePicofaradPerM } = cable
  if (lengthM === 0 || (picofaradPerM === undefined && corePicofaradPerM === undefined)) return []
  // at least one of the two is given; the other is derived from it
  const shieldFarad = (picofaradPerM ?? (corePicofaradPerM ?? 0) / coresOverShield) * lengthM * 1e-12
  const coreFarad = (corePicofaradPerM ?? (picofaradPerM ?? 0) * coresOverShield) * lengthM * 1e-12
  const conductors = conductorsOf(wires, from, to)
  const cores = conductors.filter(({ shield }) => !shield)
  const shield = shieldOf(cable, conductors, from, to)
  const halves = (one: Conductor, other: Conductor, farad: number): StrayCapacitor[] => [
    { from: one.near, to: other.near, farad: farad / 2 },
    { from: one.far, to: other.far, farad: farad / 2 },
  ]
  return [
    ...(shield ? cores.flatMap((core) => halves(core, shield, shieldFarad)) : []),
    ...cores.flatMap((core, index) =>
      cores.slice(index + 1).flatMap((other) => halves(core, other, coreFarad)),
    ),
  ].filter(({ farad }) => farad > 0)
}

/** Contacts of both ends in groups that wires join. */
function conductorsOf(wires: readonly (readonly [Contact, Contact])[], from: Shape, to: Shape): Conductor[] {
  const groups: { near: Set<Contact>; far: Set<Contact> }[] = []
  for (const [near, far] of wires) {
    const touching = groups.filter((group) => group.near.has(near) || group.far.has(far))
    const merged = {
      near: new Set([near, ...touching.flatMap((group) => [...group.near])]),
      far: new Set([far, ...touching.flatMap((group) => [...group.far])]),
    }
    for (const group of touching) groups.splice(groups.indexOf(group), 1)
    groups.push(merged)
  }
  const grounds = [groundContact(from), groundContact(to)]
  // between two plugs of four contacts the custom of neither says which is ground: the sleeve then
  if (!grounds[0] && !grounds[1]) grounds.fill('sleeve')
  return groups.map(({ near, far }) => ({
    near: { end: 0, contact: [...near][0]! },
    far: { end: 1, contact: [...far][0]! },
    shield:
      (grounds[0] !== undefined && near.has(grounds[0])) || (grounds[1] !== undefined && far.has(grounds[1])),
  }))
}

/** The shield, where there is one: joined as the wires say, or at the ends that are stated. */
function shieldOf(
  { shieldedAt }: Cable,
  conductors: readonly Conductor[],
  from: Shape,
  to: Shape,
): Conductor | undefined {
  const wired = conductors.find(({ shield }) => shield)
  if (wired || shieldedAt === undefined) return wired
  const ends: readonly [Terminal, Terminal] = [
    { end: 0, contact: groundContact(from) ?? 'sleeve' },
    { end: 1, contact: groundContact(to) ?? 'sleeve' },
  ]
  const free: Terminal = { inside: 'shield' }
  const place = { both: ends[0], from: ends[0], to: ends[1], neither: free }[shieldedAt]
  return { near: place, far: shieldedAt === 'both' ? ends[1] : place, shield: true }
}
