import type { Find } from '../findings'
import type { Facts } from './facts'
import type { PluggedLink } from './link'

/** A powered thing that gets less than this share of the voltage it needs is dead, not weak. */
const deadShare = 0.2
/** A supply that drops to this share of its open-circuit voltage is shorted to ground. */
const shortedSupplyShare = 0.02
/** Supplies above this are phantom power, whose short circuit can do harm, V. */
export const phantomVolts = 12
/** DC on an output below which nothing is said, V. */
const harmlessVolts = 0.05
/** DC this many times above what an output tolerates does harm, as do this many volts where no tolerance is stated. */
const gravelyOver = 5
const graveVolts = 3
/** DC that an input tolerates thanks to its coupling capacitor, where nothing is stated, V. */
const usualInputToleratesVolts = 10

/** Whether a thing gets too little power to work at all. */
export const starves = ({ volts, minimumVolts }: Facts['needs'][number]): boolean =>
  volts < minimumVolts * deadShare

/** Findings about supplies: missing, weak, shorted, or where they should not be. */
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
 * share: only the voltage across it, which drives a current through it.
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
