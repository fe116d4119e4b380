import { fittingEdits, fittingPieces, wiringFindings, wiringOf } from '../circuit'
import { graphOf, levelsOfGraph, levelsOfPatch, type Run, whereItStops } from '../levels'
import { applyEdits, type Edit, type Gear, type Patch, Refusal, School, type Shelf, shelfFor } from '../model'
import { balance, controlsOfPatch, freeControls, settingsOf } from './balance'
import { compareScores, type Score, tenths } from './objective'

/** Something that would make the best settings better, with the settings that then are best. */
export interface Cure {
  /** What to do, in a few words. */
  what: string
  /** Of what kind: a demand that is given up, a control that is freed, a thing put in, or one put in another's place. */
  kind: 'demand' | 'unlock' | 'insert' | 'swap'
  /** Money for what is not owned; 0 for what is, undefined where no price is known. */
  price: number | undefined
  /** The thing, where there is one. */
  thing?: Gear
  fits: boolean
  before: Score
  after: Score
  /** The change and the settings that go with it. */
  edits: Edit[]
}

/** Less is not worth a purchase, a plug or a demand. */
const worthDb = 1

interface Candidate {
  what: string
  kind: Cure['kind']
  thing?: Gear
  edits: Edit[]
}

/**
 * What would cure a chain that no setting of its controls makes good, or make it better: each candidate is put in, the
 * whole is balanced again, and what wins at least a decibel stays. Nothing is taken from a table of remedies: a pad, a
 * microphone that stands more and a demand given up are all tried the same way.
 *
 * @param told calls back with each as it is found, and with the share that was tried
 * @returns all of them, best first; undefined when cancelled
 */
export function curesOf(
  patch: Patch,
  shelf: Shelf,
  {
    cancelled = () => false,
    told,
  }: { cancelled?: () => boolean; told?: (share: number, cure?: Cure) => void } = {},
): Cure[] | undefined {
  const now = balance(patch, shelf, cancelled)
  if (!now) return undefined
  const all = candidates(patch, shelf, troubled(now.levels.runs, patch))
  const cures: Cure[] = []
  for (const [index, candidate] of all.entries()) {
    if (cancelled()) return undefined
    const cure = tried(patch, shelf, candidate, now.after, cancelled)
    if (cure) cures.push(cure)
    told?.((index + 1) / all.length, cure)
  }
  return cures.sort(byWorth)
}

/** What fits first, then what costs less, then what leaves the voice clearer. */
export const byWorth = (one: Cure, other: Cure): number =>
  Number(other.fits) - Number(one.fits) ||
  (one.price ?? Infinity) - (other.price ?? Infinity) ||
  compareScores(one.after, other.after)

/** Runs that break a demand; where none does, the one in which the voice stands least over the noise. */
function troubled(runs: readonly Run[], patch: Patch): Run[] {
  const recorded = runs.filter((run) => run.end.kind === 'recording' && !whereItStops(run))
  const over = recorded.filter(
    ({ tightest }) => tightest && tenths(tightest.ceiling.headroomDb) < tenths(patch.plan.marginDb),
  )
  if (over.length) return over
  const [worst] = [...recorded].sort((one, other) => one.speechToNoiseDb - other.speechToNoiseDb)
  return worst ? [worst] : []
}

function tried(
  patch: Patch,
  shelf: Shelf,
  { what, kind, thing, edits }: Candidate,
  before: Score,
  cancelled: () => boolean,
): Cure | undefined {
  let next: Patch
  try {
    next = applyEdits(patch, edits, shelf)
  } catch (error) {
    if (error instanceof Refusal) return undefined
    throw error
  }
  if (newHarm(patch, next, shelf)) return undefined
  const found = balance(next, shelf, cancelled)
  if (!found) return undefined
  const fitted = tenths(before.overDb) === 0 && tenths(before.outsideDb) === 0
  const nearer = before.overDb - found.after.overDb + (before.outsideDb - found.after.outsideDb)
  const clearer = found.after.speechToNoiseDb - before.speechToNoiseDb
  if (fitted ? !found.fits || clearer < worthDb : !found.fits && nearer < worthDb) return undefined
  return {
    what,
    kind,
    thing,
    price: !thing || thing.owned > 0 ? 0 : thing.price,
    fits: found.fits,
    before,
    after: found.after,
    edits: [...edits, ...settingsOf(found.changes)],
  }
}

/** Whether a change brings a wiring fault that was not there. */
function newHarm(before: Patch, after: Patch, shelf: Shelf): boolean {
  const faults = (patch: Patch) =>
    new Set(
      wiringFindings(wiringOf(patch, shelf)).flatMap(({ severity, link, about }) =>
        severity === 'dead' || severity === 'harmful' ? [`${link} ${about}`] : [],
      ),
    )
  const known = faults(before)
  if ([...faults(after)].some((fault) => !known.has(fault))) return true
  const silent = (patch: Patch) =>
    levelsOfPatch(patch, shelf).runs.filter((run) => whereItStops(run) !== undefined).length
  return silent(after) > silent(before)
}

function candidates(patch: Patch, shelf: Shelf, runs: readonly Run[]): Candidate[] {
  const all = shelfFor(patch, shelf)
  const parts = new Set(runs.flatMap(({ points }) => points.map(({ part }) => part)))
  const nameOf = (part: string) => {
    const box = patch.boxes.find(({ id }) => id === part)
    const piece = patch.links.flatMap(({ through }) => through).find(({ id }) => id === part)
    return box?.name ?? all.get((box ?? piece)!.gear)!.name
  }

  const graph = graphOf(patch, shelf)
  const movable = new Set(
    freeControls(
      graph,
      { ...patch, boxes: patch.boxes.map(unlocked), links: patch.links.map(unlockedLink) },
      shelf,
    ).map(({ key }) => key),
  )
  const reached = levelsOfGraph(graph, (key) => graph.settings.get(key)!).reach
  const unlocks = controlsOfPatch(patch, shelf)
    .filter(
      ({ key, locked }) =>
        locked && movable.has(key) && reached[key]?.some((id) => runs.some((run) => run.id === id)),
    )
    .map(({ key, control }): Candidate => {
      const [part] = key.split('.') as [string]
      return {
        what: `Unlock ${control.name} of ${nameOf(part)}`,
        kind: 'unlock',
        edits: [{ kind: 'lock control', part, control: control.id, locked: false }],
      }
    })

  const inserts = patch.links
    .filter((link) => parts.has(link.from.box) && parts.has(link.to.box))
    .flatMap((link) =>
      fittingPieces(link, patch, shelf)
        .filter(({ gear }) => attenuates(gear))
        .map((fitting): Candidate => {
          const last = link.through.at(-1)
          return {
            what: `${fitting.gear.name} ${fitting.replaces && last ? `in place of ${nameOf(last.id)}` : 'put in'} between ${nameOf(link.from.box)} and ${nameOf(link.to.box)}`,
            kind: 'insert',
            thing: fitting.gear,
            edits: fittingEdits(fitting, link, patch),
          }
        }),
    )

  const swaps = patch.boxes
    .filter(({ id }) => parts.has(id))
    .flatMap(({ id, gear }) => {
      const { kind } = all.get(gear)!
      // another camera is another film, and the desk belongs to the house
      if (kind === 'camera' || kind === 'desk') return []
      return [...all.values()]
        .filter((thing) => thing.kind === kind && thing.id !== gear)
        .map((thing): Candidate => ({
          what: `${thing.name} in place of ${nameOf(id)}`,
          kind: 'swap',
          thing,
          edits: [{ kind: 'swap', part: id, gear: thing.id }],
        }))
    })

  const { plan } = patch
  const demands: Candidate[] = [
    ...School.options
      .filter((school) => school !== plan.school)
      .map((school): Candidate => ({
        what: `Peaks as the ${school} school has them`,
        kind: 'demand',
        edits: [{ kind: 'change plan', to: { ...plan, school } }],
      })),
    ...(plan.marginDb > 0
      ? [plan.marginDb / 2].map((marginDb): Candidate => ({
          what: `A margin of ${marginDb.toFixed(1)} dB in place of ${plan.marginDb.toFixed(1)}`,
          kind: 'demand',
          edits: [{ kind: 'change plan', to: { ...plan, marginDb } }],
        }))
      : []),
    ...(['recorder first', 'camera only'] as const)
      .filter(() => plan.keeper === 'both good')
      .map((keeper): Candidate => ({
        what: keeper === 'camera only' ? 'Let only the camera count' : 'Let the recorder count first',
        kind: 'demand',
        edits: [{ kind: 'change plan', to: { ...plan, keeper } }],
      })),
  ]
  const costs = ({ thing }: Candidate) => (!thing || thing.owned > 0 ? 0 : (thing.price ?? Infinity))
  return [...unlocks, ...demands, ...[...inserts, ...swaps].sort((one, other) => costs(one) - costs(other))]
}

/** Whether a piece has resistances that take level away, in any of its positions. */
function attenuates({ passive }: Gear): boolean {
  const ladder = passive?.ladder ?? []
  return (Array.isArray(ladder) ? [ladder] : Object.values(ladder.at)).some((rungs) => rungs.length > 0)
}

const unlocked = <T extends { locked: string[] }>(part: T): T => ({ ...part, locked: [] })
const unlockedLink = (link: Patch['links'][number]): Patch['links'][number] => ({
  ...link,
  through: link.through.map(unlocked),
})
