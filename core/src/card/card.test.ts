import { describe, expect, it } from 'vitest'
import { bytesSource } from '../media'
import { clipFindings, measureClip } from '../measure'
import { cases } from '../tests/form'
import { standInCard } from './card'

/** What each clip was made with. Notes, as of a safety track, are no faults. */
const known: Record<string, string[]> = {
  'recorder F-0131.wav': [],
  'camera C-0042.mov': ['clip bent'],
  'camera C-0043.mov': ['hum'],
  'recorder F-0132.wav': ['channels opposite'],
  'camera C-0044.mov': ['pumping'],
  'receiver R-0007.wav': ['dropout', 'rustle'],
  'phone P-0009.wav': ['clip flat below full scale', 'wind'],
}

describe('the stand-in card', () => {
  it('has a clip for everything that is known of it', () => {
    expect(standInCard.map(({ name }) => name).sort()).toEqual(Object.keys(known).sort())
  })
  it.each(cases(standInCard, standInCard.slice(-1)).map((clip) => [clip.name, clip] as const))(
    '%s: what is in it is found, and nothing else',
    async (name, clip) => {
      const measured = await measureClip(bytesSource(await clip.bytes()), name)
      const found = clipFindings(measured!)
        .filter(({ severity }) => severity !== 'note')
        .map((finding) => (finding.code === 'clip' ? `clip ${finding.figures.shape}` : finding.code))
      expect([...new Set(found)].sort()).toEqual(known[name])
    },
  )
})
