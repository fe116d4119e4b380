import type { MarkKind, Take } from '../model'
import { clock } from '../units'
import { csv } from './csv'

/** A recorded channel as the report names it. */
export interface ReportChannel {
  /** `box.track`, as marks refer to it. */
  id: string
  name: string
}

const markWords: Record<MarkKind, string> = {
  aircraft: 'aircraft or traffic',
  rustle: 'rustle',
  'too loud': 'too loud',
  wind: 'wind or breath',
  dropout: 'dropout',
  hum: 'hum or buzz',
  word: 'note',
}

export const markName = (kind: MarkKind): string => markWords[kind]

/** Length of a take in seconds; undefined while it runs. */
export const takeLengthS = (take: Take): number | undefined =>
  take.endedAt === null ? undefined : (Date.parse(take.endedAt) - Date.parse(take.startedAt)) / 1000

/**
 * The sound report of a scene as CSV: a line for each take, and under it a line for each mark with its second and
 * channel. Times of day stand in UTC, and as the clock on the wall showed them.
 *
 * @param changedBetween what changed in the chain between two takes, in words
 * @param timeZone IANA name; by default that of this machine
 */
export function soundReportCsv(
  scene: string,
  takes: readonly Take[],
  channels: readonly ReportChannel[],
  {
    changedBetween = () => [],
    timeZone,
  }: { changedBetween?: (before: Take, take: Take) => readonly string[]; timeZone?: string } = {},
): string {
  const local = localTimeIn(timeZone)
  const nameOf = (id: string) => channels.find((channel) => channel.id === id)?.name ?? (id || 'all channels')
  const inOrder = [...takes].sort((one, other) => one.number - other.number)
  const rows = inOrder.flatMap((take, index) => {
    const before = inOrder[index - 1]
    const lengthS = takeLengthS(take)
    return [
      [
        scene,
        take.number,
        'take',
        take.startedAt,
        local(Date.parse(take.startedAt)),
        lengthS === undefined ? 'running' : clock(lengthS),
        take.verdict,
        channels.map(({ name }) => name).join('; '),
        take.note,
        before ? changedBetween(before, take).join('; ').replaceAll('\u00A0', ' ') : '',
      ],
      ...[...take.marks]
        .sort((one, other) => one.atS - other.atS)
        .map((mark) => [
          scene,
          take.number,
          markName(mark.kind),
          clock(mark.atS, 1),
          local(Date.parse(take.startedAt) + mark.atS * 1000),
          '',
          '',
          nameOf(mark.channel),
          mark.note,
          '',
        ]),
    ]
  })
  return csv([
    [
      'scene',
      'take',
      'what',
      'time',
      'local time',
      'length',
      'verdict',
      'channels',
      'note',
      'changed since the take before',
    ],
    ...rows,
  ])
}

/** Writes moments as clocks of a zone show them, with the distance from UTC: `2026-05-04 11:00:00 +02:00`. */
function localTimeIn(timeZone?: string): (ms: number) => string {
  const format = new Intl.DateTimeFormat('en', {
    timeZone,
    calendar: 'iso8601',
    numberingSystem: 'latn',
    hourCycle: 'h23',
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    second: '2-digit',
    timeZoneName: 'longOffset',
  })
  return (ms) => {
    const parts = new Map(format.formatToParts(ms).map(({ type, value }) => [type, value]))
    const of = (type: Intl.DateTimeFormatPartTypes) => parts.get(type) ?? ''
    const offset = of('timeZoneName').replace('GMT', '') || '+00:00'
    return `${of('year')}-${of('month')}-${of('day')} ${of('hour')}:${of('minute')}:${of('second')} ${offset}`
  }
}
