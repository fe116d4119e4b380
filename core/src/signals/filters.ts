/** A filter of second order, y = b0 x + b1 x' + b2 x'' - a1 y' - a2 y''. */
export interface SecondOrder {
  b0: number
  b1: number
  b2: number
  a1: number
  a2: number
}

const angleOf = (hz: number, rateHz: number): number => (2 * Math.PI * Math.min(hz, 0.49 * rateHz)) / rateHz

/** Low-pass and high-pass of second order by the bilinear transform; q of 0.7071: Butterworth. */
export function lowPass(hz: number, rateHz: number, q = Math.SQRT1_2): SecondOrder {
  const angle = angleOf(hz, rateHz)
  const cosine = Math.cos(angle)
  const alpha = Math.sin(angle) / (2 * q)
  const b = (1 - cosine) / 2 / (1 + alpha)
  return { b0: b, b1: 2 * b, b2: b, a1: (-2 * cosine) / (1 + alpha), a2: (1 - alpha) / (1 + alpha) }
}
export function highPass(hz: number, rateHz: number, q = Math.SQRT1_2): SecondOrder {
  const angle = angleOf(hz, rateHz)
  const cosine = Math.cos(angle)
  const alpha = Math.sin(angle) / (2 * q)
  const b = (1 + cosine) / 2 / (1 + alpha)
  return { b0: b, b1: -2 * b, b2: b, a1: (-2 * cosine) / (1 + alpha), a2: (1 - alpha) / (1 + alpha) }
}
/** A resonance of gain 1 at its middle. */
export function resonance(hz: number, bandwidthHz: number, rateHz: number): SecondOrder {
  const angle = angleOf(hz, rateHz)
  const alpha = Math.sin(angle) * Math.sinh((Math.PI * bandwidthHz) / rateHz / Math.sin(angle))
  const b = alpha / (1 + alpha)
  return { b0: b, b1: 0, b2: -b, a1: (-2 * Math.cos(angle)) / (1 + alpha), a2: (1 - alpha) / (1 + alpha) }
}

/** Filters one after another, for samples that come block by block. */
export class FilterChain {
  private readonly states: { filter: SecondOrder; s1: number; s2: number }[]

  constructor(...filters: readonly SecondOrder[]) {
    this.states = filters.map((filter) => ({ filter, s1: 0, s2: 0 }))
  }

  /** Filters a block in place. */
  run<Samples extends Float32Array | Float64Array>(samples: Samples): Samples {
    for (const state of this.states) {
      const { b0, b1, b2, a1, a2 } = state.filter
      let { s1, s2 } = state
      for (let index = 0; index < samples.length; index++) {
        const x = samples[index]!
        const y = b0 * x + s1
        // what waits for y comes last: the processor works on the rest meanwhile
        s1 = b1 * x + s2 - a1 * y
        s2 = b2 * x - a2 * y
        samples[index] = y
      }
      state.s1 = s1
      state.s2 = s2
    }
    return samples
  }
}

/** Sends samples through filters, one after another, in place. */
export const filtered = <Samples extends Float32Array | Float64Array>(
  samples: Samples,
  ...filters: readonly SecondOrder[]
): Samples => new FilterChain(...filters).run(samples)
