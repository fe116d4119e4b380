import { bySeverity, type ClipFigures, type ClipFinding, type Severity } from '../findings'
import type { Measurement } from '../model'
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

const marks: Record<Severity, string> = {
  dead: '\u25B2',
  harmful: '\u25B2',
  degraded: '\u25CF',
  note: '\u25CF',
}

/** A clip in a few words: the worst that was found in it, or how loud it is and how far over its noise. */
export function clipSummary(
  { channels }: Measurement,
  findings: readonly ClipFinding[],
): { mark: string; severity: Severity | 'clean'; words: string } {
  const [worst] = [...findings].sort(bySeverity)
  if (worst) return { mark: marks[worst.severity], severity: worst.severity, words: clipWords(worst).what }
  const loudest = channels.reduce((most, each) =>
    (each.peakDbfs ?? -Infinity) > (most.peakDbfs ?? -Infinity) ? each : most,
  )
  const ratio =
    loudest.speechDbfsA !== null && loudest.noiseDbfsA !== null && loudest.pauses
      ? `, ${signed(loudest.speechDbfsA - loudest.noiseDbfsA)} dB speech-to-noise`
      : ''
  return {
    mark: '\u2013',
    severity: 'clean',
    words: `nothing cut; peaks ${signed(loudest.peakDbfs ?? -Infinity)} dBFS${ratio}`,
  }
}
