import { amplitudeDb, powerDb } from './decibel'

const poleHz = { low: 20.598997, second: 107.65265, third: 737.86223, high: 12194.217 } as const

/** The four pole frequencies of the A curve in Hz (IEC 61672-1, Annex E). */
export const aWeightingPolesHz = poleHz

/** A-weighting at a frequency in Hz, in dB, 0 at 1 kHz (IEC 61672-1, equation E.6). */
export function aWeightingDb(frequencyHz: number): number {
  return amplitudeDb(aResponse(frequencyHz) / aResponse(1000))
}

function aResponse(frequencyHz: number): number {
  const square = frequencyHz * frequencyHz
  return (
    (poleHz.high ** 2 * square * square) /
    ((square + poleHz.low ** 2) *
      Math.sqrt((square + poleHz.second ** 2) * (square + poleHz.third ** 2)) *
      (square + poleHz.high ** 2))
  )
}

/** A-weighted minus unweighted level of noise that is flat from 20 Hz to `upperHz`, integrated over the curve. */
export function flatNoiseAWeightingDb(upperHz = 20000, lowerHz = 20): number {
  const steps = 4000
  const widthHz = (upperHz - lowerHz) / steps
  let power = 0
  for (let step = 0; step < steps; step++) {
    const frequencyHz = lowerHz + (step + 0.5) * widthHz
    power += (aResponse(frequencyHz) / aResponse(1000)) ** 2
  }
  return powerDb(power / steps)
}

/** The same over the audio band, about -2.05 dB: the constant that turns unweighted flat noise into dB(A). */
export const flatNoiseADb = flatNoiseAWeightingDb()
