import { type Contact, contactsOf, type Shape } from '../model'

/*
 * Plugs and sockets by geometry. Round plugs (3.5 and 6.35 mm) are divided into four zones from tip to shoulder;
 * a plug's contact covers some of them, a socket's springs touch at one each.
 */
type Zone = 1 | 2 | 3 | 4

/** Zones that each contact of a plug covers: a shorter row of rings leaves a longer sleeve. */
const plugZones: Partial<Record<Shape, Record<Contact, readonly Zone[]>>> = {
  'mini-2': { tip: [1], sleeve: [2, 3, 4] },
  'mini-3': { tip: [1], ring: [2], sleeve: [3, 4] },
  'mini-4': { tip: [1], ring: [2], 'second ring': [3], sleeve: [4] },
  'jack-2': { tip: [1], sleeve: [2, 3, 4] },
  'jack-3': { tip: [1], ring: [2], sleeve: [3, 4] },
}

/** Where the springs of a socket touch. Real sockets differ where several are listed. */
const socketZones: Partial<Record<Shape, readonly Record<Contact, Zone>[]>> = {
  'mini-2': [
    { tip: 1, sleeve: 4 },
    { tip: 1, sleeve: 2 },
  ],
  'mini-3': [
    { tip: 1, ring: 2, sleeve: 4 },
    { tip: 1, ring: 2, sleeve: 3 },
  ],
  'mini-4': [{ tip: 1, ring: 2, 'second ring': 3, sleeve: 4 }],
  'jack-2': [
    { tip: 1, sleeve: 4 },
    { tip: 1, sleeve: 2 },
  ],
  'jack-3': [
    { tip: 1, ring: 2, sleeve: 4 },
    { tip: 1, ring: 2, sleeve: 3 },
  ],
}

/** Shapes of one family differ only in their number of contacts. */
export const family = (shape: Shape): string => shape.replace(/-\d$/, '')

export interface Half {
  shape: Shape
  gender: 'plug' | 'socket'
}

/** Pairs of contacts that touch: [plug's, socket's]. */
export type Mating = readonly (readonly [Contact, Contact])[]

/** Whether two halves go into each other at all: the same family, one plug and one socket; or both wired for good. */
export const fits = (one: Half, other: Half): boolean =>
  family(one.shape) === family(other.shape) && (one.shape === 'fixed' || one.gender !== other.gender)

/**
 * Which contacts touch when a plug goes into a socket, once for each kind of real socket that makes a difference.
 * Empty when they do not fit.
 */
export function matings(plug: Shape, socket: Shape): Mating[] {
  if (family(plug) !== family(socket)) return []
  const zones = plugZones[plug]
  const springs = socketZones[socket]
  if (!zones || !springs) return [contactsOf[plug].map((contact) => [contact, contact])]
  const all = springs.map((each) =>
    Object.entries(each).flatMap(([contact, zone]) =>
      Object.entries(zones)
        .filter(([, covered]) => covered.includes(zone))
        .map(([touching]) => [touching, contact] as const),
    ),
  )
  const seen = new Set<string>()
  return all.filter((mating) => {
    const key = JSON.stringify(mating)
    return seen.has(key) ? false : seen.add(key)
  })
}
