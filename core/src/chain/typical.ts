import type { GearKind } from '../model'

/** Typical value used for an unknown figure. */
interface Typical {
  inputNoiseDbuA: number
  inputCeilingDbu: number
  outputNoiseDbuA: number
  outputCeilingDbu: number
  noiseDbfsA: number
  fullScaleDbu: number
}

const ordinary: Typical = {
  inputNoiseDbuA: -122,
  inputCeilingDbu: 0,
  outputNoiseDbuA: -92,
  outputCeilingDbu: 12,
  noiseDbfsA: -104,
  fullScaleDbu: 12,
}

const byKind: Partial<Record<GearKind, Partial<Typical>>> = {
  camera: {
    inputNoiseDbuA: -104,
    inputCeilingDbu: -20,
    outputNoiseDbuA: -85,
    outputCeilingDbu: 0,
    noiseDbfsA: -88,
    fullScaleDbu: -4,
  },
  radio: { inputNoiseDbuA: -112, inputCeilingDbu: -14, outputNoiseDbuA: -95, outputCeilingDbu: 4 },
  recorder: { inputNoiseDbuA: -122, noiseDbfsA: -108 },
  mixer: { inputNoiseDbuA: -124, outputCeilingDbu: 20 },
}

export const typicalOf = (kind: GearKind): Typical => ({ ...ordinary, ...byKind[kind] })

/** Ordinary figures of a microphone capsule. */
export const typicalCapsule = { sensitivityDbvPa: -38, selfNoiseDba: 20, maximumDbSpl: 120 }

/** Ordinary impedances of an output and an input, ohm. */
export const typicalOhm = { out: 150, in: 5000 }

/** Sensitivity of ordinary headphones, dB SPL at 1 V. */
export const typicalEarsDbSplAtVolt = 112
