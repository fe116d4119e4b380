import type { PeakTarget } from '../model'

/** A peak target by its name and where peaks lie with it, and what it is for. */
export const targetWords: Record<PeakTarget, { name: string; how: string }> = {
  cautious: {
    name: 'cautious, \u221220 to \u221217',
    how: 'for people who surprise, where there is no second take',
  },
  usual: { name: 'usual, \u221215 to \u221212', how: 'leaves room for a shout' },
  'a little over': {
    name: 'a little over, \u221212 to \u22129',
    how: 'about \u221212, a rare word above \u22129',
  },
  full: {
    name: 'full, \u221210 to \u22126',
    how: 'for a quiet source, a noisy camera and a voice under control',
  },
  hot: {
    name: 'hot, \u221210 to 0',
    how: 'for a voice under control into a noisy camera; no room for a shout',
  },
  'under the mark': {
    name: 'just under the mark',
    how: 'of its own meter: the first over the lowest, wherever that stands',
  },
  float: { name: 'float, analogue only', how: 'its level is set afterwards' },
}
