import type { z } from 'zod'
import type { PieceAnswers, Plug } from './answers'
import type { Made } from './typical'

type PlugName = z.infer<typeof Plug>

/** Where a plug has its signal, its ground, and a second signal or the cold leg of a balanced one. */
const layouts: Record<
  Exclude<PlugName, 'usb-c'>,
  { signal: string; ground: string; right?: string; cold?: string }
> = {
  'xlr-3': { signal: '2', cold: '3', ground: '1' },
  'ta-3': { signal: '3', ground: '1' },
  'mini-3': { signal: 'tip', right: 'ring', ground: 'sleeve' },
  'mini-4': { signal: 'sleeve', ground: 'second ring' },
  'jack-2': { signal: 'tip', ground: 'sleeve' },
  'jack-3': { signal: 'tip', cold: 'ring', ground: 'sleeve' },
  rca: { signal: 'tip', ground: 'sleeve' },
}

/** Usual wiring of such a lead; undefined for straight through. */
function wiresOf(from: PlugName, to: PlugName): [string, string][] | undefined {
  if (from === to || from === 'usb-c' || to === 'usb-c') return undefined
  const [one, other] = [layouts[from], layouts[to]]
  return [
    [one.signal, other.signal],
    [one.ground, other.ground],
    ...(one.cold && other.cold ? [[one.cold, other.cold] as [string, string]] : []),
    // a leg without a partner is tied to ground, a second side gets the same signal
    ...(one.cold && !other.cold ? [[one.cold, other.ground] as [string, string]] : []),
    ...(!one.cold && other.cold ? [[one.ground, other.cold] as [string, string]] : []),
    ...(!one.right && other.right ? [[one.signal, other.right] as [string, string]] : []),
  ]
}

/** Impedances that a resistive pad is designed for, ohm: between them it has its stated loss. */
const [padSourceOhm, padLoadOhm] = [150, 4700]

/**
 * A cable or a pad: an L-pad whose shunt is a tenth of the load it is built for, so that the loss hangs little on it. The
 * series resistance follows from the loss that it makes between an ordinary output and that load.
 */
export function pieceOf({ kind, from, to, lengthM, lossDb }: PieceAnswers): Made {
  const shuntOhm = padLoadOhm / 10
  const across = 1 / (1 / shuntOhm + 1 / padLoadOhm)
  const straight = padLoadOhm / (padSourceOhm + padLoadOhm)
  const seriesOhm = Math.max(0, (across * 10 ** (lossDb / 20)) / straight - padSourceOhm - across)
  return {
    kind,
    passive: {
      from,
      to,
      lengthM,
      wires: wiresOf(from, to),
      picofaradPerM: 100,
      ladder: lossDb > 0 ? [{ seriesOhm: Math.round(seriesOhm) }, { shuntOhm }] : [],
    },
  }
}
