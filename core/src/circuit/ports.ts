import {
  type Contact,
  contactsOf,
  type Gear,
  hasContacts,
  hasPins,
  isPluggable,
  type Port,
  type Position,
  type Shape,
  valueOf,
} from '../model'
import type { Half } from './contacts'
import type { InputPort, OutputPort } from './link'

/** Ordinary impedances where a figure is unknown, ohm. */
const typicalOhm = { out: 150, in: 5000 }

/** Contacts that carry a port's channels, where the port does not say otherwise: the custom of its connector. */
interface Layout {
  left: Contact
  right?: Contact
  cold?: Contact
  ground: readonly Contact[]
}

function layoutOf(port: Port, shape: Shape): Layout {
  if (port.contacts) return port.contacts
  if (hasPins(shape)) return { left: '2', cold: '3', ground: ['1'] }
  if (shape === 'fixed')
    return port.channels === 2
      ? { left: 'left', right: 'right', ground: ['ground'] }
      : { left: 'left', cold: port.balanced ? 'cold' : undefined, ground: ['ground'] }
  if (shape === 'usb-c')
    return port.digital
      ? { left: 'data left', right: 'data right', ground: ['ground'] }
      : { left: 'left', right: 'right', ground: ['ground'] }
  if (contactsOf[shape].length === 2) return { left: 'tip', ground: ['sleeve'] }
  return port.balanced
    ? { left: 'tip', cold: 'ring', ground: ['sleeve'] }
    : { left: 'tip', right: 'ring', ground: ['sleeve'] }
}

/** A plug hangs on a lead, a socket sits in a wall; XLR has its own rule: what gives sound has the pins. */
function genderOf(port: Port, gear: Gear): Half['gender'] {
  if (port.gender) return port.gender
  if (hasPins(port.connector)) return port.direction === 'out' ? 'plug' : 'socket'
  return gear.kind === 'microphone' || gear.kind === 'headphones' ? 'plug' : 'socket'
}

/** The plug or socket of a port; undefined if it has none. */
export const halfOf = (port: Port, gear: Gear): Half | undefined =>
  isPluggable(port.connector) ? { shape: port.connector, gender: genderOf(port, gear) } : undefined

/** Both sides of an output are driven by the same strips: one signal, twice. */
function isDualMono(port: Port, gear: Gear): boolean {
  const driving = (channel: string) =>
    gear.strips
      .filter(({ to }) => to.some((end) => 'port' in end && end.port === port.id && end.channel === channel))
      .map(({ id }) => id)
      .join()
  return driving('left') === driving('right')
}

/** An output of a thing, with the circuit behind its contacts. */
export function outputOf(port: Port, gear: Gear, name: string, shape: Shape): OutputPort {
  const layout = layoutOf(port, shape)
  const ohm = port.impedanceOhm === undefined ? 0 : valueOf(port.impedanceOhm, typicalOhm.out)
  const behind = port.digital && layout.cold ? ohm / 2 : ohm
  const drive =
    port.drive ??
    ((port.balanced || port.digital) && layout.cold
      ? gear.kind === 'microphone'
        ? 'floating'
        : 'symmetric'
      : 'single-ended')
  const cold = drive === 'single-ended' ? undefined : layout.cold
  // on three pins one stream carries both channels
  const one = port.digital && layout.cold !== undefined
  const two = !one && port.channels === 2 && layout.right !== undefined && !isDualMono(port, gear)
  const channels = [
    // the impedance of a digital stream is that of both legs together
    { signal: two ? 'left' : name, drive, hot: layout.left, cold, ohm: behind },
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
    toleratesVolts: port.toleratesVolts,
    digital: port.digital,
    ownNoise: gear.strips.some(
      ({ stages, to }) =>
        to.some((end) => 'port' in end && end.port === port.id) &&
        stages.some(({ kind }) => kind === 'transducer'),
    ),
  }
}

/** An input of a thing, with the circuit behind its contacts and its supplies at the present control positions. */
export function inputOf(
  port: Port,
  gear: Gear,
  name: string,
  shape: Shape,
  at: (control: string) => Position | undefined,
): InputPort {
  const layout = layoutOf(port, shape)
  const ohm = port.impedanceOhm === undefined ? Infinity : valueOf(port.impedanceOhm, typicalOhm.in)
  const farad = port.capacitancePf === undefined ? undefined : port.capacitancePf * 1e-12
  const commonModeOhm =
    port.commonModeOhm === undefined || port.commonModeOhm === 'unknown'
      ? undefined
      : valueOf(port.commonModeOhm, 0)
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
            cold: port.balanced || port.digital ? layout.cold : undefined,
            ohm,
            commonModeOhm,
            farad,
          },
        ]
  // an unbalanced input on three pins has its cold leg on ground
  const tied = !port.balanced && !port.digital && layout.cold ? [layout.cold] : []
  return {
    name,
    shape,
    gender: genderOf(port, gear),
    channels,
    ground: [...layout.ground, ...tied],
    supplies,
    toleratesVolts: port.toleratesVolts,
    digital: port.digital,
  }
}

/** Purpose of a port's contact, in words and by kind. */
export interface ContactRole {
  contact: Contact
  plug: boolean
  kind: 'signal' | 'cold' | 'ground' | 'nothing'
  role: string
}

/** Every contact of a port with what it is for: sound, ground, power given or wanted. Empty where it has none. */
export function contactRolesOf(port: Port, gear: Gear): ContactRole[] {
  const { connector } = port
  if (!hasContacts(connector)) return []
  const layout = layoutOf(port, connector)
  const two = port.channels === 2 && layout.right !== undefined
  return contactsOf[connector].map((contact) => {
    const power = [
      ...(port.supplies ?? []).flatMap((supply) =>
        supply.contacts.includes(contact) ? [`gives ${supply.volts} V`] : [],
      ),
      ...(port.needs ?? []).flatMap((need) =>
        need.contacts.includes(contact) ? [`wants ${need.minimumVolts} V`] : [],
      ),
    ]
    const [kind, sound] =
      contact === layout.left
        ? (['signal', port.digital && !two ? 'stream' : two ? 'left' : 'sound'] as const)
        : two && contact === layout.right
          ? (['signal', 'right'] as const)
          : contact === layout.cold
            ? (['cold', 'second leg'] as const)
            : layout.ground.includes(contact)
              ? (['ground', 'ground'] as const)
              : (['nothing', power.length ? '' : 'free'] as const)
    return {
      contact,
      plug: genderOf(port, gear) === 'plug',
      kind,
      role: [sound, ...power].filter(Boolean).join(', '),
    }
  })
}
