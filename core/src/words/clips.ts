import type { ClipFigures, ClipFinding } from '../findings'
import { clock, signed } from '../units'
import type { Sentences } from './sentences'

const words: { [Code in keyof ClipFigures]: (figures: ClipFigures[Code]) => Sentences } = {
  clip: ({ shape, places, firstS, levelDbfs }) => ({
    what: `Tops are cut ${shape} in ${places} ${places === 1 ? 'place' : 'places'}, first at ${clock(firstS, 1)}.`,
    why: `They stop at ${signed(levelDbfs)} dBFS.`,
    remedy:
      shape === 'flat at full scale'
        ? 'The converter or the file clipped: turn down what comes before it.'
        : 'It was cut before this recording: turn down earlier in the chain; the level here cannot cure it.',
  }),
  silence: () => ({
    what: 'This channel is digital silence.',
    why: 'Every sample is zero.',
    remedy: 'Look for a wrong plug, a missing supply or a track that was not armed.',
  }),
  'low level': ({ peakDbfs }) => ({
    what: `The loudest peak is only ${signed(peakDbfs)} dBFS.`,
    why: 'What is raised later brings the noise along.',
    remedy: 'Give more gain before the recording.',
  }),
}

/** What is said of something a clip was found to have. */
export const clipWords = ({ code, figures }: ClipFinding): Sentences =>
  // code and figures belong together: the type of the finding says so
  (words[code] as (figures: unknown) => Sentences)(figures)
