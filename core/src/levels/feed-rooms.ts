import type { Run } from './run'
import { placeOf } from './findings'

/** What recordings of one box can take of a line feed, on the feed's own scale. */
export interface FeedRoom {
  box: string
  boxName: string
  /** Names of the recordings that this holds for. */
  tracks: string[]
  /** Noise of boxes and place, as loud as the feed would have to be to be like it, dBu; -Infinity for none. */
  noiseDbu: number
  /** What the feed meets first on the way; undefined where nothing limits it. */
  ceiling: FeedCeiling | undefined
}

export interface FeedCeiling {
  /** Peaks of the feed that meet it, dBu, and by how much the largest of all that sounds there stays under it. */
  peakDbu: number
  headroomDb: number
  place: string
  /** It lies in the box that sends it: nothing can be put before it. */
  isSender: boolean
}

/** What every recording of a line feed can take of it: the box with the least room first. */
export function feedRooms(runs: readonly Run[], source: string): FeedRoom[] {
  const rooms = new Map<string, FeedRoom>()
  for (const run of runs) {
    if (run.source.id !== source || run.end.kind !== 'recording' || run.stop || run.spill) continue
    const ceiling = ceilingOf(run)
    const noiseDbu = run.atSource.typical - run.speechToNoiseDb
    const key = `${run.end.box} ${ceiling?.place} ${ceiling?.peakDbu.toFixed(1)} ${noiseDbu.toFixed(1)}`
    const room = rooms.get(key)
    if (room) room.tracks.push(run.end.name)
    else
      rooms.set(key, {
        box: run.end.box,
        boxName: run.end.boxName,
        tracks: [run.end.name],
        noiseDbu,
        ceiling,
      })
  }
  const headroom = ({ ceiling }: FeedRoom) => ceiling?.headroomDb ?? Infinity
  return [...rooms.values()].sort((one, other) => headroom(one) - headroom(other))
}

function ceilingOf({ tightest, points, atSource, entry }: Run): FeedCeiling | undefined {
  if (!tightest) return undefined
  const { headroomDb } = tightest.ceiling
  const point = points[tightest.point]!
  return {
    peakDbu: atSource.peak + headroomDb,
    headroomDb,
    place: placeOf(point),
    isSender: point.part === entry.part,
  }
}
