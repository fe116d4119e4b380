import type { StreamFacts } from '../model'

/** The sound of a file, in any container. */
export interface Clip {
  container: string
  codec: string
  /** Bits per sample; 0 for compressed sound. */
  bits: number
  rateHz: number
  channels: number
  /** Number stated by the file; approximate for compressed sound. */
  frames: number
  /** The file's description of its sound. */
  stream: StreamFacts
  /** Oddities, in words for a person; empty for a clean file. */
  remarks: string[]
  /** The samples in order, one Float32Array a channel, full scale 1; all of them, or those of a stretch. */
  blocks: (stretch?: FrameRange) => AsyncGenerator<Float32Array[]>
}

/** Frames from one up to, but not with, another. */
export interface FrameRange {
  from: number
  to: number
}
