import { type Reason, reason } from '../findings'
import type { Levels, Point, Run } from '../levels'
import { type Control, type Patch, positionsOf } from '../model'
import type { FreeControl } from './free-control'
import { type Score, tenths, worstOutsideDb, worstOverDb } from './objective'

/**
 * Why a balance ends where it ends, and what keeps it from more when nothing fits.
 *
 * @param isProved whether no other setting is better
 */
export function reasonsFor(
  levels: Levels,
  after: Score,
  { plan }: Patch,
  free: readonly FreeControl[],
  isProved: boolean,
): Reason[] {
  const recordings = levels.runs.filter(({ end, stop }) => end.kind === 'recording' && !stop)
  const binding = leastBy(recordings, (run) => run.tightest?.ceiling.headroomDb ?? Infinity)
  const worst = leastBy(recordings, (run) => run.speechToNoiseDb)
  const [overDb, outsideDb] = [worstOverDb(after), worstOutsideDb(after)]
  return [
    ...(tenths(overDb) > 0 ? overReasons(binding, overDb, plan.marginDb, isProved) : []),
    ...(tenths(outsideDb) > 0
      ? [
          reason('outside', {
            peakTarget: plan.peakTarget,
            outsideDb,
            because: isProved ? whyOutside(outsideDb, free) : 'not known',
          }),
        ]
      : []),
    ...bindingReasons(binding),
    ...(worst ? [noiseReason(worst)] : []),
  ]
}

const leastBy = (runs: readonly Run[], figure: (run: Run) => number): Run | undefined =>
  runs.reduce<Run | undefined>(
    (low, run) => (figure(run) < (low ? figure(low) : Infinity) ? run : low),
    undefined,
  )

/** Where a run meets its first ceiling, by name. */
const tightestPoint = (run: Run | undefined): Point | undefined =>
  run?.tightest && run.points[run.tightest.point]

const nameOf = ({ partName, name }: { partName: string; name: string }): string =>
  `${partName}, ${name.toLowerCase()}`

function overReasons(run: Run | undefined, overDb: number, marginDb: number, isProved: boolean): Reason[] {
  const place = tightestPoint(run)
  if (!run || !place) return []
  // clipping inside a microphone cannot be cured by a pad behind it
  const atMicrophone = place.part === run.points[0]?.part && run.unit === 'dB SPL'
  const { partName } = place
  return [reason('over', { point: nameOf(place), partName, overDb, marginDb, atMicrophone, isProved })]
}

/** Why the peaks are outside their window. */
function whyOutside(outsideDb: number, free: readonly FreeControl[]) {
  if (free.length === 0) return 'nothing to turn'
  const coarsest = Math.max(0, ...free.map(({ control }) => coarsestStep(control)))
  return outsideDb <= coarsest / 2 ? 'coarse steps' : 'short range'
}

/** A step of a control in its own unit; empty where it has no scale. */
const coarsestStep = (control: Control): number =>
  control.kind === 'knob' && positionsOf(control).length > 1 ? control.click : 0

function bindingReasons(run: Run | undefined): Reason[] {
  const place = tightestPoint(run)
  return run?.tightest && place
    ? [reason('binding', { point: nameOf(place), headroomDb: run.tightest.ceiling.headroomDb })]
    : []
}

function noiseReason(run: Run): Reason {
  const track = `${run.end.boxName}, ${run.end.name}`
  if (run.overBoxesDb - run.speechToNoiseDb > 3)
    return reason('place', { track, overBoxesDb: run.overBoxesDb })
  const [share] = run.shares
  return reason('hiss', {
    track,
    ...(share && { biggest: { point: nameOf(share), share: share.share } }),
  })
}
