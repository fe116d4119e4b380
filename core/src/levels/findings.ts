import { bySeverity, type Hiss, type LevelFigures, type LevelFinding, type Loudest } from '../findings'
import { type Patch, type Plan, trackKey } from '../model'
import { shownDb } from '../units'
import { echoOverVoiceDb } from './echo'
import type { Levels } from './levels'
import type { Point, Run } from './run'
import { leadingNowhere, softer, unrecorded } from './recorded-sources'
import { whereItStops } from './where-it-stops'
import { fairSpeechToNoiseDb, poorSpeechToNoiseDb } from './thresholds'
import { type Asked, askedOf, outsideDb, safeListeningDbSpl, softListeningDbSpl } from './window'

/** What findings need beside the levels: the plan, and whether the controls are balanced. */
export interface FindingContext {
  plan: Plan
  wantedSpeechToNoiseDb?: number
  balanced?: boolean
  /** The patch whose sources must all be recorded; left out: only runs are examined. */
  patch?: Pick<Patch, 'brief' | 'boxes' | 'links'>
}

/** Findings about the levels of every run, worst first. */
export function findingsOf(levels: Levels, context: FindingContext): LevelFinding[] {
  const asked = askedOfRuns(levels.runs, context.plan)
  const all = [
    ...(context.patch ? unrecorded(levels, context.patch) : []),
    ...(context.patch ? leadingNowhere(levels, context.patch) : []),
    ...softer(levels),
    ...levels.runs.flatMap((run) => new RunFindings(run, context, asked.get(endOf(run))).list),
  ]
  return all.sort(bySeverity)
}

const endOf = ({ end }: Run) => trackKey(end)

/** Requirements of the plan for every recording. */
export function askedOfRuns(runs: readonly Run[], plan: Plan): Map<string, Asked> {
  const ends = new Map(runs.flatMap((run) => (run.end.kind === 'recording' ? [[endOf(run), run]] : [])))
  const asked = askedOf(
    plan,
    [...ends.values()].map(({ end: { gearKind, aim }, points }) => ({
      gearKind,
      aim,
      automatic: points.some(({ automatic }) => automatic),
    })),
  )
  return new Map([...ends.keys()].map((key, index) => [key, asked[index]!]))
}

/** Findings of one run, as they are made. */
class RunFindings {
  readonly list: LevelFinding[] = []
  private readonly track: string

  constructor(
    private readonly run: Run,
    private readonly context: FindingContext,
    private readonly asked: Asked | undefined,
  ) {
    this.track = `${run.end.boxName}, ${run.end.name}`
    if (this.findStop()) return
    this.findCeiling()
    this.findSums()
    if (run.end.kind === 'listen') this.findEars()
    else {
      if (!run.spill) {
        this.findNoise()
        this.findEcho()
      }
      this.findWindow()
      this.findPauses()
    }
  }

  private find<Code extends LevelFinding['code']>(
    severity: LevelFinding['severity'],
    code: Code,
    part: string,
    figures: LevelFigures[Code],
  ): void {
    // the signature ties each code to its figures
    this.list.push({ severity, code, subject: { run: this.run.id, part }, figures } as LevelFinding)
  }

  /** Nothing arrives: the wiring says why, or everything cancels. */
  private findStop(): boolean {
    const { run, track } = this
    const silent = whereItStops(run)
    if (!silent) return false
    const { part, partName, name } = silent
    this.find('dead', 'level', part, {
      source: run.source.name,
      track,
      stop: run.stop?.finding,
      stopsAt: { partName, name },
    })
    return true
  }

  private findCeiling(): void {
    const { run, context, track } = this
    if (!run.tightest) return
    const { ceiling } = run.tightest
    const point = run.points[run.tightest.point]!
    const { headroomDb, shape, levelDb } = ceiling
    const over = headroomDb < -shownDb
    if (!over && headroomDb >= context.plan.marginDb - shownDb) return
    this.find(
      over ? (this.asked?.ceilings === false ? 'note' : 'harmful') : 'degraded',
      'ceiling',
      point.part,
      {
        point: placeOf(point),
        track,
        headroomDb,
        marginDb: context.plan.marginDb,
        loudest: loudestIn(run),
        shape,
        ceilingDb: levelDb,
        unit: unitOf(point, ceiling.at),
        canTurnDown: this.canTurnDown(run.tightest.point),
        entry: run.entry.name,
        balanced: context.balanced ?? false,
      },
    )
  }

  private canTurnDown(point: number): boolean {
    return point > 0 && this.run.points.slice(0, point + 1).some(({ controls }) => controls.length > 0)
  }

  /** The same voice by several ways into one track: it cancels, or its treble goes through a comb. */
  private findSums(): void {
    const { run, track } = this
    const source = run.source.name
    for (const { joinedDb, part } of run.points)
      if (joinedDb !== undefined && joinedDb < cancellingDb)
        this.find('harmful', 'sum', part, { source, track, lostDb: -joinedDb })
    const [first, ...later] = [...run.ways].sort((one, other) => one.laterMs - other.laterMs)
    for (const { db, laterMs } of later) {
      const apartDb = Math.abs(db - first!.db)
      if (apartDb > combDb || laterMs < 0.05) continue
      const ratio = 10 ** (-apartDb / 20)
      this.find(apartDb < plainCombDb ? 'degraded' : 'note', 'sum', run.end.box, {
        source,
        track,
        laterMs,
        apartDb,
        dipDb: 20 * Math.log10((1 + ratio) / Math.max(1e-3, 1 - ratio)),
      })
    }
  }

  private findEars(): void {
    const { box, boxName } = this.run.end
    const levelDbSpl = earDbSpl(this.run)
    const ears = { box: boxName, levelDbSpl }
    if (levelDbSpl > safeListeningDbSpl)
      this.find('harmful', 'ears', box, { ...ears, limitDbSpl: safeListeningDbSpl, tooLoud: true })
    else if (levelDbSpl < softListeningDbSpl)
      this.find('note', 'ears', box, { ...ears, limitDbSpl: softListeningDbSpl, tooLoud: false })
  }

  private findNoise(): void {
    const { run, context, track } = this
    const { speechToNoiseDb, overBoxesDb, entry } = run
    const { name: source, kind } = run.source
    const hiss = hissOf(run)
    const noisiest = run.shares[0]?.node.split('.')[0]
    const byPlace = overBoxesDb - speechToNoiseDb > 3
    const mostlyWind = run.atSource.placeNoise - run.atSource.wind < 3
    const wantedDb = context.wantedSpeechToNoiseDb ?? 0
    const failing = speechToNoiseDb < wantedDb - shownDb
    if (failing)
      this.find(
        this.asked?.counts === false ? 'degraded' : 'harmful',
        'under noise',
        byPlace ? entry.part : (noisiest ?? entry.part),
        { source, kind, track, speechToNoiseDb, wantedDb, byPlace, overBoxesDb, mostlyWind, hiss },
      )
    if (overBoxesDb < fairSpeechToNoiseDb && noisiest && !(failing && !byPlace))
      this.find(overBoxesDb < poorSpeechToNoiseDb ? 'harmful' : 'degraded', 'hiss', noisiest, {
        source,
        track,
        overBoxesDb,
        hiss,
      })
    if (byPlace && !failing && speechToNoiseDb < fairSpeechToNoiseDb)
      this.find('note', 'place', entry.part, { kind, track, speechToNoiseDb, overBoxesDb, mostlyWind })
  }

  private findEcho(): void {
    const { run, track } = this
    const overVoiceDb = echoOverVoiceDb(run)
    if (overVoiceDb <= shownDb) return
    // a second recording for safety, or of the room itself, may be far away
    const severity = this.asked?.counts === false ? 'note' : 'degraded'
    this.find(severity, 'echo', run.entry.part, { source: run.source.name, track, overVoiceDb })
  }

  private findWindow(): void {
    const { run, context, asked, track } = this
    const window = asked?.window
    const outside = outsideDb(window, run.peakDb)
    if (!window || outside <= shownDb || run.peakDb > 0) return
    this.find(outside > 12 ? 'degraded' : 'note', 'window', run.end.box, {
      track,
      peakDbfs: run.peakDb,
      outsideDb: outside,
      ...window,
      peakTarget: context.plan.peakTarget,
      balanced: context.balanced ?? false,
    })
  }

  private findPauses(): void {
    const { run, track } = this
    if (run.pauseRiseDb <= 3) return
    const point = run.points.find(({ automatic }) => automatic)
    this.find('degraded', 'pauses', point?.part ?? run.end.box, {
      track,
      riseDb: run.pauseRiseDb,
      held: run.points.some(({ heldDb }) => heldDb !== undefined),
      hotterHelps: hotterHelps(run),
    })
  }
}

/** A point by the names of its box and of itself, as a sentence has it. */
export const placeOf = ({ partName, name }: Pick<Point, 'partName' | 'name'>): string =>
  `${partName}, ${name.toLowerCase()}`

/** The origin of the hiss, and the remedy that follows from it. */
function hissOf(run: Run): Hiss {
  const [biggest] = run.shares
  const at = run.points.findIndex(({ node }) => node === biggest?.node)
  const point = run.points[at]
  const share = biggest && { partName: biggest.partName, name: biggest.name, share: biggest.share }
  if (!point || point.kind === 'transducer')
    return { biggest: share, remedy: { kind: 'microphone', name: biggest?.partName ?? 'the microphone' } }
  const canRaise = run.points.slice(0, at).some(({ controls }) => controls.length > 0)
  const { partName, name } = point
  return { biggest: share, remedy: { kind: canRaise ? 'gain before' : 'nothing before', partName, name } }
}

/** Two paths of one voice cancel when their sum is this far below one of them alone, dB. */
const cancellingDb = -6
/** A second path this far below the first is inaudible as a comb filter, dB. */
const combDb = 20
/** A second path this close to the first is an obvious comb filter, dB. */
const plainCombDb = 10

/** Whether more level into automatic gain would leave the voice clearer: most of the noise arises at it or behind it. */
function hotterHelps(run: Run): boolean {
  const at = run.points.findIndex(({ automatic }) => automatic)
  const [before, point] = [run.points[at - 1], run.points[at]]
  if (!before || !point) return false
  const part = point.part
  const first = run.points.findIndex((each) => each.part === part)
  const entering = run.points[first - 1]
  if (!entering) return false
  // noise that enters with the voice is raised with it; only the box's own noise stays
  return (
    before.noiseWithPlaceDb - before.gainFromSourceDb >
    entering.noiseWithPlaceDb - entering.gainFromSourceDb + 3
  )
}

/** What is loudest at the run's tightest point: the source itself, another one, or the place. */
export function loudestIn(run: Run): Loudest {
  const { tightest } = run
  const point = tightest && run.points[tightest.point]
  if (!point) return 'source'
  if (tightest.ceiling.onset) return 'first word after a pause'
  if (point.placePeakDb > point.peakDb.loudest) return 'place'
  return point.wholePeakDb - point.peakDb.loudest > 6 ? 'all together' : 'source'
}

/** Typical level at the ear, dB SPL. For a run that ends in headphones. */
export const earDbSpl = (run: Run): number => run.typicalDb

function unitOf({ domain, kind }: Point, at: 'input' | 'output'): string {
  if (at === 'input' && kind === 'converter-in') return 'dBu'
  if (at === 'input' && kind === 'transducer') return 'dB SPL'
  if (at === 'input' && kind === 'converter-out') return 'dBFS'
  return { volts: 'dBu', digital: 'dBFS', pressure: 'dB SPL' }[domain]
}
