import type { ClipTake, Measurement, Take } from '../model'

/** What a file says about when it was recorded. */
interface Made {
  measurement: Pick<Measurement, 'stream' | 'lengthS' | 'clip'>
  /** When the file was last written, in ms since 1970: mostly when it was closed. */
  lastModifiedMs: number | undefined
}

/** Least overlap of a clip and a take, as a share of the shorter. */
const leastShare = 0.5
/** Clock error allowed between devices; copying a file may also drop its fractions of a second. */
const clockOffMs = 5000

/**
 * The take that a clip holds, by the time at which it was recorded: as the device wrote it into the file, else as the
 * file was closed. Where no time fits, by the number of a take in its name, as in `take 3`. Null where nothing tells.
 */
export function takeOfClip({ measurement, lastModifiedMs }: Made, takes: readonly Take[]): ClipTake | null {
  const { stream, lengthS, clip } = measurement
  const starts = [
    // the clock of a device shows the time of the place
    stream.recordedAt === undefined ? NaN : Date.parse(stream.recordedAt.replace(' ', 'T')),
    lastModifiedMs === undefined ? NaN : lastModifiedMs - lengthS * 1000,
  ].filter(Number.isFinite)
  for (const startMs of starts) {
    const [best] = takes
      .map((take) => ({ take, share: sharedBy(take, startMs, lengthS) }))
      .filter(({ share }) => share >= leastShare)
      .sort((one, other) => other.share - one.share)
    if (best) {
      const laterS = (startMs - Date.parse(best.take.startedAt)) / 1000
      return { id: best.take.id, number: best.take.number, laterS, by: 'time' }
    }
  }
  const number = Number(/\btake[ _-]?0*(\d{1,4})\b/i.exec(clip)?.[1] ?? NaN)
  const named = takes.filter((take) => take.number === number)
  return named.length === 1 ? { id: named[0]!.id, number, laterS: 0, by: 'name' } : null
}

function sharedBy({ startedAt, endedAt }: Take, startMs: number, lengthS: number): number {
  const [from, to] = [Date.parse(startedAt), endedAt === null ? Infinity : Date.parse(endedAt)]
  const endMs = startMs + lengthS * 1000
  const shared = Math.min(to, endMs) - Math.max(from, startMs) + clockOffMs
  return shared / Math.max(1, Math.min(to - from, lengthS * 1000))
}
