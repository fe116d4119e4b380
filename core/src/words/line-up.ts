import type { DeadCause, DoubleCause, LineUpFigures, LineUpFinding } from '../findings'
import type { LearntChange, LineUpStep } from '../lineup'
import type { ClipReading, Gear, LineUpReading } from '../model'
import type { TestSignal } from '../signals'
import { difference, plainDecibels, signed } from '../units'
import { capital, type Sentences } from './sentences'
import { settingWords } from './setting'

/** Names of recordings by `box.track`. */
export type TrackNames = (track: string) => string

const settingsOf = ({ set }: LineUpStep): string =>
  set.map(({ controlName, positionName }) => settingWords(controlName, positionName)).join(', ')

/** Whether the source speaks; assumed if not stated. */
const speaks = ({ source }: LineUpStep): boolean => source === undefined || source.kind === 'speech'

/** The task, in one line. */
export function stepTitle(step: LineUpStep): string {
  const { boxName, play } = step
  switch (step.kind) {
    case 'settle':
      return `${boxName}: ${settingsOf(step)}`
    case 'scratch':
      return `${boxName}: scratch it, every other microphone covered`
    case 'send':
      return `${boxName}: 1 kHz tone at ${signed(play?.levelDbfs ?? 0, 0)} dBFS${step.set.length ? `, ${settingsOf(step)}` : ''}`
    case 'tone':
      return `${boxName}: ${[...(step.set.length ? [settingsOf(step)] : []), ...sentAt(step), 'read its level'].join(', ')}`
    case 'overload':
      return `${boxName}: ${[lastSetting(step), ...sentAt(step), 'record five seconds of it'].join(', ')}`
    case 'floor':
      return `${boxName}: ${step.set.length ? `${settingsOf(step)}, ` : ''}record five seconds of silence`
    case 'mark':
      return `${boxName}: raise the tone until ${step.expect.kind === 'mark' ? step.expect.markName : 'the mark'} lights`
    case 'bursts':
      return `${boxName}: record the bursts, 19 seconds`
    case 'voice':
      return `${capital(step.source?.name ?? 'the voice')}: ${speaks(step) ? 'the loudest line' : 'at its loudest'}, on ${boxName}`
    case 'trial':
      return `Trial under the real noise: ${step.source?.name ?? 'the voice'} on ${boxName}`
    case 'listen':
      return `${boxName}: listen, at the end of the chain`
  }
}

/** The level of the tone, where it is another box that sends it: it is set there. */
const sentAt = ({ play }: LineUpStep): string[] =>
  play?.from === undefined ? [] : [`tone at ${signed(play.levelDbfs, 0)} dBFS`]

const lastSetting = ({ set }: LineUpStep): string => {
  const last = set.at(-1)
  return last ? `${last.controlName.toLowerCase()} ${last.positionName}` : ''
}

/** How it is done, and why it is asked. */
export function stepDetail(step: LineUpStep): string {
  const fromPage = step.play && step.play.from === undefined
  switch (step.kind) {
    case 'settle':
      return 'Automatic gain, limiters and effects as planned; input chosen and on; power as planned.'
    case 'scratch':
      return 'Tap every channel below whose meter moves.'
    case 'send':
      return 'Fed from this page or from a file on its card. Everything after it is read against this tone.'
    case 'tone':
      return step.why === 'planned position'
        ? fromPage
          ? 'Play the tone into its input and turn the volume here until the meter shows about this. Then leave the volume alone.'
          : 'The position of the plan. A clip is surer than the meter.'
        : 'Asked because the law is least certain here.'
    case 'overload':
      return `${outputSetting(step)}The first amplifier may overload before its level control. A clip shows the shape; the meter cannot.`
    case 'floor':
      return step.why === 'front and back not told apart'
        ? 'Higher up, the first amplifier stands out from the converter: two clips tell them apart.'
        : 'Everything before it switched off, leads left in: what is left is its own hiss.'
    case 'mark':
      return 'Type the level of the tone at which it lights.'
    case 'bursts':
      return 'Quiet, loud, quiet: what its automatic gain aims at, and how fast it turns.'
    case 'voice':
      return step.source?.kind === 'line'
        ? 'The loudest that will be sent, not a test line: ask its operator for it.'
        : speaks(step)
          ? 'The real words at real loudness, not \u201Cone, two\u201D.'
          : 'The real sound at its loudest, not a gentle trial of it.'
    case 'trial':
      return `The same ${speaks(step) ? 'words' : 'sound'} at a few well-chosen settings, stopping in between; never set while moving.`
    case 'listen':
      return 'No hum, no crackle, both ears as planned. Start low.'
  }
}

function outputSetting({ set }: LineUpStep): string {
  const [first, second] = set
  return first && second ? `${first.boxName}: ${first.controlName.toLowerCase()} ${first.positionName}. ` : ''
}

/** The expected reading, in a few words. */
export function expectWords({ expect }: LineUpStep, name: TrackNames): string {
  switch (expect.kind) {
    case 'seen':
      return 'as planned'
    case 'level':
      return expect.toleranceDb > 1
        ? `expected ${signed(expect.levelDbfs)} \u00B1 ${expect.toleranceDb.toFixed(1)} dBFS`
        : `expected ${signed(expect.levelDbfs)} dBFS`
    case 'shape':
      return `clean, or cut near ${signed(expect.ceilingDbfs)} dBFS`
    case 'floor':
      return `expected ${signed(expect.noiseDbfsA)} dBFS(A)`
    case 'mark':
      return `expected with the tone at ${signed(expect.levelDbfs)} dBFS`
    case 'automatic':
      return `settles near ${signed(expect.targetDbfs)} dBFS`
    case 'peak':
      return peaksWords(expect)
    case 'trial':
      return 'about three clips'
    case 'channels':
      return expect.tracks.length ? `moves ${expect.tracks.map(name).join('; ')}` : 'moves nothing'
  }
}

/** Peaks belong in the window, or where the plan has them if no control can bring them there. */
function peaksWords({
  peakDbfs,
  lowestDbfs,
  highestDbfs,
  isFixed,
}: LineUpStep['expect'] & { kind: 'peak' }): string {
  const window = `${signed(lowestDbfs, 0)} to ${signed(highestDbfs, 0)} dBFS`
  return isFixed
    ? `peaks near ${signed(peakDbfs)} dBFS, as planned; the target is ${window}`
    : `peaks ${window}; the plan says ${signed(peakDbfs)}`
}

/** The reading, in a few words. */
export function resultWords(
  step: LineUpStep,
  { result }: LineUpReading,
  gear: Gear | undefined,
  name: TrackNames,
): string {
  switch (result.kind) {
    case 'seen':
      return 'confirmed by you'
    case 'level':
      return `${signed(result.levelDbfs)} dBFS`
    case 'mark':
      return gear?.meter?.marks.find(({ id }) => id === result.mark)?.name ?? 'below every mark'
    case 'channels':
      return result.moved.length ? result.moved.map(name).join('; ') : 'nothing moved'
    case 'clip':
      return clipWords(result, step)
  }
}

function clipWords(clip: ClipReading, { expect }: LineUpStep): string {
  if (expect.kind === 'trial') return 'the answer is known'
  const { toneDbfs, noiseDbfsA, peakDbfs, ceilingDbfs, ceilingShape } = clip
  const pressed = ceilingDbfs === null ? [] : [`${ceilingShape ?? 'cut'} at ${signed(ceilingDbfs)} dBFS`]
  if (expect.kind === 'peak')
    return peakDbfs === null ? 'silent' : [`peaks ${signed(peakDbfs)} dBFS`, ...pressed].join(', ')
  if (toneDbfs !== null && expect.kind !== 'floor')
    return [`tone ${signed(toneDbfs)} dBFS`, ...pressed].join(', ')
  return (
    [...(noiseDbfsA === null ? [] : [`${signed(noiseDbfsA)} dBFS(A)`]), ...pressed].join(', ') || 'silent'
  )
}

const seconds = (value: number | null): string =>
  value === null ? '?' : `${value.toFixed(value < 1 ? 2 : 1)} s`
const several = (list: readonly string[]): string => list.join('; ')

function deadCause(cause: DeadCause): string {
  switch (cause.kind) {
    case 'wiring':
      return cause.sentence
    case 'power':
      return `${cause.partName} has no power`
    case 'input switch':
      return `${cause.controlName.toLowerCase()} of ${cause.partName} is not at ${cause.positionName}`
    case 'radio channel':
      return `${cause.partName} is on another channel, or not linked yet`
    case 'plug':
      return `a plug is not all the way in, or ${cause.partName} records from its built-in microphones`
  }
}
function doubleCause(cause: DoubleCause): string {
  switch (cause.kind) {
    case 'copy switch':
      return `${cause.controlName.toLowerCase()} of ${cause.partName} copies one channel to the other`
    case 'mono mode':
      return `${cause.partName} is set to mono, or links its channels`
    case 'lead':
      return `a mono lead or plug joins both sides at ${cause.partName}`
  }
}

/** An overload compared with the plan. */
const besidePlan = (byDb: number): string =>
  Math.abs(byDb) < 1
    ? 'as the plan has it'
    : `${plainDecibels(byDb)} ${byDb < 0 ? 'earlier' : 'later'} than planned`

type Words = { [Code in keyof LineUpFigures]: (figures: LineUpFigures[Code], name: TrackNames) => Sentences }

const words: Words = {
  'as planned': ({ differenceDb }) => ({
    what: 'As planned.',
    why: differenceDb === undefined ? '' : `${difference(differenceDb)} from what was expected.`,
    remedy: '',
  }),
  'other level': ({ differenceDb, boxName }) => ({
    what: `${boxName} amplifies ${plainDecibels(differenceDb)} ${differenceDb > 0 ? 'more' : 'less'} here.`,
    why: 'The typical law is only a guess; this reading corrects it.',
    remedy: '',
  }),
  'sent otherwise': ({ levelDbfs, differenceDb }) => ({
    what: `The tone is at ${signed(levelDbfs)} dBFS, ${difference(differenceDb)} from what was asked.`,
    why: 'Every later reading is compared with the tone as it really is.',
    remedy: '',
  }),
  'two cameras': ({ otherName, differenceDb }) => ({
    what: `At the same tone it reads ${plainDecibels(differenceDb)} ${differenceDb < 0 ? 'under' : 'over'} ${otherName}.`,
    why: 'Two boxes of the same kind still differ; one output can feed both only as far as their own levels make up the difference.',
    remedy: 'Balance finds the output that serves both, and a record level for each.',
  }),
  'missing step': ({ boxName }) => ({
    what: `The tone was not read on ${boxName} itself.`,
    why: 'If it was not sent at the requested level, the difference ends up here.',
    remedy: `Do the step for ${boxName} too; the readings are kept.`,
  }),
  'hidden overload': ({ ceilingDbfs, ceilingDbu, plannedDbu, shape }) => ({
    what: `Its first amplifier overloads at ${signed(ceilingDbu)} dBu, ${besidePlan(ceilingDbu - plannedDbu)}.`,
    why: `The peaks are ${shape} at ${signed(ceilingDbfs)} dBFS: the meter looks safe and the sound is not.`,
    remedy: 'Send it less: turn down or pad before this box. Its own level cannot fix it.',
  }),
  'voice overloads': ({ levelDbfs, shape }) => ({
    what: 'It overloads.',
    why: `The peaks are ${shape === 'flat' ? 'cut flat' : shape} at ${signed(levelDbfs)} dBFS.`,
    remedy: 'Run Balance on Levels, or send this box less; then say the line again.',
  }),
  'no overload': ({ upToDbu }) => ({
    what: 'The tone is clean.',
    why: `Its first amplifier takes at least ${signed(upToDbu)} dBu.`,
    remedy: '',
  }),
  'file clips': ({ levelDbfs }) => ({
    what: `The clip is cut off at ${signed(levelDbfs)} dBFS.`,
    why: 'A tone that is cut off says nothing about the level.',
    remedy: 'Turn down by 6 dB and record it again.',
  }),
  'clipped at source': ({ levelDbfs }) => ({
    what: 'The tone was distorted before it got here.',
    why: `It is limited at ${signed(levelDbfs)} dBFS, far from every overload in this chain.`,
    remedy: 'Lower the tone where it is made, or the output that sends it, and record it again.',
  }),
  'no tone': ({ noiseDbfs }) => ({
    what: 'No tone stands out in this clip.',
    why:
      noiseDbfs === null
        ? 'There is nothing in it.'
        : `There is only ${signed(noiseDbfs)} dBFS(A) of something else: the room is louder, or the tone did not arrive.`,
    remedy: 'Check the plug and the input, play it louder, and record it again.',
  }),
  'other setting': ({ controlName, said, likely }) => ({
    what: `This sounds like ${controlName.toLowerCase()} ${likely}, not ${said}.`,
    why: 'The other readings know the law well enough to tell. It was left out.',
    remedy: `Check where the control was set, and read ${said} again.`,
  }),
  outlier: ({ offDb }) => ({
    what: `This reading is ${difference(offDb)} from what the others say.`,
    why: 'It was left out.',
    remedy: 'Most likely another control was touched, or the meter misread. Read it again.',
  }),
  falls: ({ controlName, low, high }) => ({
    what: `The level falls from ${controlName.toLowerCase()} ${low} to ${high}.`,
    why: 'A level control never does; one of the two readings is wrong, and there is no telling which.',
    remedy: 'Read both again, and touch nothing else in between.',
  }),
  'floor found': ({ noiseDbfsA, differenceDb }) => ({
    what: `It hisses ${plainDecibels(differenceDb)} ${differenceDb > 0 ? 'more' : 'less'} than planned.`,
    why: `${signed(noiseDbfsA)} dBFS(A) with everything before it off.`,
    remedy: '',
  }),
  'floor not told apart': ({ controlName, position, wantsKnownTone }) => ({
    what: 'A quieter first amplifier and a lower gain look alike from here.',
    why: wantsKnownTone
      ? 'The level of the incoming tone is not known.'
      : 'One clip of silence contains the noise of both parts of the box.',
    remedy: wantsKnownTone
      ? 'One clip of a tone from a recorder, whose level is known, would tell.'
      : `One more at ${controlName.toLowerCase()} ${position} would tell, once its level was read there.`,
  }),
  'automatic gain': ({ targetDbfs, attackS, holdS, releaseS }) => ({
    what: `Automatic gain aims at ${signed(targetDbfs)} dBFS.`,
    why: `It turns down within ${seconds(attackS)}, waits ${seconds(holdS)} and comes back over ${seconds(releaseS)}.`,
    remedy: '',
  }),
  'no automatic gain': () => ({
    what: 'Automatic gain is not acting.',
    why: 'The loud part is exactly as much louder as it was played.',
    remedy: '',
  }),
  'no bursts': () => ({
    what: 'The bursts are not in this clip.',
    why: 'It must hold all 19 seconds, from the first quiet tone on.',
    remedy: 'Start recording first, then play, and record it again.',
  }),
  'peaks as planned': ({ peakDbfs }) => ({
    what: 'The peaks are where they belong.',
    why: `Peaks at ${signed(peakDbfs)} dBFS.`,
    remedy: '',
  }),
  'peaks off': ({ peakDbfs, byDb, controlName, position }) => ({
    what: `${plainDecibels(byDb)} ${byDb < 0 ? 'too hot' : 'too low'}.`,
    why: `Peaks at ${signed(peakDbfs)} dBFS.`,
    remedy:
      controlName === undefined
        ? `Change what comes before it by ${difference(byDb)}.`
        : `Set ${controlName.toLowerCase()} to ${position}, or change what comes before it by ${difference(byDb)}.`,
  }),
  'channel dead': ({ tracks, causes }, name) => ({
    what: `Nothing on ${several(tracks.map(name))}.`,
    why: 'The plan has this microphone there.',
    remedy: causes.length ? `Check these, the likeliest first: ${several(causes.map(deadCause))}.` : '',
  }),
  'channels swapped': ({ expected, moved, other }, name) => ({
    what: `Swapped: it is on ${several(moved.map(name))}, not on ${several(expected.map(name))}.`,
    why: other === undefined ? 'The plan has nothing there.' : `That is where ${other} belongs.`,
    remedy: 'Swap the two plugs, or look for a crossed lead; or keep it and change the channel plan.',
  }),
  'channel doubled': ({ also, causes }, name) => ({
    what: `Doubled: it is also on ${several(also.map(name))}.`,
    why: 'The plan has it on one channel only.',
    remedy: `Most likely ${several(causes.map(doubleCause))}.`,
  }),
  'mark mapped': ({ markName, levelDbfs, plannedDbfs }) => ({
    what: `${capital(markName)} is ${signed(levelDbfs)} dBFS.`,
    why: `The plan assumed ${signed(plannedDbfs)} dBFS.`,
    remedy: '',
  }),
}

/** The meaning of a reading, in sentences. */
export const lineUpSentences = ({ code, figures }: LineUpFinding, name: TrackNames): Sentences =>
  // code and figures belong together: the type of the finding says so
  (words[code] as (figures: unknown, name: TrackNames) => Sentences)(figures, name)

/** Name of a signal where it is played or written. */
export const signalName = ({ kind }: Pick<TestSignal, 'kind'>): string =>
  ({
    tone: 'tone, 1 kHz',
    steps: 'tone in steps of 6 dB',
    sweep: 'sweep, 20 Hz to 20 kHz',
    'pink noise': 'pink noise',
    bursts: 'bursts',
    'polarity click': 'polarity click',
  })[kind]

/** A figure that was learnt, in a line. */
export function learntWords({
  kind,
  name,
  movesDb,
  after,
}: Pick<LearntChange, 'kind' | 'name' | 'movesDb' | 'after'>): string {
  const figure = typeof after === 'object' && after !== null && 'value' in after ? after.value : after
  switch (kind) {
    case 'law':
      return `${name}: its law as read, up to ${plainDecibels(movesDb)} from the one in the plan`
    case 'shape':
      return `${name}: ${typeof after === 'string' ? after : 'another'}`
    case 'automatic':
      return `${name}: ${name.endsWith('target') ? `${signed(Number(figure))} dB` : `${Number(figure).toFixed(0)} ms`}`
    case 'mark':
      return `${name}: ${signed(Number(figure))} dBFS, ${difference(movesDb)}`
    case 'ceiling':
    case 'floor':
      return `${name}: ${signed(Number(figure))} ${kind === 'ceiling' ? 'dBu' : 'dB(A)'}, ${difference(movesDb)}`
  }
}
