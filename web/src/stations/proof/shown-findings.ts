import { bySeverity, type ClipFinding } from '@iron-hush/core/findings'
import { clipFindings } from '@iron-hush/core/measure'
import type { Measurement } from '@iron-hush/core/model'
import { clipWord, clipWords, type Sentences } from '@iron-hush/core/words'

/** A finding of a clip with its sentences, and whether it is somewhere in the clip or all through it. */
export type ShownFinding = ClipFinding & Sentences & { key: string; word: string; inPlaces: boolean }

/** What was found in a clip, worst first. */
export const shownFindings = (measurement: Measurement): ShownFinding[] =>
  clipFindings(measurement)
    .map((finding) => ({
      ...finding,
      ...clipWords(finding),
      key: `${finding.code} ${finding.subject.channel}`,
      word: clipWord(finding),
      inPlaces: !finding.ranges.some(({ fromS, toS }) => fromS <= 0 && toS >= measurement.lengthS),
    }))
    .sort(bySeverity)
