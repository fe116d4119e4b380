import { trackKey } from '../model'
import type { Levels } from './levels'
import type { Run } from './run'
import { silenceDb } from './where-it-stops'

/** A source as a recorded channel holds it. */
export interface Held {
  source: string
  /** The box it came in by. */
  by: string
  /** From the source to the file, dB; ways that add up are one. */
  gainDb: number
  sign: 1 | -1
  /** Typical level in the file, dBFS. */
  typicalDb: number
  /** It only spills in, for another recording is meant for it: how far below the loudest of the channel, dB. */
  spillDb?: number
  /** No recording holds it better: how far below another that its microphone picks up, dB. */
  behindDb?: number
}

/** Contents of a recorded channel: a signed sum of sources. */
export interface RecordedChannel {
  id: string
  name: string
  /** Sources that the channel is meant for, without spill. */
  sources: string[]
  box: string
  boxName: string
  track: string
  /** Names a person may use for it: the track, its microphones and its voices. */
  names: string[]
  holds: Held[]
}

/** A source this far below the loudest of its channel is not mentioned, dB. */
const worthDb = 40

/**
 * The run that each channel of a clip is held against, of several sources the loudest, for a meter sees that: the first that
 * of a recording; the others those of the tracks of the
 * same box that they are named after, or where the recorder named none of them those of the next tracks. Empty where the
 * recording is none of this scene.
 */
export function runsOfClip(
  levels: Levels,
  recording: string,
  count: number,
  names: readonly string[] = [],
): (Run | undefined)[] {
  const channels = channelsOf(levels)
  const first = channels.find(({ id }) => id === recording)
  if (!first) return []
  const tracks = channels.filter(({ box }) => box === first.box)
  const next = tracks.slice(tracks.indexOf(first))
  const named = [first, ...tracksNamed(tracks, names.slice(1, count), [first])]
  const held = named.some((track, index) => index && track) ? named : next
  return Array.from({ length: count }, (_, index) => loudestOn(levels, held[index]?.id))
}

function loudestOn({ runs }: Levels, recording: string | undefined): Run | undefined {
  const on = runs.filter(({ end }) => end.kind === 'recording' && trackKey(end) === recording)
  const loudnessOf = ({ stop, typicalDb }: Run) => (stop ? -Infinity : typicalDb)
  return on.reduce<Run | undefined>(
    (best, run) => (best && loudnessOf(best) >= loudnessOf(run) ? best : run),
    undefined,
  )
}

/** The track that each name means, none twice; undefined if it means none. */
export function tracksNamed<Track extends Pick<RecordedChannel, 'names'>>(
  tracks: readonly Track[],
  names: readonly string[],
  taken: readonly Track[] = [],
): (Track | undefined)[] {
  const used = new Set(taken)
  return names.map((name) => {
    const free = tracks.filter((track) => !used.has(track))
    const found =
      free.find((track) => track.names.some((each) => wordsOf(each) === wordsOf(name))) ??
      free.find((track) => track.names.some((each) => wordsOf(name).includes(wordsOf(each))))
    if (found) used.add(found)
    return found
  })
}
/** The words of a name, without what separates them. */
const wordsOf = (name: string): string =>
  ` ${
    name
      .toLowerCase()
      .match(/[\p{L}\p{N}]+/gu)
      ?.join(' ') ?? ''
  } `

/** The recorded channels of a scene, each once; what a radio records inside itself comes last. */
export function channelsOf(levels: Levels): RecordedChannel[] {
  const channels = new Map<string, { channel: RecordedChannel; runs: Run[] }>()
  const inside = new Set<string>()
  for (const run of levels.runs) {
    const { end } = run
    if (end.kind !== 'recording') continue
    const id = trackKey(end)
    const known = channels.get(id) ?? {
      channel: {
        id,
        name: `${end.boxName}, ${end.name}`,
        sources: [],
        box: end.box,
        boxName: end.boxName,
        track: end.name,
        names: [end.name],
        holds: [],
      },
      runs: [],
    }
    known.runs.push(run)
    known.channel.names.push(run.entry.name, run.source.name)
    channels.set(id, known)
    if (end.gearKind === 'radio') inside.add(id)
  }
  return [...channels.values()]
    .map(({ channel, runs }) => {
      const holds = heldIn(runs)
      return {
        ...channel,
        holds,
        sources: [...new Set(holds.flatMap(({ source, spillDb }) => (spillDb === undefined ? source : [])))],
      }
    })
    .sort((one, other) => Number(inside.has(one.id)) - Number(inside.has(other.id)))
}

/**
 * Contribution of each source by each box it enters through, the loudest first, spill last; all paths through one box
 * count as one.
 */
function heldIn(runs: readonly Run[]): Held[] {
  const entries = new Map(runs.map((run) => [`${run.source.id} ${run.entry.part}`, run]))
  const loudest = Math.max(...runs.map(({ byEntry }) => byEntry.db))
  return [...entries.values()]
    .filter(({ byEntry }) => byEntry.db > Math.max(loudest - worthDb, silenceDb))
    .map(({ source, entry, byEntry, atSource, spill, behind }): Held => ({
      source: source.name,
      by: entry.name,
      gainDb: byEntry.db - atSource.typical,
      sign: byEntry.sign,
      typicalDb: byEntry.db,
      ...(spill && { spillDb: loudest - byEntry.db }),
      ...(behind && !behind.isMixed && { behindDb: behind.belowDb }),
    }))
    .sort(
      (one, other) =>
        Number('spillDb' in one) - Number('spillDb' in other) || other.typicalDb - one.typicalDb,
    )
}

/** Two channels of one box that hold the same with opposite signs: summed to mono, it is gone. */
export interface MonoLoss {
  box: string
  boxName: string
  tracks: [string, string]
  source: string
  /** Its level in the sum relative to one channel alone, dB; -Infinity where it practically vanishes. */
  leftDb: number
}

/** A sum this far below one of its parts counts as a loss, dB. */
const lossDb = -6
/** A sum this far below one of its parts counts as silence, dB. */
const goneDb = -40

/** Sources that fall when two channels of one box are summed to mono. */
export function monoLosses(channels: readonly RecordedChannel[]): MonoLoss[] {
  return channels.flatMap((one, index) =>
    channels.slice(index + 1).flatMap((other) =>
      one.box !== other.box
        ? []
        : one.holds.flatMap((held): MonoLoss[] => {
            const twin = other.holds.find((each) => each.source === held.source && each.by === held.by)
            if (!twin) return []
            const [a, b] = [held, twin].map(({ gainDb, sign }) => sign * 10 ** (gainDb / 20)) as [
              number,
              number,
            ]
            const leftDb =
              20 * Math.log10(Math.max(1e-9, Math.abs(a + b)) / Math.max(Math.abs(a), Math.abs(b)))
            return leftDb < lossDb
              ? [
                  {
                    box: one.box,
                    boxName: one.boxName,
                    tracks: [one.track, other.track],
                    source: held.source,
                    leftDb: leftDb < goneDb ? -Infinity : leftDb,
                  },
                ]
              : []
          }),
    ),
  )
}
