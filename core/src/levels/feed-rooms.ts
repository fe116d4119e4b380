import { type Patch, type Shelf, type Source, withFeedLevel } from '../model'
import { placeOf } from './findings'
import { levelsOfPatch } from './levels'
import type { Run } from './run'

type Feed = Extract<Source, { kind: 'line' }>

/** Levels of a line feed that the recordings of one box can take, on the feed's own scale. */
export interface FeedRoom {
  box: string
  boxName: string
  /** Names of the recordings that this holds for. */
  tracks: string[]
  /** Noise of boxes and place as an equivalent feed level, dBu; -Infinity for none. */
  noiseDbu: number
  /** The ceiling that the feed reaches first; undefined where nothing limits it. */
  ceiling: FeedCeiling | undefined
}

export interface FeedCeiling {
  /**
   * By how much more the feed as a whole may be sent until its peaks meet it, dB, and what they are then, dBu; -Infinity
   * where it is passed however little is sent, for something else sounds there too.
   */
  spareDb: number
  peakDbu: number
  place: string
  /** Whether it is in the sending box, so that nothing can be put before it. */
  isSender: boolean
}

/** A level within this of a ceiling counts as meeting it, dB. */
const metDb = 0.02
const mostSteps = 12
/** Furthest change of a feed's level that is looked at, dB. */
const farthestDb = 80

/** Room that every recording has for a line feed, by box; the least room first. */
export function feedRooms(patch: Patch, shelf: Shelf, feed: Feed): FeedRoom[] {
  const known = new Map<number, Map<string, Run>>()
  const runsAt = (moreDb: number): Map<string, Run> => {
    const found =
      known.get(moreDb) ??
      new Map(levelsOfPatch(sentLouder(patch, feed, moreDb), shelf).runs.map((run) => [run.id, run]))
    known.set(moreDb, found)
    return found
  }
  const rooms = new Map<string, FeedRoom>()
  for (const run of runsAt(0).values()) {
    if (run.source.id !== feed.id || run.end.kind !== 'recording' || run.stop || run.spill) continue
    const ceiling = ceilingOf(run, (moreDb) => runsAt(moreDb).get(run.id))
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
  const spare = ({ ceiling }: FeedRoom) => ceiling?.spareDb ?? Infinity
  return [...rooms.values()].sort((one, other) => spare(one) - spare(other))
}

/** The scene with a feed sent louder, as by its sender's fader. */
function sentLouder(patch: Patch, feed: Feed, moreDb: number): Patch {
  if (moreDb === 0) return patch
  const { quietest, typical, loudest } = feed.levelsDbu
  const to = { quietest: quietest + moreDb, typical: typical + moreDb, loudest: loudest + moreDb }
  return { ...patch, brief: { ...patch.brief, ...withFeedLevel(patch.brief, feed, to) } }
}

/**
 * The ceiling that is met first as the feed gets louder or softer. Behind automatic gain or a limiter, and beside other
 * sources, raising the level costs more or less headroom than the same number of dB: the level is searched for.
 */
function ceilingOf(run: Run, at: (moreDb: number) => Run | undefined): FeedCeiling | undefined {
  const headroomAt = (moreDb: number) => at(moreDb)?.tightest?.ceiling.headroomDb ?? Infinity
  const now = headroomAt(0)
  if (now === Infinity) return undefined
  // headroom falls as the feed gets louder: bisection between a level with headroom and one without
  let [low, high] = now >= 0 ? [0, now] : [now, 0]
  while (headroomAt(high) > metDb && high < farthestDb) [low, high] = [high, high + Math.max(3, high)]
  while (headroomAt(low) < -metDb && low > -farthestDb) [low, high] = [low + Math.min(-3, low), low]
  if (headroomAt(high) > metDb) return undefined
  if (headroomAt(low) < -metDb) return ceilingAt(run, run, -Infinity)
  for (let step = 0; step < mostSteps && Math.abs(headroomAt(high)) > metDb; step++) {
    const middle = Math.abs(headroomAt(low)) <= metDb ? low : (low + high) / 2
    if (headroomAt(middle) > metDb) low = middle
    else high = middle
  }
  return ceilingAt(run, at(high) ?? run, high)
}

function ceilingAt(run: Run, { tightest, points, entry }: Run, spareDb: number): FeedCeiling | undefined {
  // of several that are met at once the first on the way is the one to look after
  const nearestDb = (tightest?.ceiling.headroomDb ?? Infinity) + 2 * metDb
  const point = points.find(({ ceilings }) => ceilings.some(({ headroomDb }) => headroomDb <= nearestDb))
  return (
    point && {
      spareDb,
      peakDbu: run.atSource.peak + spareDb,
      place: placeOf(point),
      isSender: point.part === entry.part,
    }
  )
}
