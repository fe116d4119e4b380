import type { Find } from '../findings'
import type { Facts } from './facts'
import type { PluggedLink } from './link'

/** With less than this share of the volts it needs, a thing is dead rather than weak. */
const deadShare = 0.2
/** A supply that falls to this share of its open volts runs into ground. */
const shortedSupplyShare = 0.02
/** Above this a supply is phantom power, and into ground more than a waste of it, V. */
export const phantomVolts = 12
/** DC that an output tolerates without a word. */
const harmlessVolts = 0.05
/** DC so many times over what an output tolerates does harm; so do this many volts where it says nothing. */
const gravelyOver = 5
const graveVolts = 3
/** An input tolerates so much DC behind the capacitor that nearly every one has. */
const usualInputToleratesVolts = 10

/** Whether a thing gets so little power that it is dead. */
export const starves = ({ volts, minimumVolts }: Facts['needs'][number]): boolean =>
  volts < minimumVolts * deadShare

/** What becomes of every supply: missing, weak, shorted, or where it should not be. */
export function findOnPower(link: PluggedLink, facts: Facts, find: Find): void {
  const output = link.output.name
  for (const need of facts.needs) {
    const { name, minimumVolts, volts } = need
    const figures = { output, need: name, minimumVolts, volts }
    if (starves(need)) find('dead', 'supply missing', { where: output }, figures)
    else if (volts < minimumVolts) find('degraded', 'supply weak', { where: output }, figures)
  }
  for (const { input, name: supply, contact, volts, openVolts, amperes } of facts.supplies) {
    const { name } = link.inputs[input]!
    if (Math.abs(volts) < shortedSupplyShare * openVolts)
      find(
        openVolts > phantomVolts ? 'harmful' : 'degraded',
        'supply shorted',
        { where: name, contact },
        { supply, input: name, openVolts, amperes, contact },
      )
  }
  if (!link.output.needs?.length) {
    const tolerated = link.output.toleratesVolts ?? graveVolts / gravelyOver
    for (const { contact, volts, amperes } of troublingDc(link, facts))
      if (Math.abs(volts) > Math.max(link.output.toleratesVolts ?? 0, harmlessVolts))
        find(
          Math.abs(volts) > Math.min(graveVolts, gravelyOver * tolerated) ? 'harmful' : 'degraded',
          'foreign supply',
          { where: output, contact },
          { port: output, contact, volts, amperes },
        )
  }
  for (const { input, contact, volts } of facts.inputDc) {
    const { name, toleratesVolts = usualInputToleratesVolts } = link.inputs[input]!
    if (Math.abs(volts) > toleratesVolts)
      find(
        Math.abs(volts) > graveVolts ? 'harmful' : 'degraded',
        'foreign supply',
        { where: name, contact },
        { port: name, contact, volts },
      )
  }
}

/**
 * DC on an output that can do something there. A coil or transformer that floats does not feel what both its legs
 * share: only what stands across it, and drives a current through it.
 */
function troublingDc({ output }: PluggedLink, { outputDc }: Facts): Facts['outputDc'] {
  const on = (contact: string) => outputDc.find((each) => each.contact === contact)?.volts ?? 0
  return outputDc.flatMap((each) => {
    const coil = output.channels.find(
      ({ drive, hot, cold }) => drive === 'floating' && (hot === each.contact || cold === each.contact),
    )
    if (coil?.cold === undefined) return [each]
    const across = on(coil.hot) - on(coil.cold)
    return each.contact === coil.hot ? [{ ...each, volts: across, amperes: across / coil.ohm }] : []
  })
}
