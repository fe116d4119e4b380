import {
  type Connector,
  type Gear,
  type Link,
  type Passive,
  type Patch,
  type Port,
  type Position,
  type Rung,
  type Shelf,
  shelfFor,
  valueOf,
} from '../model'
import { type Contact, contactsOf, type Half, type Shape } from './contacts'
import type { InputPort, OutputPort, Piece, Place, PluggedLink } from './link'

/** Ordinary impedances where a figure is unknown, ohm. */
const typicalOhm = { out: 150, in: 5000 }

const isShape = (connector: Connector): connector is Shape & Connector => connector in contactsOf

/** Contacts that carry a port's channels, where the port does not say otherwise: the custom of its connector. */
interface Layout {
  left: Contact
  right?: Contact
  cold?: Contact
  ground: readonly Contact[]
}

function layoutOf(port: Port, shape: Shape): Layout {
  if (port.contacts) return port.contacts
  if (shape === 'xlr-3' || shape === 'ta-3') return { left: '2', cold: '3', ground: ['1'] }
  if (shape === 'usb-c') return { left: 'left', right: 'right', ground: ['ground'] }
  if (contactsOf[shape].length === 2) return { left: 'tip', ground: ['sleeve'] }
  return port.balanced
    ? { left: 'tip', cold: 'ring', ground: ['sleeve'] }
    : { left: 'tip', right: 'ring', ground: ['sleeve'] }
}

/** A plug hangs on a lead, a socket sits in a wall; XLR has its own rule: what gives sound has the pins. */
function genderOf(port: Port, gear: Gear): Half['gender'] {
  if (port.gender) return port.gender
  if (port.connector === 'xlr-3') return port.way === 'out' ? 'plug' : 'socket'
  return gear.kind === 'microphone' || gear.kind === 'headphones' ? 'plug' : 'socket'
}

/** Both sides of an output are driven by the same strips: one signal, twice. */
function isDualMono(port: Port, gear: Gear): boolean {
  const driving = (channel: string) =>
    gear.strips
      .filter(({ to }) => to.some((end) => 'port' in end && end.port === port.id && end.channel === channel))
      .map(({ id }) => id)
      .join()
  return driving('left') === driving('right')
}

function outputOf(port: Port, gear: Gear, name: string, shape: Shape): OutputPort {
  const layout = layoutOf(port, shape)
  const ohm = port.impedanceOhm === undefined ? 1 : valueOf(port.impedanceOhm, typicalOhm.out)
  const drive =
    port.drive ??
    (port.balanced && layout.cold ? (gear.kind === 'microphone' ? 'floating' : 'symmetric') : 'single-ended')
  const cold = drive === 'single-ended' ? undefined : layout.cold
  const two = port.channels === 2 && layout.right !== undefined && !isDualMono(port, gear)
  const channels = [
    { signal: two ? 'left' : name, drive, hot: layout.left, cold, ohm },
    ...(port.channels === 2 && layout.right
      ? [{ signal: two ? 'right' : name, drive, hot: layout.right, ohm }]
      : []),
  ]
  return {
    name,
    shape,
    gender: genderOf(port, gear),
    channels,
    ground: layout.ground,
    needs: port.needs,
    bearsVolts: port.bearsVolts,
  }
}

function inputOf(
  port: Port,
  gear: Gear,
  name: string,
  shape: Shape,
  at: (control: string) => Position | undefined,
): InputPort {
  const layout = layoutOf(port, shape)
  const ohm = port.impedanceOhm === undefined ? Infinity : valueOf(port.impedanceOhm, typicalOhm.in)
  const farad = port.capacitancePf === undefined ? undefined : port.capacitancePf * 1e-12
  const commonModeOhm = port.commonModeOhm === undefined ? undefined : valueOf(port.commonModeOhm, 50_000)
  const supplies = (port.supplies ?? [])
    .filter(({ when }) => !when || when.is.includes(`${at(when.control)}`))
    .map(({ when: _, ...supply }) => supply)
  const channels =
    port.channels === 2 && layout.right
      ? [
          { id: 'left', hot: layout.left, ohm, farad },
          { id: 'right', hot: layout.right, ohm, farad },
        ]
      : [
          {
            id: 'one',
            hot: layout.left,
            cold: port.balanced ? layout.cold : undefined,
            ohm,
            commonModeOhm,
            farad,
          },
        ]
  // an unbalanced input on three pins has its cold leg on ground
  const tied = !port.balanced && layout.cold ? [layout.cold] : []
  return {
    name,
    shape,
    gender: genderOf(port, gear),
    channels,
    ground: [...layout.ground, ...tied],
    supplies,
  }
}

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
  const gender = (end: 0 | 1): Half['gender'] => {
    const stated = end === 0 ? passive.fromGender : passive.toGender
    if (stated) return stated
    if (shapes[end] === 'xlr-3') return end === 0 ? 'socket' : 'plug'
    return 'plug'
  }
  const pairs: (readonly [Contact, Contact])[] =
    passive.wires ?? contactsOf[from].map((contact) => [contact, contact] as const)
  const xlr = from === 'xlr-3' && to === 'xlr-3'
  const grounds = from === 'xlr-3' ? ['1'] : ['sleeve']
  const rungs = rungsOf(passive, at)
  const piece: Piece = {
    id,
    name: gear.name,
    ends: [
      { shape: from, gender: gender(0) },
      { shape: to, gender: gender(1) },
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
  return { ...piece, wires, parts }
}

/** A passive thing as a piece of a link, its controls as set; undefined where it has no plugs. */
export function pieceOfGear(id: string, gear: Gear, settings: Record<string, Position>): Piece | undefined {
  if (!gear.passive) return undefined
  const { from, to } = gear.passive
  if (!isShape(from) || !isShape(to)) return undefined
  return pieceOf(id, gear, gear.passive, [from, to], standsAt(gear, settings))
}

const standsAt = (gear: Gear, settings: Record<string, Position>) => (control: string) =>
  settings[control] ?? gear.controls.find(({ id }) => id === control)?.initial

/** Settings of a part with those that are given from outside, by `part.control`, in front. */
function settingsAt(
  part: string,
  gear: Gear,
  settings: Record<string, Position>,
  at?: (key: string) => Position | undefined,
): Record<string, Position> {
  if (!at) return settings
  return Object.fromEntries(
    gear.controls.map(({ id, initial }) => [id, at(`${part}.${id}`) ?? settings[id] ?? initial]),
  )
}

/** A link of a patch as it is plugged; undefined where no plugs are: through the air, or wired for good. */
export function pluggedLink(
  patch: Patch,
  link: Link,
  commonShelf: Shelf,
  at?: (key: string) => Position | undefined,
): PluggedLink | undefined {
  const shelf = shelfFor(patch, commonShelf)
  const end = (at: Link['from']) => {
    const box = patch.boxes.find(({ id }) => id === at.box)!
    const gear = shelf.get(box.gear)!
    const port = gear.ports.find(({ id }) => id === at.port)!
    return { box, gear, port, name: `${box.name ?? gear.name}, ${port.name}` }
  }
  const from = end(link.from)
  const to = end(link.to)
  if (!isShape(from.port.connector) || !isShape(to.port.connector)) return undefined
  const pieces: Piece[] = []
  for (const piece of link.through) {
    const thing = shelf.get(piece.gear)!
    const made = pieceOfGear(piece.id, thing, settingsAt(piece.id, thing, piece.settings, at))
    if (!made) return undefined
    pieces.push(made)
  }
  return {
    output: outputOf(from.port, from.gear, from.name, from.port.connector),
    pieces,
    inputs: [
      inputOf(
        to.port,
        to.gear,
        to.name,
        to.port.connector,
        standsAt(to.gear, settingsAt(to.box.id, to.gear, to.box.settings, at)),
      ),
    ],
  }
}
