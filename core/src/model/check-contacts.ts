import { type Connector, connectorNames, contactsOf, hasContacts } from './connector'
import type { Gear, Passive } from './gear'

/** Contacts that a thing names and its connectors have not, one sentence each. */
export function contactProblems({ ports, passive }: Gear): string[] {
  return [
    ...ports.flatMap(({ id, connector, contacts, supplies, needs }) =>
      [
        ...(contacts ? [contacts.left, contacts.right, contacts.cold, ...contacts.ground] : []),
        ...[...(supplies ?? []), ...(needs ?? [])].flatMap((each) => each.contacts),
      ].flatMap((contact) => problemOf(`port "${id}"`, connector, contact)),
    ),
    ...(passive ? passiveContactProblems(passive) : []),
  ]
}

function passiveContactProblems({ from, to, wires, more, parts }: Passive): string[] {
  const ends = [from, to, ...(more ?? []).map(({ connector }) => connector)]
  const at = (end: number, contact: string) =>
    end < ends.length ? problemOf(`end ${end}`, ends[end]!, contact) : [`there is no end ${end}`]
  const joined = (far: number, pairs: readonly (readonly [string, string])[] = []) =>
    pairs.flatMap(([near, other]) => [...at(0, near), ...at(far, other)])
  const places = (parts ?? []).flatMap((part) =>
    'from' in part ? [part.from, part.to] : [...part.first, ...part.second],
  )
  return [
    ...joined(1, wires),
    ...(more ?? []).flatMap((each, index) => joined(index + 2, each.wires)),
    ...places.flatMap((place) => ('end' in place ? at(place.end, place.contact) : [])),
  ]
}

function problemOf(where: string, connector: Connector, contact: string | undefined): string[] {
  const known = hasContacts(connector) ? contactsOf[connector] : []
  if (contact === undefined || known.includes(contact)) return []
  const has = known.length ? `it has ${known.join(', ')}` : 'it has none'
  return [`"${contact}" at ${where} is no contact of ${connectorNames[connector]}; ${has}`]
}
