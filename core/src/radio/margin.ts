import type { RadioLink } from './sets'

/**
 * Loss between two antennas in the open, dB: 20 lg d + 20 lg f - 27.55 with d in metres and f in MHz (Friis, both
 * antennas isotropic).
 */
export const freeSpaceLossDb = (distanceM: number, mhz: number): number =>
  20 * Math.log10(distanceM) + 20 * Math.log10(mhz) - 27.55

/** Loss of a body between transmitter and receiver, dB: a rule of thumb, 8 at 200 MHz to 22 at 2.4 GHz. */
export function bodyLossDb(mhz: number): number {
  const share = Math.log(mhz / 200) / Math.log(2400 / 200)
  return 8 + 14 * Math.min(1.2, Math.max(0, share))
}

/**
 * Share of the time in which a link whose mean lies so far over the receiver's limit drops under it, among many
 * reflections: 1 - exp(-10^(-margin / 10)), the Rayleigh distribution. One antenna; an estimate.
 */
export const dropoutShare = (meanMarginDb: number): number => 1 - Math.exp(-(10 ** (-meanMarginDb / 10)))

/**
 * Power over what the receiver still follows, dB, at a distance in metres, with or without a body between: an
 * estimate for open ground. Undefined when either side does not state its figure.
 */
export function marginDb(
  { sender, receiver }: RadioLink,
  distanceM: number,
  body: boolean,
): number | undefined {
  const { powerMw } = sender.radio
  const { sensitivityDbm } = receiver.radio
  if (powerMw === undefined || sensitivityDbm === undefined) return undefined
  const mhz = sender.carrierMhz
  return (
    10 * Math.log10(powerMw) - freeSpaceLossDb(distanceM, mhz) - (body ? bodyLossDb(mhz) : 0) - sensitivityDbm
  )
}
