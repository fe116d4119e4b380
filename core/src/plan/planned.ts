import { balance, settingsOf, worstRatioDb } from '../balance'
import { applyEdits } from '../edits'
import { atLeast, isDead, type Reason } from '../findings'
import { findingsOf, levelsOfPatch, type Run } from '../levels'
import type { Gear, Patch, Shelf } from '../model'
import { cameraId } from './beginnings'
import type { Chain } from './chains'
import { type Drawback, drawbacksOf } from './drawbacks'
import { type Beside, besideCamera, recordedAlong } from './recorded'

/** A scene that was planned: its chain found, its powers on, its controls balanced. */
export interface Planned {
  patch: Patch
  /** Gear that must be bought for it. */
  missing: Gear[]
  /** Boxes between what hears and the camera, by name. */
  through: string[]
  /** A box beside the camera records too. */
  backedUp: boolean
  drawbacks: Drawback[]
  /** Supplies switched on, the ceiling reached first, and what limits the clearness. */
  reasons: Reason[]
  /** Number of findings that are harmful or dead, and of those that are dead. */
  troubles: number
  dead: number
  /** Harmful findings other than noise, of which every recording has its own. */
  harms: number
  /** Largest excess of the loudest moment over a ceiling, dB; 0 if none is exceeded. */
  tooHotDb: number
  /** Boxes behind which an attenuator is missing: what hears, where a box after it is overdriven; that box, where the camera is. */
  tooHotFrom: string[]
  /** Worst speech-to-noise of the recordings that count, dB. */
  worstDb: number
  /** Boxes by id, from each that sound begins in to the last that records it. */
  along: string[][]
  /** Sources that are recorded beside the camera alone. */
  beside: Beside[]
  /** The run that says most about it: the worst recording of the camera. */
  run: Run | undefined
}

/** Findings that say how noisy a recording is. */
const noiseCodes: ReadonlySet<string> = new Set(['hiss', 'place', 'under noise'])
/** Stage evaluations allowed for a first answer. */
const mostEvaluations = 40_000

/** Whether a box beside the camera records too. */
export const hasBackup = (patch: Patch, camera: string, shelf: Shelf): boolean =>
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
    along: recordedAlong(set, levels.runs),
    beside: besideCamera(set, levels.runs),
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
