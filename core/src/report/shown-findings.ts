import { bySeverity, type ClipFinding } from '../findings'
import { clipFindings } from '../measure'
import type { Measurement } from '../model'
import { clipWord, clipWords, type Sentences } from '../words'

/** A finding of a clip with its sentences, and whether it is somewhere in the clip or all through it. */
export type ShownFinding = ClipFinding &
  Sentences & { key: string; word: string; inPlaces: boolean; about: string }

/** Findings of a clip, worst first. A finding about two channels with the same sound is given once. */
export const shownFindings = (measurement: Measurement): ShownFinding[] => {
  const found = clipFindings(measurement)
  const twins = new Set(
    found.flatMap(({ code, subject }) => (code === 'channels equal' ? [subject.channel] : [])),
  )
  const several = measurement.channels.length > 1
  return found
    .filter(({ figures, subject }) => !twins.has(subject.channel) || 'other' in figures)
    .map((finding) => ({
      ...finding,
      ...clipWords(finding),
      key: `${finding.code} ${finding.subject.channel}`,
      word: clipWord(finding),
      // of two channels together the sentence itself says which
      about:
        several && !('other' in finding.figures) ? channelsNamed(finding.subject.channel ?? 1, twins) : '',
      inPlaces: !finding.ranges.some(({ fromS, toS }) => fromS <= 0 && toS >= measurement.lengthS),
    }))
    .sort(bySeverity)
}

const channelsNamed = (channel: number, twins: ReadonlySet<number | undefined>): string =>
  twins.has(channel + 1) ? `Channels ${channel} and ${channel + 1}` : `Channel ${channel}`
