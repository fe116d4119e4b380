import type { StreamFacts } from '../model'

/** The sound of a file, in any container. */
export interface Clip {
  container: string
  codec: string
  /** Of one sample; 0 for what is compressed, which has none. */
  bits: number
  rateHz: number
  channels: number
  /** As the file promises; for what is compressed nearly. */
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
