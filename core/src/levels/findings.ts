import type { Patch, Plan } from '../model'
import {
  decibels,
  fairSpeechToNoiseDb,
  type Finding,
  percent,
  poorSpeechToNoiseDb,
  severities,
  type Severity,
  shownDb,
  signed,
} from './finding'
import type { Ceiling, Levels, Point, Run } from './run'
import {
  type Asked,
  askedOf,
  onsetMarginDb,
  outsideDb,
  safeListeningDbSpl,
  softListeningDbSpl,
} from './window'

/** What is asked of a scene beside its plan, and whether its controls stand where Balance puts them. */
export interface FindingContext {
  plan: Plan
  wantedSpeechToNoiseDb?: number
  balanced?: boolean
  /** Whose sources must all be recorded; left out: only what runs is looked at. */
  patch?: Pick<Patch, 'brief' | 'boxes'>
}

/** What the levels of every run have to say, worst first. */
export function findingsOf(levels: Levels, context: FindingContext): Finding[] {
  const asked = askedOfRuns(levels.runs, context.plan)
  const all = [
    ...(context.patch ? unrecorded(levels, context.patch) : []),
    ...levels.runs.flatMap((run) => new RunFindings(run, context, asked.get(endOf(run))).list),
  ]
  return all.sort((one, other) => severities.indexOf(other.severity) - severities.indexOf(one.severity))
}

/** Sources of the brief that no way leads from to a recording. One that is stopped on its way has its own finding. */
function unrecorded({ runs }: Levels, { brief, boxes }: NonNullable<FindingContext['patch']>): Finding[] {
  const recorded = new Set(runs.flatMap(({ source, end }) => (end.kind === 'recording' ? [source.id] : [])))
  return brief.sources
    .filter(({ id }) => !recorded.has(id))
    .map(({ id, name, kind }): Finding => {
      const hears = new Set(
        brief.places
          .filter((place) => place.hears.some(({ source }) => source === id))
          .map((place) => place.id),
      )
      const picked = boxes.some(({ source, place }) =>
        kind === 'line' ? source === id : place !== undefined && hears.has(place),
      )
      const [why, remedy] = picked
        ? ['What picks it up leads to no recording.', 'Connect it to a recorder or a camera.']
        : kind === 'line'
          ? [
              'No box of the chain is fed by it.',
              'Name it as the source of the desk or player that gives it.',
            ]
          : ['No microphone stands at a place that hears it.', 'Give a microphone such a place.']
      return {
        severity: 'dead',
        about: 'unrecorded',
        run: '',
        part: '',
        what: `${name} is not recorded.`,
        why,
        remedy,
      }
    })
}

const endOf = ({ end }: Run) => `${end.box}.${end.track}`

/** What the plan asks of every recording that runs end in. */
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
  readonly list: Finding[] = []
  private readonly where: string

  constructor(
    private readonly run: Run,
    private readonly context: FindingContext,
    private readonly asked: Asked | undefined,
  ) {
    this.where = `${run.end.boxName}, ${run.end.name}`
    if (this.findStop()) return
    this.findCeiling()
    this.findSums()
    if (run.end.kind === 'listen') this.findEars()
    else {
      this.findNoise()
      this.findWindow()
      this.findPauses()
    }
  }

  private find(
    severity: Severity,
    about: Finding['about'],
    part: string,
    what: string,
    why: string,
    remedy: string,
  ): void {
    this.list.push({ severity, about, run: this.run.id, part, what, why, remedy })
  }

  /** Nothing arrives: the wiring says why, or everything cancels. */
  private findStop(): boolean {
    const { run } = this
    const silent = whereItStops(run)
    if (!silent) return false
    this.find(
      'dead',
      'level',
      silent.part,
      `Nothing of ${run.source.name} arrives on ${this.where}.`,
      run.stop ? run.stop.what : `It stops at ${silent.partName}, ${silent.name.toLowerCase()}.`,
      run.stop ? run.stop.remedy : 'Patch shows the contacts there, and finds a way.',
    )
    return true
  }

  private findCeiling(): void {
    const { run, context } = this
    if (!run.tightest) return
    const { ceiling } = run.tightest
    const point = run.points[run.tightest.point]!
    const place = `${point.partName}, ${point.name.toLowerCase()}`
    if (ceiling.headroomDb < -shownDb)
      this.find(
        this.asked?.ceilings === false ? 'note' : 'harmful',
        'ceiling',
        point.part,
        `${loudestIn(run)} ${overloads(ceiling.shape)} at ${place}, ${decibels(-ceiling.headroomDb)} too hot.`,
        `Peaks reach ${signed(ceiling.levelDb - ceiling.headroomDb)} and the ceiling is ${signed(ceiling.levelDb)} ${unitOf(point, ceiling.at)}.`,
        this.canTurnDown(run.tightest.point)
          ? 'Bring the level down before that point; what comes after it cannot mend it.'
          : `No control before it can help: move ${run.entry.name} farther off, or use one that stands more.`,
      )
    else if (ceiling.headroomDb < askedMarginDb(ceiling, context.plan) - shownDb)
      this.find(
        'degraded',
        'ceiling',
        point.part,
        `Only ${decibels(ceiling.headroomDb)} of headroom at ${place}, on the way to ${this.where}.`,
        `The plan asks for ${decibels(context.plan.marginDb)} over the loudest peak.`,
        context.balanced
          ? 'No setting does better: a pad or another box before it may.'
          : 'Turn down what comes before it, or press Balance.',
      )
  }

  private canTurnDown(point: number): boolean {
    return point > 0 && this.run.points.slice(0, point + 1).some(({ controls }) => controls.length > 0)
  }

  /** The same voice by several ways into one track: it cancels, or its treble goes through a comb. */
  private findSums(): void {
    const { run } = this
    for (const point of run.points)
      if (point.joinedDb !== undefined && point.joinedDb < cancellingDb)
        this.find(
          'harmful',
          'sum',
          point.part,
          `Two ways of ${run.source.name} cancel on ${this.where}.`,
          `Where they meet, ${decibels(-point.joinedDb)} are lost: they arrive with opposite polarity.`,
          'Turn one of them over, or leave one out.',
        )
    const [first, ...later] = [...run.ways].sort((one, other) => one.laterMs - other.laterMs)
    for (const way of later) {
      const apartDb = Math.abs(way.db - first!.db)
      if (apartDb > combDb || way.laterMs < 0.05) continue
      const ratio = 10 ** (-apartDb / 20)
      this.find(
        apartDb < plainCombDb ? 'degraded' : 'note',
        'sum',
        run.end.box,
        `Two ways of ${run.source.name} reach ${this.where} ${way.laterMs.toFixed(1)} ms apart: it sounds hollow.`,
        `Every ${(1000 / way.laterMs).toFixed(0)} Hz a dip of ${decibels(20 * Math.log10((1 + ratio) / Math.max(1e-3, 1 - ratio)))} (comb filtering); the second way lies ${decibels(apartDb)} off the first.`,
        'Record them on tracks of their own, or turn one well down.',
      )
    }
  }

  private findEars(): void {
    const { run } = this
    const level = earDbSpl(run)
    if (level > safeListeningDbSpl)
      this.find(
        'harmful',
        'ears',
        run.end.box,
        `${level.toFixed(0)} dB SPL at the ear from ${run.end.boxName} at typical speech.`,
        `More than ${safeListeningDbSpl} dB harms hearing over a working day, and lost hearing does not come back.`,
        'Turn the headphone level down before putting them on.',
      )
    else if (level < softListeningDbSpl)
      this.find(
        'note',
        'ears',
        run.end.box,
        `Only ${level.toFixed(0)} dB SPL at the ear from ${run.end.boxName} at typical speech: too soft to judge by.`,
        `Under ${softListeningDbSpl} dB, hiss and rustle hide under the room you stand in.`,
        'Turn the headphone level up, or use headphones that are louder for the same voltage.',
      )
  }

  private findNoise(): void {
    const { run, context } = this
    const [biggest] = run.shares
    const blame = biggest
      ? `${biggest.partName}, ${biggest.name.toLowerCase()} makes ${percent(biggest.share)} of the hiss`
      : 'the boxes add nothing'
    const byPlace = run.overBoxesDb - run.speechToNoiseDb > 3
    const wanted = context.wantedSpeechToNoiseDb ?? 0
    const failing = run.speechToNoiseDb < wanted - shownDb
    if (failing)
      this.find(
        this.asked?.counts === false ? 'degraded' : 'harmful',
        'under noise',
        byPlace ? run.entry.part : (biggest?.node.split('.')[0] ?? run.entry.part),
        run.speechToNoiseDb < 0
          ? `The noise on ${this.where} is louder than ${run.source.name}: speech-to-noise ${decibels(run.speechToNoiseDb)}.`
          : `Speech-to-noise of ${run.source.name} on ${this.where} is ${decibels(run.speechToNoiseDb)}; the brief asks for ${decibels(wanted)}.`,
        byPlace
          ? `The place makes it: the boxes alone would leave ${decibels(run.overBoxesDb)}.`
          : `Of the noise of the boxes, ${blame}.`,
        byPlace ? this.placeRemedy() : this.hissRemedy(),
      )
    if (run.overBoxesDb < fairSpeechToNoiseDb && biggest && !(failing && !byPlace))
      this.find(
        run.overBoxesDb < poorSpeechToNoiseDb ? 'harmful' : 'degraded',
        'hiss',
        biggest.node.split('.')[0]!,
        `The hiss on ${this.where} is only ${decibels(run.overBoxesDb)} under ${run.source.name}.`,
        `Of it ${blame}.`,
        this.hissRemedy(),
      )
    if (byPlace && !failing && run.speechToNoiseDb < fairSpeechToNoiseDb)
      this.find(
        'note',
        'place',
        run.entry.part,
        `The place limits ${this.where}: speech-to-noise ${decibels(run.speechToNoiseDb)}.`,
        `The boxes alone would leave ${decibels(run.overBoxesDb)}.`,
        this.placeRemedy(),
      )
  }

  /** What would help against the hiss: where it comes from decides. */
  private hissRemedy(): string {
    const { run } = this
    const [biggest] = run.shares
    const at = run.points.findIndex(({ node }) => node === biggest?.node)
    const point = run.points[at]
    if (!point || point.kind === 'transducer')
      return `It is ${biggest?.partName ?? 'the microphone'} itself: go nearer, or use a quieter microphone.`
    const before = run.points.slice(0, at)
    return before.some(({ controls }) => controls.length > 0)
      ? `Give more gain before ${point.partName}, ${point.name.toLowerCase()}, and less after it.`
      : `Nothing before ${point.partName}, ${point.name.toLowerCase()} can be turned up: a quieter preamplifier between, or a microphone with more output, would help.`
  }

  private placeRemedy(): string {
    const { placeNoise, wind } = this.run.atSource
    return placeNoise - wind < 3
      ? 'Most of it is wind: cover the microphone, in a breeze with fur over foam, in gusts with a basket too. A rule of thumb; quieter boxes will not help.'
      : 'Go nearer or quieten the place; quieter boxes will not help.'
  }

  private findWindow(): void {
    const { run, context, asked } = this
    const window = asked?.window
    const outside = outsideDb(window, run.peakDb)
    if (!window || outside <= shownDb || run.peakDb > 0) return
    this.find(
      outside > 12 ? 'degraded' : 'note',
      'window',
      run.end.box,
      `Peaks of ${this.where} are at ${signed(run.peakDb)} dBFS, ${decibels(outside)} ${run.peakDb > window.highestDbfs ? 'above' : 'below'} the aim.`,
      `The ${context.plan.peakTarget} target asks for ${signed(window.lowestDbfs)} to ${signed(window.highestDbfs)} dBFS.`,
      context.balanced
        ? 'The controls reach no nearer: "What would cure it?" tries what else would.'
        : 'Press Balance, or choose another peak target.',
    )
  }

  private findPauses(): void {
    const { run } = this
    if (run.pauseRiseDb <= 3) return
    const point = run.points.find(({ automatic }) => automatic)
    const held = run.points.some(({ heldDb }) => heldDb !== undefined)
    this.find(
      'degraded',
      'pauses',
      point?.part ?? run.end.box,
      `In pauses automatic gain lifts the noise on ${this.where} by ${decibels(run.pauseRiseDb)}.`,
      'Nobody holds it down then: it opens until its target or its limit is reached.',
      [
        'Set the level by hand.',
        held
          ? 'Where there is no such setting, keep it busy with something steady on the other channel, which its gain follows.'
          : hotterHelps(run)
            ? 'Where there is no such setting, feed it hotter: its own noise is what swells.'
            : 'Where there is no such setting, feeding it hotter does not help, for what swells comes in with the voice: record elsewhere too.',
      ].join(' '),
    )
  }
}

/** Headroom that the plan asks for under a ceiling. */
export const askedMarginDb = ({ onset }: Pick<Ceiling, 'onset'>, { marginDb }: Plan): number =>
  onset ? onsetMarginDb : marginDb

/** Two ways of one voice that come to this much less than one alone cancel. */
const cancellingDb = -6
/** A second way this far under the first is no longer heard, or plainly heard, as a comb. */
const combDb = 20
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
  // what comes in with the voice swells with it; only the box's own noise stays behind
  return (
    before.noiseWithPlaceDb - before.gainFromSourceDb >
    entering.noiseWithPlaceDb - entering.gainFromSourceDb + 3
  )
}

const overloads = (shape: 'flat' | 'bent' | 'sagging'): string =>
  ({ flat: 'is cut flat', bent: 'bends', sagging: 'sags' })[shape]

/** Who is loudest where the run is tightest: the source itself, something else, or the place. */
export function loudestIn(run: Run): string {
  const point = run.tightest && run.points[run.tightest.point]
  if (!point) return 'The loudest moment'
  if (run.tightest!.ceiling.onset) return 'The first loud word after a pause'
  if (point.placePeakDb > point.peakDb.loudest) return 'The noise of the place at its loudest'
  return point.wholePeakDb - point.peakDb.loudest > 6 ? 'All that sounds together' : 'The loudest moment'
}

/** No chain that carries anything comes down to this, in any unit. */
export const silenceDb = -140

/** The point at which a run dies away to nothing, where the wiring brings it no further. */
export function whereItStops(run: Run): Point | undefined {
  const { stop } = run
  if (stop) return run.points.find(({ part }) => part === stop.part) ?? run.points[0]
  return run.typicalDb < silenceDb ? run.points.find(({ rmsDb }) => rmsDb.typical < silenceDb) : undefined
}

/** Typical level at the ear, dB SPL. For a run that ends in headphones. */
export const earDbSpl = (run: Run): number => run.typicalDb

function unitOf({ domain, kind }: Point, at: 'input' | 'output'): string {
  if (at === 'input' && kind === 'converter-in') return 'dBu'
  if (at === 'input' && kind === 'transducer') return 'dB SPL'
  if (at === 'input' && kind === 'converter-out') return 'dBFS'
  return { volts: 'dBu', digital: 'dBFS', pressure: 'dB SPL' }[domain]
}
