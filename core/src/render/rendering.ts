import type { Source } from '../model'
import type { Voice } from './voices'

/** Options of a rendering besides the patch. */
export interface Rendering {
  rateHz: number
  /** Frames in all. */
  frames: number
  seed: number
  voice: (source: Source) => Voice
  /** The source that has just spoken at the beginning, for following stages; left out: the first that arrives there. */
  spoke?: string
  /** Whether the boxes hiss, and whether the place is heard. */
  noise: boolean
  ambience: boolean
  /** Share of the time that the air drops out, by the box with the radio stage; left out: a sound link. */
  dropouts?: ReadonlyMap<string, number>
}
