/** A sound some frames later, across blocks. */
export class DelayLine {
  private readonly held: Float32Array

  constructor(private readonly frames: number) {
    this.held = new Float32Array(frames)
  }

  /** Adds the delayed sound of a block to another, times a factor. Every block is taken in once. */
  add(sound: Float32Array, into: Float32Array, factor: number): void {
    const { frames, held } = this
    const length = into.length
    for (let index = 0; index < Math.min(frames, length); index++) into[index]! += factor * held[index]!
    for (let index = frames; index < length; index++) into[index]! += factor * sound[index - frames]!
    this.keep(sound)
  }

  /** Delays a block in place. */
  apply(block: Float32Array, scratch: Float32Array): void {
    scratch.set(block)
    block.fill(0)
    this.add(scratch, block, 1)
  }

  private keep(sound: Float32Array): void {
    const { frames, held } = this
    if (frames === 0) return
    if (frames <= sound.length) held.set(sound.subarray(sound.length - frames))
    else {
      held.copyWithin(0, sound.length)
      held.set(sound, frames - sound.length)
    }
  }
}
