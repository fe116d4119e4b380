import {
  factsOf,
  type InputPort,
  type OutputPort,
  type Piece,
  type PluggedLink,
  reportOf,
  variantsOf,
} from '../circuit'
import { contactsOf, type Shape } from '../model'

/** A piece with straight wires between equal contacts. */
export const cable = (
  shape: Shape,
  lengthM: number,
  from: 'plug' | 'socket' = 'socket',
  to: 'plug' | 'socket' = 'plug',
): Piece => ({
  id: 'cable',
  name: 'cable',
  ends: [
    { shape, gender: from },
    { shape, gender: to },
  ],
  wires: contactsOf[shape].map(
    (contact) =>
      [
        { end: 0, contact },
        { end: 1, contact },
      ] as const,
  ),
  lengthM,
})
export const wiresOf = (pairs: [string, string][]) =>
  pairs.map(
    ([one, other]) =>
      [
        { end: 0, contact: one },
        { end: 1, contact: other },
      ] as const,
  )

export const dynamic: OutputPort = {
  name: 'Hand-held dynamic',
  shape: 'xlr-3',
  gender: 'plug',
  channels: [{ signal: 'voice', drive: 'floating', hot: '2', cold: '3', ohm: 300 }],
  ground: ['1'],
}
export const balancedInput = (
  ohm: number,
  commonModeOhm?: number,
  supplies: InputPort['supplies'] = [],
): InputPort => ({
  name: 'Recorder in',
  shape: 'xlr-3',
  gender: 'socket',
  channels: [{ id: 'one', hot: '2', cold: '3', ohm, commonModeOhm }],
  ground: ['1'],
  supplies,
})
export const stereoInput = (ohm: number, supplies: InputPort['supplies'] = []): InputPort => ({
  name: 'Camera in',
  shape: 'mini-3',
  gender: 'socket',
  channels: [
    { id: 'left', hot: 'tip', ohm },
    { id: 'right', hot: 'ring', ohm },
  ],
  ground: ['sleeve'],
  supplies,
})
/** Facts of a link in the first way of touching. */
export const first = (link: PluggedLink) => {
  const found = variantsOf(link)
  if ('misfit' in found) throw new Error(found.misfit.at)
  return factsOf(link, found.variants[0]!)
}
/** What the findings of a link are about. */
export const about = (link: PluggedLink) => reportOf(link).findings.map((finding) => finding.code)
export const xlrToMini: Piece = {
  id: 'xlr-to-mini',
  name: 'XLR to mini lead',
  ends: [
    { shape: 'xlr-3', gender: 'socket' },
    { shape: 'mini-3', gender: 'plug' },
  ],
  wires: wiresOf([
    ['2', 'tip'],
    ['2', 'ring'],
    ['1', 'sleeve'],
    ['3', 'sleeve'],
  ]),
}
