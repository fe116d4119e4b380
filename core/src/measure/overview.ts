import { stretchFrames } from './highs'

/** Slices that a clip is drawn in while it is read. */
const slices = 120

/** The highest size in each slice of a clip, over all channels, as far as it is read. */
export class Overview {
  private readonly slices: number[] = []
  private frame = 0

  /** @param frames length that the file promises */
  constructor(private readonly frames: number) {}

  /** @param highs of each channel, and how many frames they cover */
  push(highs: readonly Float32Array[], frames: number): void {
    const sliceFrames = Math.max(1, this.frames / slices)
    for (let stretch = 0; stretch * stretchFrames < frames; stretch++) {
      const slice = Math.min(slices - 1, Math.floor((this.frame + stretch * stretchFrames) / sliceFrames))
      while (this.slices.length <= slice) this.slices.push(0)
      for (const each of highs) this.slices[slice] = Math.max(this.slices[slice]!, each[stretch]!)
    }
    this.frame += frames
  }

  /** Of the slices that are read, full scale 1. */
  get read(): number[] {
    return this.slices.map((high) => Math.round(1000 * high) / 1000)
  }
  /** How many there will be. */
  get all(): number {
    return slices
  }
}
