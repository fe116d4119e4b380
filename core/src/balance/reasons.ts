import { decibels } from '../units'
import type { Levels, Run } from '../levels'
import { type Control, type Patch, positionsOf } from '../model'
import type { FreeControl } from './free-control'
import { type Score, tenths, worstOutsideDb, worstOverDb } from './objective'

/** Why a balance ends where it ends, and what to give up when nothing fits. Sentences for a person. */
export function reasonsFor(
  levels: Levels,
  after: Score,
  patch: Patch,
  free: readonly FreeControl[],
): string[] {
  const recordings = levels.runs.filter(({ end, stop }) => end.kind === 'recording' && !stop)
  const binding = leastBy(recordings, (run) => run.tightest?.ceiling.headroomDb ?? Infinity)
  const worst = leastBy(recordings, (run) => run.speechToNoiseDb)
  return [
    ...(tenths(worstOverDb(after)) > 0 && binding ? [overReason(binding, after, patch)] : []),
    ...(tenths(worstOutsideDb(after)) > 0 ? [outsideReason(after, patch, free)] : []),
    ...(binding ? [bindingReason(binding)] : []),
    ...(worst ? [noiseReason(worst)] : []),
  ]
}

/** The search ended before every combination was ruled out. */
export const unprovedReason = (mayGainDb: number): string =>
  tenths(mayGainDb) > 0 && Number.isFinite(mayGainDb)
    ? `This is the best found in the time allowed, not proved to be the best there is: another setting may be up to ${decibels(mayGainDb)} clearer.`
    : 'This is the best found in the time allowed, not proved to be the best there is.'

const leastBy = (runs: readonly Run[], figure: (run: Run) => number): Run | undefined =>
  runs.reduce<Run | undefined>(
    (low, run) => (figure(run) < (low ? figure(low) : Infinity) ? run : low),
    undefined,
  )

/** The ceiling that no setting keeps, and whether anything before it could bring the level down. */
function overReason(run: Run, after: Score, { plan }: Patch): string {
  const overDb = worstOverDb(after)
  const { point } = run.tightest!
  const place = run.points[point]!
  const entry = run.points[0]!
  const missing = `No setting keeps ${decibels(plan.marginDb)} under every ceiling: ${decibels(overDb)} are missing at ${place.partName}, ${place.name.toLowerCase()}.`
  // what a microphone does by itself, no pad behind it can take back
  return place.part === entry.part && run.unit === 'dB SPL'
    ? `${missing} It is the first thing in the chain: take it farther off, use one that stands more, or ask for a smaller margin.`
    : `${missing} A pad of ${Math.ceil(overDb)} dB or more before ${place.partName} would cure it, or a smaller margin.`
}

/** The window that no setting reaches: a matter of steps that are too coarse, or of range. */
function outsideReason(after: Score, { plan }: Patch, free: readonly FreeControl[]): string {
  const outsideDb = worstOutsideDb(after)
  const missing = `No setting brings every recording that counts into the window of the ${plan.peakTarget} peak target: the worst stays ${decibels(outsideDb)} outside.`
  const coarsest = Math.max(0, ...free.map(({ control }) => coarsestStep(control)))
  if (free.length === 0) return missing
  return outsideDb <= coarsest / 2
    ? `${missing} A control with finer steps would cure it, or another peak target.`
    : `${missing} The controls do not reach that far: a pad or a preamplifier between two boxes may, or another peak target. "What would cure it?" tries them.`
}

/** A step of a control in its own unit; nothing where it has no scale of its own. */
const coarsestStep = (control: Control): number =>
  control.kind === 'knob' && positionsOf(control).length > 1 ? control.click : 0

function bindingReason(run: Run): string {
  const { point, ceiling } = run.tightest!
  const place = run.points[point]!
  const room =
    ceiling.headroomDb < 0
      ? `passed by ${decibels(-ceiling.headroomDb)}`
      : `with ${decibels(ceiling.headroomDb)} to spare`
  return `The ceiling met first is ${place.partName}, ${place.name.toLowerCase()}, ${room}.`
}

function noiseReason(run: Run): string {
  const [share] = run.shares
  const where = `${run.end.boxName}, ${run.end.name}`
  if (run.overBoxesDb - run.speechToNoiseDb > 3)
    return `The noise of the place limits ${where}: the boxes alone would leave ${decibels(run.overBoxesDb)}.`
  return share
    ? `On ${where} ${share.partName}, ${share.name.toLowerCase()} makes ${Math.round(share.share * 100)} % of the hiss.`
    : `On ${where} the boxes add nothing.`
}
