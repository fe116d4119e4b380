import type { Plan } from '../model'
import type { Levels, Point, Run } from './run'
import { outsideDb, safeListeningDbSpl, windowOf } from './window'

export type Severity = 'dead' | 'harmful' | 'degraded' | 'note'
export const severities: readonly Severity[] = ['note', 'degraded', 'harmful', 'dead']
export const atLeast = (severity: Severity, limit: Severity): boolean =>
  severities.indexOf(severity) >= severities.indexOf(limit)

/** Something wrong, as a colleague would say it: what, where, how bad, what to do. */
export interface Finding {
  severity: Severity
  /** What kind of trouble it is. */
  about: 'ceiling' | 'hiss' | 'place' | 'window' | 'pauses' | 'ears' | 'clip' | 'level'
  run: string
  /** The part of the chain it is about. */
  part: string
  what: string
  why: string
  remedy: string
}

const db = (value: number): string => `${Math.abs(value).toFixed(1)} dB`
const signed = (value: number): string => `${value < 0 ? '\u2212' : ''}${Math.abs(value).toFixed(1)}`
const percent = (share: number): string => `${Math.round(share * 100)} %`

/** Under this the voice is hard to use: a rule of thumb for speech over steady noise. */
const poorSpeechToNoiseDb = 20
const fairSpeechToNoiseDb = 30

/** Half of the last figure shown: less is no difference a person could see. */
const shownDb = 0.05

/** What the levels of every run have to say, worst first. */
export function findingsOf(levels: Levels, plan: Plan): Finding[] {
  const all = levels.runs.flatMap((run) => findingsOfRun(run, plan))
  return all.sort((one, other) => severities.indexOf(other.severity) - severities.indexOf(one.severity))
}

export function findingsOfRun(run: Run, plan: Plan): Finding[] {
  const found: Finding[] = []
  const find = (
    severity: Severity,
    about: Finding['about'],
    part: string,
    what: string,
    why: string,
    remedy: string,
  ) => found.push({ severity, about, run: run.id, part, what, why, remedy })
  const stop = whereItStops(run)
  if (stop) {
    find(
      'dead',
      'level',
      stop.part,
      `Nothing of ${run.source.name} arrives on ${run.end.boxName}, ${run.end.name}.`,
      `It stops at ${stop.partName}.`,
      'Patch shows the contacts there, and finds a way.',
    )
    return found
  }
  const { tightest } = run
  if (tightest) {
    const { ceiling } = tightest
    const point = run.points[tightest.point]!
    const how = { flat: 'is cut flat', bent: 'bends', sagging: 'sags' }[ceiling.shape]
    const place = `${point.partName}, ${point.name.toLowerCase()}`
    const before =
      tightest.point === 0 || !run.points.slice(0, tightest.point + 1).some(({ controls }) => controls.length)
    if (ceiling.headroomDb < 0)
      find(
        'harmful',
        'ceiling',
        point.part,
        `The loudest moment ${how} at ${place}, ${db(ceiling.headroomDb)} too hot.`,
        `Its peak is ${signed(ceiling.levelDb - ceiling.headroomDb)} and the ceiling ${signed(ceiling.levelDb)} ${unitOf(point.domain, ceiling.at, point.kind)}.`,
        before
          ? 'No control before it can help: take the microphone farther off or one that stands more.'
          : 'Bring the level down before that point; what comes after it cannot mend it.',
      )
    else if (ceiling.headroomDb < plan.marginDb - shownDb)
      find(
        'degraded',
        'ceiling',
        point.part,
        `Only ${db(ceiling.headroomDb)} of headroom at ${place}.`,
        `The plan asks for ${db(plan.marginDb)} over the loudest peak.`,
        'Turn down what comes before it, or press Balance.',
      )
  }
  const biggest = run.shares[0]
  const blame = biggest
    ? `${biggest.partName}, ${biggest.name.toLowerCase()} makes ${percent(biggest.share)} of the hiss`
    : 'the boxes are silent'
  if (run.end.kind === 'recording') {
    const placeLimits = run.overBoxesDb - run.speechToNoiseDb > 3
    if (run.overBoxesDb < fairSpeechToNoiseDb && biggest)
      find(
        run.overBoxesDb < poorSpeechToNoiseDb ? 'harmful' : 'degraded',
        'hiss',
        biggest.node.split('.')[0]!,
        `Speech stands only ${db(run.overBoxesDb)} over the hiss on ${run.end.boxName}, ${run.end.name}.`,
        `Of it ${blame}.`,
        'Give more gain before that stage, with something quieter, and less after it.',
      )
    if (placeLimits && run.speechToNoiseDb < fairSpeechToNoiseDb)
      find(
        'note',
        'place',
        run.entry.part,
        `The place limits ${run.end.boxName}, ${run.end.name}: ${db(run.speechToNoiseDb)} over its noise.`,
        `The boxes alone would leave ${db(run.overBoxesDb)}.`,
        run.atSource.placeNoise - run.atSource.wind < 3
          ? 'Most of it is wind: cover the microphone, in a breeze with fur over foam, in gusts with a basket too. A rule of thumb; quieter boxes will not help.'
          : 'Go nearer or quieten the place; quieter boxes will not help.',
      )
    const window = windowOf(plan.school, run.end.aim)
    const outside = outsideDb(window, run.peakDb)
    if (outside > 0.05 && run.peakDb <= 0)
      find(
        outside > 12 ? 'degraded' : 'note',
        'window',
        run.end.box,
        `Peaks of ${run.end.boxName}, ${run.end.name} lie at ${signed(run.peakDb)} dBFS, ${db(outside)} ${run.peakDb > window.highestDbfs ? 'above' : 'below'} the aim.`,
        `The ${plan.school} school asks for ${signed(window.lowestDbfs)} to ${signed(window.highestDbfs)} dBFS.`,
        'Press Balance, or choose another school.',
      )
    if (run.pauseRiseDb > 3)
      find(
        'degraded',
        'pauses',
        run.end.box,
        `In pauses automatic gain lifts the noise by ${db(run.pauseRiseDb)}.`,
        'It opens until its target or its limit is reached.',
        run.points.some(({ heldDb }) => heldDb !== undefined)
          ? 'Set the level by hand; where there is no such setting, feed it hotter, or keep it busy with something steady on the other channel, which its gain follows.'
          : 'Set the level by hand; where there is no such setting, feed it hotter so that it stays closed.',
      )
  } else if (run.end.kind === 'listen' && earDbSpl(run) > safeListeningDbSpl)
    find(
      'harmful',
      'ears',
      run.end.box,
      `The headphones play ${earDbSpl(run).toFixed(0)} dB SPL at typical speech.`,
      `More than ${safeListeningDbSpl} dB harms hearing over a working day, and lost hearing does not come back.`,
      'Turn the headphone level down before putting them on.',
    )
  return found
}

/** No chain that carries anything comes down to this, in any unit. */
export const silenceDb = -140

/** The point at which a run dies away to nothing, where the wiring brings it no further. */
export const whereItStops = (run: Run): Point | undefined =>
  run.typicalDb < silenceDb ? run.points.find(({ rmsDb }) => rmsDb.typical < silenceDb) : undefined

/** Typical level at the ear, dB SPL. For a run that ends in headphones. */
export const earDbSpl = (run: Run): number => run.typicalDb

function unitOf(domain: string, at: 'input' | 'output', kind: string): string {
  const before = kind === 'converter-in' || kind === 'transducer'
  if (at === 'input' && before) return kind === 'converter-in' ? 'dBu' : 'dB SPL'
  if (at === 'input' && kind === 'converter-out') return 'dBFS'
  return { volts: 'dBu', digital: 'dBFS', pressure: 'dB SPL' }[domain] ?? 'dB'
}

/** A stretch of a sentence, with the working colour it is about. */
export interface Words {
  text: string
  tone?: 'ceiling' | 'floor' | 'settled'
}

/** The verdict of one run in a sentence or two. */
export function verdictOf(run: Run, plan: Plan): Words[] {
  const stop = whereItStops(run)
  if (stop)
    return [
      { text: `Nothing of ${run.source.name} arrives: it stops at ${stop.partName}`, tone: 'ceiling' },
      { text: '. Patch shows the contacts there. ' },
    ]
  const biggest = run.shares[0]
  const words: Words[] = []
  const { tightest } = run
  const point = tightest && run.points[tightest.point]
  if (tightest && point && tightest.ceiling.headroomDb < 0) {
    const how = { flat: 'is cut flat', bent: 'bends', sagging: 'sags' }[tightest.ceiling.shape]
    words.push(
      { text: 'The loudest moment ' },
      {
        text: `${how} at ${point.partName}, ${point.name.toLowerCase()}, ${db(tightest.ceiling.headroomDb)} too hot`,
        tone: 'ceiling',
      },
      { text: '. ' },
    )
  } else if (tightest && point) {
    const thin = tightest.ceiling.headroomDb < plan.marginDb - shownDb
    words.push(
      { text: 'Nothing clips: ' },
      { text: `${db(tightest.ceiling.headroomDb)} of headroom`, tone: thin ? 'ceiling' : 'settled' },
      { text: ` at the narrowest place, ${point.partName}, ${point.name.toLowerCase()}. ` },
    )
  }
  if (run.end.kind === 'listen')
    return [...words, { text: `At the ear ${earDbSpl(run).toFixed(0)} dB SPL for typical speech.` }]
  const good = run.speechToNoiseDb >= fairSpeechToNoiseDb
  words.push(
    { text: 'Speech stands ' },
    { text: `${db(run.speechToNoiseDb)} over the noise`, tone: good ? 'settled' : 'floor' },
  )
  if (run.overBoxesDb - run.speechToNoiseDb > 3)
    words.push({ text: ', limited by the place and not by the boxes' })
  else if (biggest)
    words.push(
      { text: '; ' },
      {
        text: `${biggest.partName}, ${biggest.name.toLowerCase()} makes ${percent(biggest.share)} of the hiss`,
        tone: 'floor',
      },
    )
  words.push({ text: '. ' })
  if (run.pauseRiseDb > 1)
    words.push({ text: `Automatic gain lifts it by ${db(run.pauseRiseDb)} in pauses. `, tone: 'floor' })
  return words
}
