import { type Box, type Gear, type Patch, type RadioSet, type Shelf, shelfFor, endOf } from '../model'
import { intermodulation, type Product } from './intermodulation'

/** A box that sends or receives, with the carrier it is set to. */
export interface SetOnAir {
  box: string
  name: string
  carrierMhz: number
  radio: RadioSet
}

/** A transmitter and a receiver as one link. */
export interface RadioLink {
  link: string
  sender: SetOnAir
  receiver: SetOnAir
  /** Both on one carrier, as far as the receiver is wide. */
  matched: boolean
  delayMs: number
  dynamicRangeDb: number | undefined
  /** Names of the tracks that the transmitter writes inside itself. */
  recordsInside: string[]
  /** From power-on of the later one until sound passes, s. */
  linkS: number
}

/** Every radio link of a patch with radio data on both sides. */
export function radioLinksOf(patch: Patch, commonShelf: Shelf): RadioLink[] {
  const shelf = shelfFor(patch, commonShelf)
  return patch.links.flatMap((link): RadioLink[] => {
    const [sender, receiver] = [link.from, link.to].map((end) => {
      const { box, gear, port } = endOf(patch, shelf, end)
      return port.connector === 'radio' ? { box, gear } : undefined
    })
    if (!sender || !receiver) return []
    const [from, to] = [sender, receiver].map(({ box, gear }) => onAir(box, gear))
    if (!from || !to) return []
    const stages = [sender, receiver].flatMap(({ gear }) => gear.strips.flatMap((strip) => strip.stages))
    const air = stages.filter((stage) => stage.kind === 'radio')
    const range = air[0]?.dynamicRangeDb
    return [
      {
        link: link.id,
        sender: from,
        receiver: to,
        matched:
          from.radio.hops === to.radio.hops &&
          Math.abs(from.carrierMhz - to.carrierMhz) * 1000 < to.radio.widthKhz / 2,
        delayMs: air.reduce((sum, { delayMs }) => sum + delayMs, 0),
        dynamicRangeDb:
          range === undefined || range === 'unknown'
            ? undefined
            : typeof range === 'number'
              ? range
              : range.value,
        recordsInside: sender.gear.strips.flatMap((strip) =>
          strip.stages.flatMap((stage) => (stage.kind === 'recording' ? [stage.name] : [])),
        ),
        linkS: Math.max(from.radio.linkS, to.radio.linkS),
      },
    ]
  })
}

function onAir(box: Box, gear: Gear): SetOnAir | undefined {
  const { radio } = gear
  if (!radio) return undefined
  const { carrierMhz } = radio
  if (typeof carrierMhz === 'number') return { box: box.id, name: box.name ?? gear.name, carrierMhz, radio }
  const control = gear.controls.find(({ id }) => id === carrierMhz.control)
  const at = box.settings[carrierMhz.control] ?? control?.initial
  const set = carrierMhz.at[`${at}`]
  return set === undefined ? undefined : { box: box.id, name: box.name ?? gear.name, carrierMhz: set, radio }
}

/** Products of third order among the transmitters of a patch that fall into one of their channels. */
export function clashesOf(links: readonly RadioLink[]): Product[] {
  const fixed = [...new Map(links.map(({ sender }) => [sender.box, sender])).values()].filter(
    ({ radio }) => !radio.hops,
  )
  return intermodulation(
    fixed.map(({ name, carrierMhz, radio }) => ({ name, carrierMhz, widthKhz: radio.widthKhz })),
  )
}
