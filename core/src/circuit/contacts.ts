/**
 * Plugs and sockets by geometry. Round plugs (3.5 and 6.35 mm) are divided into four zones from tip to shoulder;
 * a plug's contact covers some of them, a socket's springs touch at one each.
 */
export const shapes = [
  'xlr-3',
  'ta-3',
  'mini-2',
  'mini-3',
  'mini-4',
  'jack-2',
  'jack-3',
  'rca',
  'usb-c',
] as const
export type Shape = (typeof shapes)[number]
export type Contact = string

/** Contacts of a shape in order, as the trade names them. */
export const contactsOf: Record<Shape, readonly Contact[]> = {
  'xlr-3': ['1', '2', '3'],
  'ta-3': ['1', '2', '3'],
  'mini-2': ['tip', 'sleeve'],
  'mini-3': ['tip', 'ring', 'sleeve'],
  'mini-4': ['tip', 'ring', 'second ring', 'sleeve'],
  'jack-2': ['tip', 'sleeve'],
  'jack-3': ['tip', 'ring', 'sleeve'],
  rca: ['tip', 'sleeve'],
  // the two lanes of its digital stream stand as contacts of their own
  'usb-c': ['left', 'right', 'microphone', 'ground', 'data left', 'data right'],
}

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

/** Whether two halves go into each other at all: the same family, one plug and one socket. */
export const fits = (one: Half, other: Half): boolean =>
  family(one.shape) === family(other.shape) && one.gender !== other.gender

/**
 * What touches what when a plug goes into a socket, once for each kind of real socket that makes a difference.
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
