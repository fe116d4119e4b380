import type { Contact } from '../model'
import type { InputPort, PluggedLink } from './link'
import { groundOf, inputNode, isPoweredOver, outputNode, senderGround } from './link-parts'
import type { Netlist } from './netlist'
import { minus, solve } from './solve'

/** DC on a contact of the output, against the sender's own ground. */
export interface OutputDc {
  contact: Contact
  volts: number
  /** Current that the link pushes into the contact, amperes. */
  amperes: number
}

/** A supply of an input, with its state on one contact. */
export interface SupplyDc {
  input: number
  name: string
  contact: Contact
  openVolts: number
  volts: number
  amperes: number
}

/** A thing that needs power, and what it gets. */
export interface NeedDc {
  name: string
  minimumVolts: number
  volts: number
}

/** Foreign DC on a contact of an input. */
export interface InputDc {
  input: number
  contact: Contact
  volts: number
}

/** What every supply delivers, and every foreign voltage on a port. */
export function dcFactsOf(
  link: PluggedLink,
  netlist: Netlist,
): { outputDc: OutputDc[]; supplies: SupplyDc[]; needs: NeedDc[]; inputDc: InputDc[] } {
  const dc = solve(netlist, 0, undefined)
  const { output } = link
  const asked = link.inputs.slice(0, link.asked)
  const outputVolts = (contact: Contact) => minus(dc.volts(outputNode(contact)), dc.volts(senderGround)).re
  const inputVolts = (input: number, contact: Contact) =>
    minus(dc.volts(inputNode(input, contact)), dc.volts(groundOf(input))).re
  return {
    outputDc: contactsWithSound(output).map((contact) => ({
      contact,
      volts: outputVolts(contact),
      amperes: intoContact(output, contact, outputVolts),
    })),
    supplies: asked.flatMap((each, input) =>
      (each.supplies ?? []).flatMap(({ name, volts: openVolts, ohm, contacts: fed }) =>
        fed.map((contact): SupplyDc => {
          const volts = inputVolts(input, contact)
          return { input, name, contact, openVolts, volts, amperes: (openVolts - volts) / ohm }
        }),
      ),
    ),
    needs: (output.needs ?? []).map(({ name, minimumVolts, contacts }) => ({
      name,
      minimumVolts,
      volts: Math.min(...contacts.map(outputVolts)),
    })),
    inputDc: asked.flatMap((each, input) =>
      contactsWithSound(each)
        .filter((contact) => !each.supplies?.some(({ contacts: fed }) => fed.includes(contact)))
        .map((contact): InputDc => ({ input, contact, volts: inputVolts(input, contact) })),
    ),
  }
}

/** DC that flows into a contact of an output: through its driver, unless a capacitor blocks it, and through its power circuit. */
function intoContact(
  output: PluggedLink['output'],
  contact: Contact,
  volts: (contact: Contact) => number,
): number {
  const { channels, needs = [] } = output
  const powered = needs
    .filter(({ contacts }) => contacts.includes(contact))
    .reduce(
      (sum, need) => sum + (volts(contact) * need.typicalAmperes) / need.typicalVolts / need.contacts.length,
      0,
    )
  const behind = channels.find(({ hot, cold }) => hot === contact || cold === contact)
  if (!behind || behind.ohm === 0 || isPoweredOver(output, behind.drive, contact)) return powered
  if (behind.drive !== 'floating' || behind.cold === undefined) return powered + volts(contact) / behind.ohm
  const across = (volts(behind.hot) - volts(behind.cold)) / behind.ohm
  return powered + (contact === behind.hot ? across : -across)
}

/** Contacts of a port that sound passes. */
const contactsWithSound = ({ channels }: Pick<InputPort, 'channels'> | PluggedLink['output']): Contact[] => [
  ...new Set(channels.flatMap(({ hot, cold }) => (cold === undefined ? [hot] : [hot, cold]))),
]
