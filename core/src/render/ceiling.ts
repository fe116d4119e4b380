import type { CeilingShape } from '../model'

/** Share of a bent ceiling up to which a wave passes straight. */
const kneeShare = 0.9
/** How fast the tops of a sagging ceiling fall while the wave presses against it, ms. */
const sagMs = 3

/** Applies a ceiling of some shape to samples, and counts those that reach it. */
export class CeilingOnSamples {
  /** Samples that would have gone beyond. */
  met = 0
  private pressed = 0
  private readonly sag: number

  constructor(
    private readonly limit: number,
    private readonly shape: CeilingShape,
    rateHz: number,
  ) {
    this.sag = Math.exp(-1000 / (sagMs * rateHz))
  }

  apply(block: Float32Array): void {
    const { limit, shape } = this
    const knee = shape === 'bent' ? kneeShare * limit : limit
    for (let index = 0; index < block.length; index++) {
      const sample = block[index]!
      const size = Math.abs(sample)
      if (size <= knee) {
        this.pressed = 0
        continue
      }
      if (size > limit) this.met++
      if (shape === 'bent') {
        const over = (size - knee) / (limit - knee)
        block[index] = Math.sign(sample) * (knee + (limit - knee) * Math.tanh(over))
      } else {
        // flat, or falling from the corner on until the wave lets go
        if (shape === 'sagging') this.pressed++
        block[index] = Math.sign(sample) * limit * (shape === 'sagging' ? this.sag ** this.pressed : 1)
      }
    }
  }
}
