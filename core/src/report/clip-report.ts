import type { Measurement } from '../model'
import { clock, signed } from '../units'
import { clipFacts, clipSummary } from '../words'
import { csv } from './csv'
import { type ShownFinding, shownFindings } from './shown-findings'

const rangesOf = (measurement: Measurement, { ranges, inPlaces }: ShownFinding) =>
  inPlaces ? ranges : [{ fromS: 0, toS: measurement.lengthS }]

/** Time of day by the time code of the file, to the tenth of a second; empty where it has none. */
const timeOfDay = ({ stream }: Measurement, atS: number): string =>
  stream.startS === undefined ? '' : clock(stream.startS + atS, 1)

/** What was found in clips as CSV: a line for each place of each finding, and one for a clip without any. */
export function findingsCsv(measurements: readonly Measurement[]): string {
  return csv([
    [
      'clip',
      'channel',
      'finding',
      'severity',
      'from s',
      'to s',
      'from',
      'time code',
      'sure',
      'what',
      'remedy',
    ],
    ...measurements.flatMap((measurement) => {
      const findings = shownFindings(measurement)
      if (findings.length === 0)
        return [[measurement.clip, '', 'clean', '', 0, thousandths(measurement.lengthS), '', '', '', '', '']]
      return findings.flatMap((finding) =>
        rangesOf(measurement, finding).map(({ fromS, toS }) => [
          measurement.clip,
          finding.subject.channel ?? '',
          finding.word,
          finding.severity,
          thousandths(fromS),
          thousandths(toS),
          clock(fromS, 1),
          timeOfDay(measurement, fromS),
          Math.round(finding.confidence * 100) / 100,
          finding.what,
          finding.remedy,
        ]),
      )
    }),
  ])
}
const thousandths = (seconds: number): number => Math.round(seconds * 1000) / 1000

/** A clip as a sheet shows it. */
export interface ClipLine {
  mark: string
  clip: string
  facts: string
  levels: string
  findings: { what: string; where: string; remedy: string }[]
}
const mostPlaces = 6

/** What was found in clips, for one page: the worst first, each with where it is and what to do. */
export function clipLines(measurements: readonly Measurement[]): ClipLine[] {
  return measurements.map((measurement) => {
    const findings = shownFindings(measurement)
    const peaks = measurement.channels.map(({ truePeakDbtp }) => dash(truePeakDbtp)).join(' and ')
    const speech = measurement.channels.map(({ speechDbfsA }) => dash(speechDbfsA)).join(' and ')
    return {
      mark: clipSummary(measurement, findings).mark,
      clip: measurement.clip,
      facts: clipFacts(measurement),
      levels: `true peak ${peaks} dBTP, speech ${speech} dBFS(A), loudness ${dash(measurement.loudness?.integratedLufs)} LUFS`,
      findings: findings.map((finding) => ({
        what: finding.about ? `${finding.about}: ${finding.what}` : finding.what,
        where: whereOf(finding),
        remedy: finding.remedy,
      })),
    }
  })
}
const dash = (value: number | null | undefined): string =>
  value === null || value === undefined ? '\u2013' : signed(value)

function whereOf({ ranges, figures, inPlaces }: ShownFinding): string {
  if (!inPlaces) return 'all through'
  const places = 'places' in figures ? figures.places : ranges.length
  return [
    ...ranges.slice(0, mostPlaces).map(({ fromS }) => clock(fromS, 1)),
    ...(places > mostPlaces ? [`and ${places - mostPlaces} more`] : []),
  ].join(', ')
}
