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
 * channel. Times of day are UTC as stored.
 */
export function soundReportCsv(
  scene: string,
  takes: readonly Take[],
  channels: readonly ReportChannel[],
): string {
  const nameOf = (id: string) => channels.find((channel) => channel.id === id)?.name ?? (id || 'all channels')
  const rows = [...takes]
    .sort((one, other) => one.number - other.number)
    .flatMap((take) => {
      const lengthS = takeLengthS(take)
      return [
        [
          scene,
          take.number,
          'take',
          take.startedAt,
          lengthS === undefined ? 'running' : clock(lengthS),
          take.verdict,
          channels.map(({ name }) => name).join('; '),
          take.note,
        ],
        ...[...take.marks]
          .sort((one, other) => one.atS - other.atS)
          .map((mark) => [
            scene,
            take.number,
            markName(mark.kind),
            clock(mark.atS, 1),
            '',
            '',
            nameOf(mark.channel),
            mark.note,
          ]),
      ]
    })
  return csv([['scene', 'take', 'what', 'time', 'length', 'verdict', 'channels', 'note'], ...rows])
}
