import { atLeast, type CureChange } from '../findings'
import { wiringFindings, wiringOf } from '../circuit'
import { chainOf, graphOf, readingsOf } from '../chain'
import { levelsOfPatch, type Run } from '../levels'
import { applyEdits, type Edit } from '../edits'
import { type Gear, missingIn, type Patch, priceOf, Refusal, type Shelf } from '../model'
import { aimsOf, type RecordingRatios, ratiosByRecording } from './aims'
import { balance, type Limit, limitOf, settingsOf } from './balance'
import { type Candidate, candidatesFor } from './cure-candidates'
import {
  compareScores,
  meetsDemands,
  type Score,
  tenths,
  worstFirst,
  worstOutsideDb,
  worstOverDb,
} from './objective'
import { suppliesOn } from './power'

/** Something that would make the best settings better, with the settings that then are best. */
export interface Cure {
  change: CureChange
  /** Money for what is not owned, or not left; 0 for what is, undefined where a price is not known. */
  price: number | undefined
  /** The thing, where there is one. */
  thing?: Gear
  fits: boolean
  before: Score
  after: Score
  /** The recording that is clearer by it, where one is: the worst of them. */
  clears?: { name: string; beforeDb: number; afterDb: number }
  /** The change and the settings that go with it. */
  edits: Edit[]
}

/**
 * Stage evaluations allowed for one candidate. There are many, and where this runs out the settings found are within a
 * decibel of the best in nearly all: a cure is then promised a little less than it brings.
 */
const candidateWork = 60_000

/** Smallest improvement worth a purchase, an extra plug or a dropped demand. */
const worthDb = 1

/**
 * What would cure a chain that no setting of its controls makes good, or make it better: each candidate is put in, the
 * whole is wired, balanced and scored again, and what wins at least a decibel stays. Nothing is taken from a table of
 * remedies: a pad, a preamplifier, a microphone that takes more level and a demand given up are all tried the same way.
 *
 * @param progress calls back with each as it is found, and with the share that was tried
 * @returns all of them, best first; undefined when cancelled
 */
export function curesOf(
  patch: Patch,
  shelf: Shelf,
  {
    cancelled = () => false,
    progress,
  }: { cancelled?: () => boolean; progress?: (share: number, cure?: Cure) => void } = {},
): Cure[] | undefined {
  const now = balance(patch, shelf, cancelled)
  if (!now) return undefined
  const balanced = applyEdits(patch, settingsOf(now.changes), shelf)
  const before: Before = {
    score: now.after,
    ratios: ratiosIn(balanced, shelf),
    troubles: troublesOf(patch, shelf),
  }
  const all = candidatesFor(patch, shelf, troubled(now.levels.runs, patch))
  const cures: Cure[] = []
  for (const [index, candidate] of all.entries()) {
    if (cancelled()) return undefined
    const cure = tried(patch, shelf, candidate, before, cancelled)
    if (cure) cures.push(cure)
    progress?.((index + 1) / all.length, cure)
  }
  return cures.sort(byWorth)
}

/** Cures that meet all demands first, then the cheaper, then those with the better speech-to-noise. */
export const byWorth = (one: Cure, other: Cure): number =>
  Number(other.fits) - Number(one.fits) ||
  (one.price ?? Infinity) - (other.price ?? Infinity) ||
  compareScores(one.after, other.after)

/** Runs that break a demand; where none does, the one in which the voice is least above the noise. */
function troubled(runs: readonly Run[], patch: Patch): Run[] {
  const recorded = runs.filter((run) => run.end.kind === 'recording' && !run.stop)
  const over = recorded.filter(
    ({ tightest }) => tightest && tenths(tightest.ceiling.headroomDb) < tenths(patch.plan.marginDb),
  )
  if (over.length) return over
  const [worst] = [...recorded].sort((one, other) => one.speechToNoiseDb - other.speechToNoiseDb)
  return worst ? [worst] : []
}

function ratiosIn(patch: Patch, shelf: Shelf): RecordingRatios[] {
  const graph = graphOf(patch, shelf)
  const readings = readingsOf(graph)
  return ratiosByRecording(chainOf(graph, readings), aimsOf(graph, patch.plan))
}

function tried(
  patch: Patch,
  shelf: Shelf,
  { change, thing, edits }: Candidate,
  before: Before,
  cancelled: () => boolean,
): Cure | undefined {
  let next: Patch
  try {
    next = applyEdits(patch, edits, shelf)
  } catch (error) {
    if (error instanceof Refusal) return undefined
    throw error
  }
  if (isWorse(troublesOf(suppliesOn(next, shelf).patch, shelf), before.troubles)) return undefined
  const limit = limitOf(next, shelf)
  if (limit && !mayWin(before, limit)) return undefined
  const found = balance(next, shelf, cancelled, candidateWork)
  if (!found) return undefined
  const settings = settingsOf(found.changes)
  const ratios = ratiosIn(applyEdits(next, settings, shelf), shelf)
  if (!wins(before, found, ratios)) return undefined
  return {
    change,
    thing,
    price: priceOf(missingIn(next, shelf, patch)),
    fits: found.fits,
    before: before.score,
    after: found.after,
    clears: clearest(before.ratios, ratios),
    edits: [...edits, ...settings],
  }
}

/** The best settings without any cure. */
interface Before {
  score: Score
  ratios: RecordingRatios[]
  troubles: Troubles
}

/** Total shortfall of the worst recording, dB. */
const missing = (score: Score): number => worstOverDb(score) + worstOutsideDb(score)

/** Whether a change is worth it: it meets demands that were not met, comes nearer to them, or leaves the voice clearer. */
function wins(
  before: Before,
  { fits, after }: { fits: boolean; after: Score },
  ratios: readonly RecordingRatios[],
): boolean {
  const { score } = before
  if (!meetsDemands(score)) return fits || missing(score) - missing(after) >= worthDb
  return fits && clearer(before.ratios, ratios)
}

/**
 * Whether the best that any setting can come to may be worth it. Most things that are tried cannot win: where the noise of
 * the place limits a recording no box clears it, and that is known without a search.
 */
function mayWin({ score, ratios }: Before, { mayFit, most }: Limit): boolean {
  if (!meetsDemands(score)) return mayFit || missing(score) - missing(most) >= worthDb
  if (!mayFit) return false
  const then = worstFirst(ratios.map(({ speechToNoiseDb }) => speechToNoiseDb))
  const best = most.speechToNoiseDb
  // with a recording more or less it is not known which figure is whose
  return best.length === then.length
    ? then.some((figure, index) => best[index]! - figure >= worthDb)
    : (best.at(-1) ?? Infinity) - (then[0] ?? Infinity) >= worthDb
}

/** The recordings that were there before, the worst first: the first that differs by a decibel decides. */
function clearer(before: readonly RecordingRatios[], after: readonly RecordingRatios[]): boolean {
  const both = before.flatMap((then) => {
    const now = after.find(({ end }) => end === then.end)
    return now ? [{ then: then.speechToNoiseDb, now: now.speechToNoiseDb }] : []
  })
  const then = worstFirst(both.map((each) => each.then))
  const with_ = worstFirst(both.map((each) => each.now))
  const decides = then.findIndex((figure, index) => Math.abs(with_[index]! - figure) >= worthDb)
  return decides >= 0 && with_[decides]! > then[decides]!
}

/** Of the recordings that come out clearer by a decibel the one that was worst. */
function clearest(before: readonly RecordingRatios[], after: readonly RecordingRatios[]): Cure['clears'] {
  const [worst] = before
    .flatMap(({ end, name, speechToNoiseDb: beforeDb }) => {
      const now = after.find((each) => each.end === end)
      return now ? [{ name, beforeDb, afterDb: now.speechToNoiseDb }] : []
    })
    .filter(({ beforeDb, afterDb }) => afterDb - beforeDb >= worthDb)
    .sort((one, other) => one.beforeDb - other.beforeDb)
  return worst
}

/** Dead and harmful findings of a patch: wiring faults by code, and silent runs. */
interface Troubles {
  /** Links get new names when a box is put between: faults are counted, not told apart by link. */
  faults: Map<string, number>
  silent: number
}

function troublesOf(patch: Patch, shelf: Shelf): Troubles {
  const faults = new Map<string, number>()
  for (const { severity, code } of wiringFindings(wiringOf(patch, shelf)))
    if (atLeast(severity, 'harmful')) faults.set(code, (faults.get(code) ?? 0) + 1)
  const silent = levelsOfPatch(patch, shelf).runs.filter(({ stop }) => stop !== undefined).length
  return { faults, silent }
}

/** Whether there is a wiring fault, or a silent run, that was not there. */
const isWorse = (after: Troubles, before: Troubles): boolean =>
  after.silent > before.silent ||
  [...after.faults].some(([code, times]) => times > (before.faults.get(code) ?? 0))
