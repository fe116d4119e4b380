import { meantWithinDb, onTrack, type Run } from '../levels'
import type { Patch } from '../model'

/** A source that a box beside the camera records, and the camera does not, or far below another. */
export interface Beside {
  source: string
  /** The recording that is meant for it. */
  recording: string
  camera: string
}

const isRecorded = ({ end, stop }: Run): boolean => end.kind === 'recording' && !stop

/** Boxes by id, from each that sound begins in to the last that records it, along the links. */
export function recordedAlong({ boxes, links }: Patch, runs: readonly Run[]): string[][] {
  const begins = boxes.filter(({ id }) => !links.some(({ to }) => to.box === id))
  return begins.map(({ id }) => {
    const along = [id]
    for (let link = links.find(({ from }) => from.box === id); link && !along.includes(link.to.box);) {
      const { box } = link.to
      along.push(box)
      link = links.find(({ from }) => from.box === box)
    }
    const ends = new Set(runs.flatMap((run) => (isRecorded(run) && run.entry.part === id ? run.end.box : [])))
    const last = along.findLastIndex((box) => ends.has(box))
    return last < 0 ? along : along.slice(0, last + 1)
  })
}

/** Sources that the camera's own sound lacks, although they are recorded. */
export function besideCamera({ brief }: Patch, runs: readonly Run[]): Beside[] {
  const meant = runs.filter((run) => isRecorded(run) && !run.spill)
  const onCamera = runs.filter((run) => isRecorded(run) && run.end.gearKind === 'camera')
  const camera = onCamera[0]?.end.boxName
  if (camera === undefined) return []
  const below = onTrack(onCamera)
  const isHeard = (run: Run) => below(run).belowDb < meantWithinDb
  return brief.sources.flatMap(({ id, name }) => {
    const own = meant.filter(({ source }) => source.id === id)
    const [best] = [...own].sort((one, other) => other.speechToNoiseDb - one.speechToNoiseDb)
    if (!best || best.end.gearKind === 'camera') return []
    if (onCamera.some((run) => run.source.id === id && isHeard(run))) return []
    return [{ source: name, recording: `${best.end.boxName}, ${best.end.name}`, camera }]
  })
}
