import type { Facts } from './facts'
import type { PluggedLink } from './link'
import type { Find } from './link-finding'

/** With less than this share of the volts it wants, a thing is dead rather than weak. */
const deadShare = 0.2
/** A supply that falls to this share of its open volts runs into ground. */
const shortedSupplyShare = 0.02
/** Above this a supply into ground is more than a waste of it. */
const strongSupplyVolts = 12
/** DC that an output bears without a word. */
const harmlessVolts = 0.05
/** DC so many times over what an output bears does harm; so do this many volts where it says nothing. */
const gravelyOver = 5
const graveVolts = 3
/** An input bears so much DC behind the capacitor that nearly every one has. */
const usualInputBearsVolts = 10

const voltsWords = (value: number) =>
  Math.abs(value) < 1 ? `${(value * 1000).toFixed(0)} mV` : `${value.toFixed(2)} V`
const milliamperes = (amperes: number) => `${(Math.abs(amperes) * 1000).toFixed(2)} mA`

/** Whether a thing gets so little power that it is dead. */
export const starves = ({ volts, minimumVolts }: Facts['needs'][number]): boolean =>
  volts < minimumVolts * deadShare

/** What becomes of every supply: missing, weak, shorted, or where it should not be. */
export function findOnPower(link: PluggedLink, facts: Facts, find: Find): void {
  const output = link.output.name
  for (const need of facts.needs) {
    if (starves(need))
      find(
        'dead',
        'supply missing',
        output,
        `${output} gets no power.`,
        `${need.name} wants ${voltsWords(need.minimumVolts)} and gets ${voltsWords(need.volts)}.`,
        'Switch the supply on, or put a supply between.',
      )
    else if (need.volts < need.minimumVolts)
      find(
        'degraded',
        'supply weak',
        output,
        `${output} gets too little power.`,
        `${need.name} wants ${voltsWords(need.minimumVolts)} and gets ${voltsWords(need.volts)}.`,
        'Use the supply it is made for; it will be quiet and clip early.',
      )
  }
  for (const supply of facts.supplies) {
    const input = link.inputs[supply.input]!.name
    if (Math.abs(supply.volts) < shortedSupplyShare * supply.openVolts)
      find(
        supply.openVolts > strongSupplyVolts ? 'harmful' : 'degraded',
        'supply shorted',
        `${input}, contact ${supply.contact}`,
        `${supply.name} of ${input} runs into ground.`,
        `${voltsWords(supply.openVolts)} drive ${milliamperes(supply.amperes)} through contact ${supply.contact}.`,
        'Switch it off before plugging; mute first.',
      )
  }
  if (!link.output.needs?.length) {
    const bears = link.output.toleratesVolts ?? graveVolts / gravelyOver
    for (const { contact, volts: on, amperes } of troublingDc(link, facts))
      if (Math.abs(on) > Math.max(link.output.toleratesVolts ?? 0, harmlessVolts))
        find(
          Math.abs(on) > Math.min(graveVolts, gravelyOver * bears) ? 'harmful' : 'degraded',
          'foreign supply',
          `${output}, contact ${contact}`,
          `${voltsWords(on)} of DC stand on ${output}, which was not built for it.`,
          `${milliamperes(amperes)} flow into contact ${contact}.`,
          'Switch the supply off, or put a blocking capacitor or a transformer between.',
        )
  }

  for (const { input: index, contact, volts: on } of facts.inputDc) {
    const input = link.inputs[index]!
    if (Math.abs(on) > (input.toleratesVolts ?? usualInputBearsVolts))
      find(
        Math.abs(on) > graveVolts ? 'harmful' : 'degraded',
        'foreign supply',
        `${input.name}, contact ${contact}`,
        `${voltsWords(on)} of DC stand on ${input.name}, which was not built for it.`,
        `They come over contact ${contact}.`,
        'Switch the supply off, or put a blocking capacitor or a transformer between.',
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
