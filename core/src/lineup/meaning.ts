import type { LineUpFinding } from '../findings'
import { type ClipReading, lastOf, type LineUpReading, positionName, valueOf } from '../model'
import { type Bench, placedBox, positionOf, type ToneWay, toneWays } from './bench'
import { floorsOfWay } from './floors'
import { frontCeiling } from './front-ceiling'
import { readingsOf } from './learn'
import { lawOfControl, mostDistortionDb, readLevel } from './readings'
import { scratchFinding } from './scratch'
import type { LineUpStep } from './step'
import { controlOfWay } from './tone-steps'

/** Readings that say nothing but that they are to be taken once more. */
const voids: ReadonlySet<LineUpFinding['code']> = new Set([
  'no tone',
  'no bursts',
  'falls',
  'outlier',
  'other setting',
  'clipped at source',
  'file clips',
])

/** Whether a reading answers its step, by what it means. */
export const isAnswered = (findings: readonly LineUpFinding[]): boolean =>
  findings.every(({ code }) => !voids.has(code))

/** A level within this of the plan is as planned, dB: the accuracy of reading a meter. */
const agreesDb = 1
const muchOffDb = 3
/** A tone sent within this of the level asked for is as asked, dB. */
const sentDb = 0.25
/** A different position explains a reading when the law comes this close there, dB. */
const otherPositionDb = 0.7
/** A cut tone this far below every planned ceiling was cut before it came here, dB. */
const farFromCeilingDb = 10
/** Peaks within this of their window are as planned, dB: nobody says a line the same way twice. */
const voiceDb = 2
/** A noise floor within this of the plan is as planned, dB. */
const floorDb = 2

/** Findings about the reading of a step, the gravest first. */
export function meaningOf(bench: Bench, step: LineUpStep, reading: LineUpReading): LineUpFinding[] {
  const { result } = reading
  const way = toneWays(bench).find(({ run }) => run.id === step.run)
  if (result.kind === 'seen') return [plain('as planned', step, {})]
  if (result.kind === 'channels') return [scratchFinding(bench, step, result.moved)]
  switch (step.expect.kind) {
    case 'peak':
      return peakMeaning(bench, step, reading, way)
    case 'floor':
      return result.kind === 'clip'
        ? floorMeaning(bench, step, result, way)
        : levelMeaning(bench, step, reading, way)
    case 'automatic':
      return result.kind === 'clip' ? automaticMeaning(step, result) : [plain('no bursts', step, {})]
    case 'trial':
      return []
    case 'mark':
      return markMeaning(bench, step, reading)
    case 'shape':
      return result.kind === 'clip'
        ? shapeMeaning(bench, step, result, reading, way)
        : levelMeaning(bench, step, reading, way)
    default:
      return [
        ...levelMeaning(bench, step, reading, way),
        ...missingStep(bench, step, way),
        ...besideOther(bench, step, reading, way),
      ]
  }
}

const plain = <Code extends LineUpFinding['code']>(
  code: Code,
  { box, run }: LineUpStep,
  figures: Extract<LineUpFinding, { code: Code }>['figures'],
  severity: LineUpFinding['severity'] = 'note',
) => ({ code, severity, subject: { part: box, run }, figures }) as LineUpFinding

/** A level compared with the expected one, and signs in the sound that it cannot be trusted. */
function levelMeaning(
  bench: Bench,
  step: LineUpStep,
  reading: LineUpReading,
  way: ToneWay | undefined,
): LineUpFinding[] {
  const { expect } = step
  const { result } = reading
  if (result.kind === 'clip') {
    const doubt = clipDoubt(bench, step, result, reading, way)
    if (doubt) return [doubt]
  }
  const read = readLevel(bench, step.box, reading)
  if (!read || expect.kind !== 'level') return []
  const law = lawMeaning(bench, step, reading, way)
  if (law.length) return law
  // the first reading of a tone of unknown level is the reference for the others
  if (expect.relative) return [plain('as planned', step, {})]
  const differenceDb = read.levelDbfs - expect.levelDbfs
  if (step.kind === 'send' && Math.abs(differenceDb) > sentDb)
    return [plain('sent otherwise', step, { levelDbfs: read.levelDbfs, differenceDb })]
  const withinDb = Math.max(agreesDb, read.toleranceDb)
  return [
    Math.abs(differenceDb) <= withinDb
      ? plain('as planned', step, { differenceDb })
      : plain(
          'other level',
          step,
          { differenceDb, boxName: step.boxName },
          Math.abs(differenceDb) > muchOffDb ? 'degraded' : 'note',
        ),
  ]
}

/** A level depends on the tone where it is sent, if nobody has checked that. Said once, at the planned position. */
function missingStep(bench: Bench, step: LineUpStep, way: ToneWay | undefined): LineUpFinding[] {
  if (step.kind !== 'tone' || step.why !== 'planned position' || way?.sender === undefined) return []
  const sender = way.run.points[way.sender]!
  const isDone = bench.patch.lineUp.some(({ step: done }) => done === `send ${sender.node}`)
  return isDone ? [] : [plain('missing step', step, { boxName: sender.partName })]
}

/** Readings of the same tone by another box at the planned positions: one sender feeds both. */
function besideOther(
  bench: Bench,
  step: LineUpStep,
  reading: LineUpReading,
  way: ToneWay | undefined,
): LineUpFinding[] {
  if (step.why !== 'planned position' || way?.sender === undefined) return []
  const sender = way.run.points[way.sender]!.node
  const mine = readLevel(bench, step.box, reading)
  return toneWays(bench).flatMap((other) => {
    const { box, boxName } = other.run.end
    const same = other.sender !== undefined && other.run.points[other.sender]!.node === sender
    const positions = positionsOfPlan(bench, other)
    const theirs = bench.patch.lineUp.findLast(({ step: done }) => done === `tone ${box} ${positions}`)
    const read = theirs && readLevel(bench, box, theirs)
    if (!same || box === step.box || !mine || !theirs || !read) return []
    const differenceDb =
      mine.levelDbfs - (reading.playedDbfs ?? 0) - (read.levelDbfs - (theirs.playedDbfs ?? 0))
    return [plain('two cameras', step, { otherName: boxName, differenceDb })]
  })
}

/** The control of a way and where the plan has it, as the steps name it. */
function positionsOfPlan(bench: Bench, way: ToneWay): string {
  const control = controlOfWay(bench, way)
  if (!control) return 'level'
  return `${control.control.id} ${positionOf(placedBox(bench, way.run.end.box), control.control)}`
}

/** Why the tone of a clip does not count: none stands out, or it was cut where the plan has no ceiling. */
function clipDoubt(
  bench: Bench,
  step: LineUpStep,
  clip: ClipReading,
  reading: LineUpReading,
  way: ToneWay | undefined,
): LineUpFinding | undefined {
  if (clip.atFullScale) return plain('file clips', step, { levelDbfs: clip.ceilingDbfs ?? 0 }, 'harmful')
  const pressed = clip.ceilingDbfs !== null || (clip.distortionDb ?? -99) > mostDistortionDb
  if (!pressed)
    return clip.toneDbfs === null
      ? plain('no tone', step, { noiseDbfs: clip.noiseDbfsA ?? clip.speechDbfsA }, 'degraded')
      : undefined
  const levelDbfs = clip.ceilingDbfs ?? clip.toneDbfs ?? clip.peakDbfs ?? 0
  const found = way && frontCeiling(bench, way, reading, { ...clip, ceilingDbfs: levelDbfs })
  if (found?.kind === 'met' && Math.abs(found.ceilingDbu - found.plannedDbu) < farFromCeilingDb) {
    const { ceilingDbfs, ceilingDbu, plannedDbu, shape } = found
    const isNews = Math.abs(ceilingDbu - plannedDbu) > agreesDb
    return plain(
      'hidden overload',
      step,
      { ceilingDbfs, ceilingDbu, plannedDbu, shape },
      isNews && ceilingDbu < plannedDbu ? 'harmful' : 'note',
    )
  }
  return plain('clipped at source', step, { levelDbfs }, 'harmful')
}

/** A reading that the others contradict. */
function lawMeaning(
  bench: Bench,
  step: LineUpStep,
  reading: LineUpReading,
  way: ToneWay | undefined,
): LineUpFinding[] {
  const control = way && controlOfWay(bench, way)
  if (!way || !control) return []
  const { law, readings } = lawOfControl(bench, way, control)
  const index = readings.findIndex((each) => each.reading.id === reading.id)
  const mine = readings[index]
  if (!mine) return []
  const named = (position: number) => positionName(control.control, control.positions[position]!)
  const contradiction = law.contradictions.find((pair) => pair.includes(index))
  if (contradiction) {
    const [low, high] = contradiction
      .map((each) => readings[each]!.position)
      .sort((one, other) => one - other)
      .map(named) as [string, string]
    return [plain('falls', step, { controlName: control.control.name, low, high }, 'degraded')]
  }
  const outlier = law.outliers.find((each) => each.reading === index)
  if (!outlier) return []
  // where the law is well known from the others, the level shows which position it was
  const likely = law.points.findIndex(
    ({ gainDb, toleranceDb }, position) =>
      position !== mine.position &&
      toleranceDb < agreesDb * 2 &&
      Math.abs(gainDb - mine.gainDb) < otherPositionDb,
  )
  return [
    likely >= 0
      ? plain(
          'other setting',
          step,
          { controlName: control.control.name, said: named(mine.position), likely: named(likely) },
          'degraded',
        )
      : plain('outlier', step, { offDb: outlier.offDb }, 'degraded'),
  ]
}

/** The shape of a hot tone at a low record level. */
function shapeMeaning(
  bench: Bench,
  step: LineUpStep,
  clip: ClipReading,
  reading: LineUpReading,
  way: ToneWay | undefined,
): LineUpFinding[] {
  const doubt = clipDoubt(bench, step, clip, reading, way)
  if (doubt) return [doubt]
  const found = way && frontCeiling(bench, way, reading, clip)
  return found?.kind === 'not met' ? [plain('no overload', step, { upToDbu: found.upToDbu })] : []
}

/** The hiss of the box beside what was expected, and what of it cannot be distinguished from outside. */
function floorMeaning(
  bench: Bench,
  step: LineUpStep,
  { noiseDbfsA }: ClipReading,
  way: ToneWay | undefined,
): LineUpFinding[] {
  if (noiseDbfsA === null || step.expect.kind !== 'floor') return []
  const differenceDb = noiseDbfsA - step.expect.noiseDbfsA
  const level =
    Math.abs(differenceDb) <= floorDb
      ? plain('as planned', step, { differenceDb })
      : plain('floor found', step, { noiseDbfsA, differenceDb }, differenceDb > 0 ? 'degraded' : 'note')
  const control = way && controlOfWay(bench, way)
  const muddled =
    way && floorsOfWay(bench, way, readingsOf(bench, step.box, 'floor')).filter(({ toldApart }) => !toldApart)
  const readings = readingsOf(bench, step.box, 'floor')
  // said once, at the newest of them
  if (!control || !muddled?.length || readings.at(-1)?.step !== step.id) return [level]
  // the first amplifier's noise dominates with the control fully up, the converter's with it down
  const front = muddled.some(({ place }) => place.field === 'inputNoiseDbuA')
  const position = front ? lastOf(control.positions) : control.positions[0]!
  return [
    level,
    plain('floor not told apart', step, {
      controlName: control.control.name,
      position: positionName(control.control, position),
      wantsKnownTone: way?.sender === undefined,
    }),
  ]
}

function automaticMeaning(step: LineUpStep, { automatic }: ClipReading): LineUpFinding[] {
  if (!automatic) return [plain('no bursts', step, {}, 'degraded')]
  if (automatic.targetDbfs === null) return [plain('no automatic gain', step, {})]
  const seconds = (ms: number | null) => (ms === null ? null : ms / 1000)
  return [
    plain('automatic gain', step, {
      targetDbfs: automatic.targetDbfs,
      attackS: seconds(automatic.attackMs),
      holdS: seconds(automatic.holdMs),
      releaseS: seconds(automatic.releaseMs),
    }),
  ]
}

function markMeaning(bench: Bench, step: LineUpStep, { result }: LineUpReading): LineUpFinding[] {
  if (step.expect.kind !== 'mark' || result.kind !== 'level') return []
  const { mark: id, markName, levelDbfs } = step.expect
  const mark = placedBox(bench, step.box).gear.meter?.marks.find((each) => each.id === id)
  if (!mark) return []
  const plannedDbfs = valueOf(mark.atDbfs, 0)
  const atDbfs = plannedDbfs + result.levelDbfs - levelDbfs
  return [plain('mark mapped', step, { markName, levelDbfs: atDbfs, plannedDbfs })]
}

/**
 * The peaks of the real voice beside the window that they belong in, or beside the plan where no control may be turned
 * to bring them there. And where the level would have to stand.
 */
function peakMeaning(
  bench: Bench,
  step: LineUpStep,
  { result }: LineUpReading,
  way: ToneWay | undefined,
): LineUpFinding[] {
  if (step.expect.kind !== 'peak') return []
  const peakDbfs =
    result.kind === 'level' ? result.levelDbfs : result.kind === 'clip' ? result.peakDbfs : null
  if (peakDbfs === null) return []
  if (result.kind === 'clip' && (result.ceilingDbfs !== null || result.atFullScale))
    return [
      plain(
        'voice overloads',
        step,
        { levelDbfs: result.ceilingDbfs ?? 0, shape: result.ceilingShape ?? 'flat' },
        'harmful',
      ),
    ]
  const { lowestDbfs, highestDbfs, peakDbfs: plannedDbfs, isFixed } = step.expect
  const [lowest, highest] = isFixed
    ? [Math.min(lowestDbfs, plannedDbfs), Math.max(highestDbfs, plannedDbfs)]
    : [lowestDbfs, highestDbfs]
  if (peakDbfs >= lowest - voiceDb && peakDbfs <= highest + voiceDb)
    return [plain('peaks as planned', step, { peakDbfs })]
  const byDb = (isFixed ? plannedDbfs : (lowestDbfs + highestDbfs) / 2) - peakDbfs
  const suggestion = way && positionFor(bench, way, byDb)
  return [
    plain('peaks off', step, { peakDbfs, byDb, ...suggestion }, peakDbfs > highest ? 'harmful' : 'degraded'),
  ]
}

/** Position of a way's level control for a recording louder by `byDb`. */
function positionFor(bench: Bench, way: ToneWay, byDb: number) {
  const control = controlOfWay(bench, way)
  if (!control) return undefined
  const { box } = placedBox(bench, way.run.end.box)
  const now = control.positions.indexOf(box.settings[control.control.id] ?? control.control.initial)
  const { points } = lawOfControl(bench, way, control).law
  const wanted = points[Math.max(0, now)]!.gainDb + byDb
  const off = ({ gainDb }: { gainDb: number }) => Math.abs(gainDb - wanted)
  const best = points.reduce((one, each, index) => (off(each) < off(points[one]!) ? index : one), 0)
  return {
    controlName: control.control.name,
    position: positionName(control.control, control.positions[best]!),
  }
}
