import type { Hiss, LevelFigures, LevelFinding, Loudest } from '../findings'
import type { CeilingShape } from '../model'
import { decibels, percent, plainDecibels, shownDb, signed } from '../units'
import { circuitWords } from './circuit'
import type { Sentences } from './sentences'

export const loudestWords: Record<Loudest, string> = {
  source: 'The loudest moment',
  place: 'The noise of the place at its loudest',
  'first word after a pause': 'The first loud word after a pause',
  'all together': 'All that sounds together',
}

/** What a wave does at a ceiling. */
export const overloadWords: Record<CeilingShape, string> = {
  flat: 'is cut flat',
  bent: 'bends',
  sagging: 'sags',
}

const blame = ({ biggest }: Hiss): string =>
  biggest
    ? `${biggest.partName}, ${biggest.name.toLowerCase()} makes ${percent(biggest.share)} of the hiss`
    : 'the boxes add nothing'

function hissRemedy({ remedy }: Hiss): string {
  if (remedy.kind === 'microphone')
    return `It is ${remedy.name} itself: go nearer, or use a quieter microphone.`
  const point = `${remedy.partName}, ${remedy.name.toLowerCase()}`
  return remedy.kind === 'gain before'
    ? `Give more gain before ${point}, and less after it.`
    : `Nothing before ${point} can be turned up: a quieter preamplifier between, or a microphone with more output, would help.`
}

const placeRemedy = (mostlyWind: boolean): string =>
  mostlyWind
    ? 'Most of it is wind: cover the microphone, in a breeze with fur over foam, in gusts with a basket too. A rule of thumb; quieter boxes will not help.'
    : 'Go nearer or quieten the place; quieter boxes will not help.'

const ceiling = (figures: LevelFigures['ceiling']): Sentences => {
  const { point, track, headroomDb, marginDb, ceilingDb, unit } = figures
  return headroomDb < -shownDb
    ? {
        what: `${loudestWords[figures.loudest]} ${overloadWords[figures.shape]} at ${point}, ${decibels(-headroomDb)} too hot.`,
        why: `Peaks reach ${signed(ceilingDb - headroomDb)} and the ceiling is ${signed(ceilingDb)} ${unit}.`,
        remedy: figures.canTurnDown
          ? 'Bring the level down before that point; what comes after it cannot mend it.'
          : `No control before it can help: move ${figures.entry} farther off, or use one that stands more.`,
      }
    : {
        what: `Only ${decibels(headroomDb)} of headroom at ${point}, on the way to ${track}.`,
        why: `The plan asks for ${decibels(marginDb)} over the loudest peak.`,
        remedy: figures.balanced
          ? 'No setting does better: a pad or another box before it may.'
          : 'Turn down what comes before it, or press Balance.',
      }
}

const sum = (figures: LevelFigures['sum']): Sentences =>
  'lostDb' in figures
    ? {
        what: `Two ways of ${figures.source} cancel on ${figures.track}.`,
        why: `Where they meet, ${decibels(figures.lostDb)} are lost: they arrive with opposite polarity.`,
        remedy: 'Turn one of them over, or leave one out.',
      }
    : {
        what: `Two ways of ${figures.source} reach ${figures.track} ${figures.laterMs.toFixed(1)} ms apart: it sounds hollow.`,
        why: `Every ${(1000 / figures.laterMs).toFixed(0)} Hz a dip of ${decibels(figures.dipDb)} (comb filtering); the second way lies ${plainDecibels(figures.apartDb)} off the first.`,
        remedy: 'Record them on tracks of their own, or turn one well down.',
      }

const underNoise = (figures: LevelFigures['under noise']): Sentences => {
  const { source, track, speechToNoiseDb, wantedDb, byPlace, overBoxesDb, mostlyWind, hiss } = figures
  return {
    what:
      speechToNoiseDb < 0
        ? `The noise on ${track} is louder than ${source}: speech-to-noise ${decibels(speechToNoiseDb)}.`
        : `Speech-to-noise of ${source} on ${track} is ${decibels(speechToNoiseDb)}; the brief asks for ${decibels(wantedDb)}.`,
    why: byPlace
      ? `The place makes it: the boxes alone would leave ${decibels(overBoxesDb)}.`
      : `Of the noise of the boxes, ${blame(hiss)}.`,
    remedy: byPlace ? placeRemedy(mostlyWind) : hissRemedy(hiss),
  }
}

const echo = ({ source, track, overVoiceDb }: LevelFigures['echo']): Sentences => ({
  what: `On ${track} ${source} sounds far away.`,
  why: `The room\u2019s echo is ${decibels(overVoiceDb)} louder than the direct voice.`,
  remedy: 'Bring a microphone nearer; Brief ranks the places for it. No setting helps.',
})

const unrecordedWords: Record<LevelFigures['unrecorded']['why'], Pick<Sentences, 'why' | 'remedy'>> = {
  'leads nowhere': {
    why: 'What picks it up leads to no recording.',
    remedy: 'On Patch, connect it to a recorder or a camera.',
  },
  'no box is fed': {
    why: 'No box of the chain is fed by it.',
    remedy: 'On Patch, choose it under Carries at the desk or player that gives it.',
  },
  'no microphone': {
    why: 'No microphone stands at a place that hears it.',
    remedy: 'On Patch, give a microphone such a place.',
  },
}

const words: { [Code in keyof LevelFigures]: (figures: LevelFigures[Code]) => Sentences } = {
  level: ({ source, track, stop, stopsAt }) => {
    const what = `Nothing of ${source} arrives on ${track}.`
    if (stop) {
      const said = circuitWords(stop)
      return { what, why: said.what, remedy: said.remedy }
    }
    return {
      what,
      why: `It stops at ${stopsAt.partName}, ${stopsAt.name.toLowerCase()}.`,
      remedy: 'Patch shows the contacts there, and finds a way.',
    }
  },
  unrecorded: ({ source, why }) => ({ what: `Not recorded: ${source}.`, ...unrecordedWords[why] }),
  ceiling,
  sum,
  ears: ({ box, levelDbSpl, limitDbSpl, tooLoud }) =>
    tooLoud
      ? {
          what: `${levelDbSpl.toFixed(0)} dB SPL at the ear from ${box} at typical speech.`,
          why: `More than ${limitDbSpl} dB harms hearing over a working day, and lost hearing does not come back.`,
          remedy: 'Turn the headphone level down before putting them on.',
        }
      : {
          what: `Only ${levelDbSpl.toFixed(0)} dB SPL at the ear from ${box} at typical speech: too soft to judge by.`,
          why: `Under ${limitDbSpl} dB, hiss and rustle hide under the room you stand in.`,
          remedy: 'Turn the headphone level up, or use headphones that are louder for the same voltage.',
        },
  'under noise': underNoise,
  echo,
  hiss: ({ source, track, overBoxesDb, hiss }) => ({
    what: `The hiss on ${track} is only ${decibels(overBoxesDb)} under ${source}.`,
    why: `Of it ${blame(hiss)}.`,
    remedy: hissRemedy(hiss),
  }),
  place: ({ track, speechToNoiseDb, overBoxesDb, mostlyWind }) => ({
    what: `The place limits ${track}: speech-to-noise ${decibels(speechToNoiseDb)}.`,
    why: `The boxes alone would leave ${decibels(overBoxesDb)}.`,
    remedy: placeRemedy(mostlyWind),
  }),
  window: ({ track, peakDbfs, outsideDb, lowestDbfs, highestDbfs, peakTarget, balanced }) => ({
    what: `Peaks of ${track} are at ${signed(peakDbfs)} dBFS, ${decibels(outsideDb)} ${peakDbfs > highestDbfs ? 'above' : 'below'} the aim.`,
    why: `The ${peakTarget} target asks for ${signed(lowestDbfs)} to ${signed(highestDbfs)} dBFS.`,
    remedy: balanced
      ? 'The controls reach no nearer: "What would cure it?" tries what else would.'
      : 'Press Balance, or choose another peak target.',
  }),
  pauses: ({ track, riseDb, held, hotterHelps }) => ({
    what: `In pauses automatic gain lifts the noise on ${track} by ${decibels(riseDb)}.`,
    why: 'Nobody holds it down then: it opens until its target or its limit is reached.',
    remedy: [
      'Set the level by hand.',
      held
        ? 'Where there is no such setting, keep it busy with something steady on the other channel, which its gain follows.'
        : hotterHelps
          ? 'Where there is no such setting, feed it hotter: its own noise is what swells.'
          : 'Where there is no such setting, feeding it hotter does not help, for what swells comes in with the voice: record elsewhere too.',
    ].join(' '),
  }),
}

/** What is said of something the levels found. */
export const levelWords = ({ code, figures }: LevelFinding): Sentences =>
  // code and figures belong together: the type of the finding says so
  (words[code] as (figures: unknown) => Sentences)(figures)
