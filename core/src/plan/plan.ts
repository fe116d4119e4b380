import { advisedCover } from '../acoustics'
import { placeFor } from '../advice'
import { balance, settingsOf, worstRatioDb } from '../balance'
import { applyEdits } from '../edits'
import { type Reason, atLeast, isDead } from '../findings'
import { findingsOf, levelsOfPatch, poorSpeechToNoiseDb, type Run } from '../levels'
import {
  type Gear,
  type Patch,
  type Shelf,
  type Source,
  formatVersion,
  Patch as PatchSchema,
  isPiece,
  thingsOf,
} from '../model'
import { type Chain, ChainBuilder, pluggable } from './chains'
import { type Drawback, drawbacksOf } from './drawbacks'
import { type Begun, between, overRadio, straight } from './joining'
import { briefOf, type Scenario, type ScenarioChoice } from './scenarios'

/** What a scene is heard with: a microphone of the shelf, over a radio or not, or what the camera has built in. */
export type HeardWith = { microphone: Gear; radio?: boolean } | 'built in'

/** The three answers that a scene is planned from. */
export interface Question extends ScenarioChoice {
  camera: Gear
  scenario: Scenario
  heardWith: HeardWith
}

/** A scene that was planned: its chain found, its powers on, its controls balanced. */
export interface Planned {
  patch: Patch
  /** What must be bought for it. */
  missing: Gear[]
  /** Boxes between what hears and the camera, by name. */
  through: string[]
  /** A box beside the camera records too. */
  backedUp: boolean
  drawbacks: Drawback[]
  /** What was switched on, which ceiling is met first, what limits the clearness. */
  reasons: Reason[]
  /** Findings that are at least harmful, and those of them that are dead. */
  troubles: number
  dead: number
  /** The harmful ones that say something else than that it is too noisy: every recording has its own of those. */
  harms: number
  /** How far the loudest moment passes the ceiling that it passes most, dB; 0 where none is passed. */
  tooHotDb: number
  /** Boxes behind which an attenuator is missing: what hears, where a box after it is overdriven; that box, where the camera is. */
  tooHotFrom: string[]
  /** Worst speech-to-noise of the recordings that count, dB. */
  worstDb: number
  /** The run that says most about it: the worst recording of the camera. */
  run: Run | undefined
}

/** Chains of one question that are balanced; the rest are no likelier. */
const mostBalanced = 6
const mostAttenuated = 2
const mostRelieved = 2
/** A box more must leave the voice this much clearer, dB. */
const worthOfBoxDb = 3
const worthOfPieceDb = 0.5
/** A second recording on the way is worth as much, dB. */
const worthOfBackupDb = 1.5
/** With a drawback a microphone must be heard as much clearer: twice as loud. */
const worthOfNoDrawbackDb = 10
/** A boom that must stay out of a wide picture is so far off, m. */
const farM = 1.5
/** Findings that say how noisy a recording is. */
const noiseCodes: ReadonlySet<string> = new Set(['hiss', 'place', 'under noise'])
/** More than this nobody hears, dB. */
const clearDb = 45
/** A balance for a first answer ends after so many stages. */
const mostEvaluations = 40_000

/**
 * The best chain for a question, from what is owned where that does, else with leads, adapters and attenuators to buy,
 * else with boxes too; and the others that were tried: straight into the camera, or by a recorder, mixer or preamplifier
 * between. Empty where nothing on the shelf joins them without harm.
 */
export function planScene(question: Question, shelf: Shelf, cancelled?: () => boolean): Planned[] {
  const { camera, heardWith } = question
  const asked = new Set([camera.id, heardWith === 'built in' ? '' : heardWith.microphone.id])
  const isAtHand = ({ id, owned, kind }: Gear) => owned > 0 || kind === 'desk' || asked.has(id)
  const balancedOnce = onceEach((chain) => balanced(chain, shelf, hasBackup(chain.patch, camera.id, shelf)))
  const from = (isTaken: (gear: Gear) => boolean) =>
    planFrom(question, new Map([...shelf].filter(([, gear]) => isTaken(gear))), balancedOnce, cancelled)
  const owned = from(isAtHand)
  if (owned[0]?.dead === 0 && owned[0].tooHotDb === 0) return owned
  const leads = from((gear) => isAtHand(gear) || isPiece(gear))
  const planned = [...new Set([...owned, ...leads])].sort(byWorth)
  return planned[0]?.dead === 0 ? planned : from(() => true)
}

type BalanceChain = (chain: Chain) => Planned | undefined

/** Balances a chain that was met before no second time: what is owned is met again with what may be bought. */
function onceEach(balanceChain: BalanceChain): BalanceChain {
  const known = new Map<string, Planned | undefined>()
  return (chain) => {
    const key = JSON.stringify(chain.patch)
    if (!known.has(key)) known.set(key, balanceChain(chain))
    return known.get(key)
  }
}

function planFrom(
  question: Question,
  from: Shelf,
  balanceChain: BalanceChain,
  cancelled?: () => boolean,
): Planned[] {
  const backedUp = (patch: Patch) => hasBackup(patch, question.camera.id, from)
  const beginnings = beginningsOf(question, from)
  const chains = chainsFor(question, beginnings, from)
    .sort(
      (one, other) =>
        one.missing.length - other.missing.length ||
        one.through.length - other.through.length ||
        Number(backedUp(other.patch)) - Number(backedUp(one.patch)),
    )
    .slice(0, mostBalanced)
  const planned: Planned[] = []
  for (const chain of chains) {
    if (cancelled?.()) return []
    const found = balanceChain(chain)
    if (found) planned.push(found)
  }
  const [best] = planned.sort(byWorth)
  if (!best) return []
  return [
    ...planned,
    ...attenuated(best, question, beginnings, balanceChain),
    ...relieved(planned, best, question, beginnings, from, balanceChain),
  ].sort(byWorth)
}

/** The plain chain once more, with an attenuator for what is too hot in the best that was found. */
function attenuated(
  best: Planned,
  question: Question,
  beginnings: readonly Begun[],
  balanceChain: BalanceChain,
): Planned[] {
  if (best.tooHotDb === 0 || question.heardWith === 'built in') return []
  const lossDb = best.patch.plan.marginDb + best.tooHotDb
  return beginnings
    .flatMap((begun) => straight(begun, question.camera, { lossDb }))
    .slice(0, mostAttenuated)
    .flatMap((chain) => balanceChain(chain) ?? [])
}

/**
 * What would be clearer than the best, were it not too hot for the box that takes it or, out of that, for the camera:
 * once more with an attenuator there.
 */
function relieved(
  planned: readonly Planned[],
  best: Planned,
  question: Question,
  beginnings: readonly Begun[],
  from: Shelf,
  balanceChain: BalanceChain,
): Planned[] {
  const hot = planned
    .filter(
      ({ dead, tooHotDb, tooHotFrom, worstDb }) =>
        !dead &&
        tooHotDb > 0 &&
        tooHotFrom.length > 0 &&
        (best.tooHotDb > 0 || worstDb > best.worstDb + worthOfBoxDb),
    )
    .sort((one, other) => worthDb(other) - worthDb(one))
    .slice(0, mostRelieved)
  return hot.flatMap((plan) => {
    const used = new Set(plan.patch.boxes.map(({ gear }) => gear))
    const things = thingsOf(from).filter(({ id }) => used.has(id))
    const enoughDb = plan.patch.plan.marginDb + plainlyTooHotDb(plan, planned)
    return beginnings
      .flatMap((begun) => {
        const isFeed = begun.outputs.some(({ box }) => plan.tooHotFrom.includes(box))
        // automatic gain in the camera turns up what comes in softer, so that as much as it is too hot may not do
        const losses = isFeed ? [enoughDb] : [enoughDb, Infinity]
        return losses.flatMap((lossDb) =>
          between(things, begun, question.camera, (box) =>
            plan.tooHotFrom.includes(box) ? { lossDb } : undefined,
          ),
        )
      })
      .flatMap((chain) => balanceChain(chain) ?? [])
  })
}

/** How far a plan is too hot where it is, were there no attenuator yet: the same boxes were planned without. */
const plainlyTooHotDb = (plan: Planned, planned: readonly Planned[]): number => {
  const placeOf = ({ patch, tooHotFrom }: Planned) =>
    JSON.stringify([patch.boxes.map(({ gear }) => gear), tooHotFrom])
  return Math.max(
    ...planned.filter((other) => placeOf(other) === placeOf(plan)).map(({ tooHotDb }) => tooHotDb),
  )
}

/** What is wrong with a plan: its harmful findings, and noise as one more where it makes a recording hard to use, as two where it covers it. */
export const harmOf = ({ harms, worstDb }: Pick<Planned, 'harms' | 'worstDb'>): number =>
  harms + (worstDb < 0 ? 2 : worstDb < poorSpeechToNoiseDb ? 1 : 0)

/** A plan with its worst recording as it counts: less clear with each drawback. */
const asUsed = (plan: Planned): Planned => ({
  ...plan,
  worstDb: plan.worstDb - worthOfNoDrawbackDb * plan.drawbacks.length,
})

/**
 * What is alive first, then what does not distort, for no edit mends that, then what needs nobody, then what is owned, then
 * the clearest with the least on the way.
 */
export const byWorth = (one: Planned, other: Planned): number =>
  one.dead - other.dead ||
  one.tooHotDb - other.tooHotDb ||
  harmOf(asUsed(one)) - harmOf(asUsed(other)) ||
  one.missing.length - other.missing.length ||
  worthDb(asUsed(other)) - worthDb(asUsed(one))

const worthDb = ({ worstDb, through, patch, backedUp }: Planned): number =>
  Math.min(worstDb, clearDb) +
  (backedUp ? worthOfBackupDb : 0) -
  worthOfBoxDb * through.length -
  worthOfPieceDb * patch.links.reduce((sum, { pieces }) => sum + pieces.length, 0)

/** Whether a box beside the camera records too. */
const hasBackup = (patch: Patch, camera: string, shelf: Shelf): boolean =>
  patch.boxes.some(
    ({ gear }) =>
      gear !== camera &&
      shelf.get(gear)?.strips.some(({ stages }) => stages.some(({ kind }) => kind === 'recording')),
  )

/** A chain with its powers on and its controls at their best positions. */
export function balanced(
  { patch, missing, through }: Chain,
  shelf: Shelf,
  backedUp: boolean,
): Planned | undefined {
  const found = balance(patch, shelf, undefined, mostEvaluations)
  if (!found) return undefined
  const set = applyEdits(patch, settingsOf(found.changes), shelf)
  const levels = levelsOfPatch(set, shelf)
  const findings = findingsOf(levels, { plan: set.plan, balanced: true, patch: set })
  const recorded = levels.runs.filter(({ end, spill }) => end.kind === 'recording' && !spill)
  const onCamera = recorded.filter(({ end }) => end.gearKind === 'camera')
  const [run] = [...(onCamera.length ? onCamera : recorded)].sort(
    (one, other) => one.speechToNoiseDb - other.speechToNoiseDb,
  )
  return {
    patch: set,
    missing,
    through,
    backedUp,
    drawbacks: drawbacksOf(patch, shelf),
    reasons: found.reasons,
    troubles: findings.filter(({ severity }) => atLeast(severity, 'harmful')).length,
    dead: findings.filter(isDead).length,
    harms: findings.filter(({ severity, code }) => atLeast(severity, 'harmful') && !noiseCodes.has(code))
      .length,
    tooHotDb: Math.max(
      0,
      ...findings.flatMap((each) =>
        each.code === 'ceiling' && each.severity === 'harmful' ? [-each.figures.headroomDb] : [],
      ),
    ),
    tooHotFrom: [...new Set(recorded.flatMap((each) => attenuatorNeededBehind(each, patch)))],
    worstDb: worstRatioDb(found.after),
    run,
  }
}

/** What a run comes out of before the box whose ceiling it passes; nothing where it passes one where it enters, or goes straight into the camera. */
function attenuatorNeededBehind({ entry, tightest, points }: Run, { links }: Patch): string[] {
  if (!tightest || tightest.ceiling.headroomDb >= 0) return []
  const { part } = points[tightest.point]!
  if (part === entry.part) return []
  if (part !== cameraId) return [entry.part]
  return links.flatMap(({ from, to }) => (to.box === cameraId && from.box !== entry.part ? [from.box] : []))
}

/** Every chain that joins what hears the scene to the camera, not yet balanced. */
function chainsFor({ camera, heardWith }: Question, beginnings: readonly Begun[], shelf: Shelf): Chain[] {
  return beginnings.flatMap((each) =>
    heardWith === 'built in'
      ? [each.builder.done()]
      : [...straight(each, camera), ...between(thingsOf(shelf), each, camera)],
  )
}

/** What hears the scene, as far as a wire or a radio brings it. */
function beginningsOf(question: Question, shelf: Shelf): Begun[] {
  const start = startOf(question, shelf)
  return question.heardWith !== 'built in' && question.heardWith.radio ? overRadio(start, shelf) : [start]
}

const cameraId = 'camera'

/** The brief, the camera, a microphone for anyone who needs one, and the desk where there is one. */
function startOf({ camera, scenario, heardWith, ...choice }: Question, shelf: Shelf): Begun {
  const brief = briefOf(scenario, camera, choice)
  const acoustic = brief.sources.filter(({ kind }) => kind !== 'line')
  const microphone = heardWith === 'built in' ? undefined : heardWith.microphone
  const mount = microphone?.mount ?? 'boom'
  const eachOwn = microphone && (mount === 'worn' || mount === 'hand')
  const voices: (Source | undefined)[] = !microphone ? [] : eachOwn ? acoustic : acoustic.slice(0, 1)
  const places = microphone
    ? voices.map((voice, index) =>
        placeFor(brief, mount, {
          id: `place-${index + 1}`,
          own: eachOwn ? voice?.id : undefined,
          boomM: scenario.boomM ?? (choice.far ? farM : undefined),
        }),
      )
    : [placeFor(brief, 'camera', { id: 'place-1' })]
  const own = [camera].filter(({ id }) => !shelf.has(id))
  const bare = PatchSchema.parse({
    format: 'iron-hush/patch',
    version: formatVersion,
    name: scenario.name,
    brief: { ...brief, places },
    gear: own,
    boxes: [
      { id: cameraId, gear: camera.id, ...(microphone ? {} : { place: 'place-1' }) },
      ...(microphone
        ? places.map(({ id }, index) => ({
            id: places.length > 1 ? `microphone-${index + 1}` : 'microphone',
            gear: microphone.id,
            place: id,
            cover: advisedCover[brief.wind],
          }))
        : []),
    ],
    links: [],
    plan: { counts: 'both good' },
  })
  let builder = new ChainBuilder(bare, shelf)
  const outputs = bare.boxes
    .slice(1)
    .map(({ id }) => ({ box: id, port: pluggable(microphone!, 'out')[0]?.id ?? '' }))
  const feed = brief.sources.find(({ kind }) => kind === 'line')
  const desk = [...shelf.values()].find(({ kind }) => kind === 'desk')
  if (feed && desk) {
    const placed = builder.add(desk, { source: feed.id })
    builder = new ChainBuilder(placed.builder.patch, shelf)
    outputs.unshift({ box: placed.id, port: pluggable(desk, 'out')[0]!.id })
  }
  return {
    builder,
    camera: cameraId,
    outputs,
    by: mount === 'worn' || mount === 'camera' ? undefined : 'lead',
  }
}
