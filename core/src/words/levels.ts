import type { Hiss, LevelFigures, LevelFinding, Loudest } from '../findings'
import type { CeilingShape } from '../model'
import { decibels, percent, plainDecibels, shownDb, signed } from '../units'
import { circuitWords } from './circuit'
import { ratioName, ratioNameFirst } from './ratio'
import type { Sentences } from './sentences'

export const loudestWords: Record<Loudest, string> = {
  source: 'The loudest moment',
  place: 'The noise of the place at its loudest',
  'first word after a pause': 'The first loud moment after a pause',
  'all together': 'All that sounds together',
}

/** How a wave behaves at a ceiling. */
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
    return `It is ${remedy.name} itself: move closer, or use a quieter microphone.`
  const point = `${remedy.partName}, ${remedy.name.toLowerCase()}`
  return remedy.kind === 'gain before'
    ? `Use more gain before ${point}, and less after it.`
    : `Nothing before ${point} can be turned up: a quieter preamplifier in between, or a microphone with more output, would help.`
}

const placeRemedy = (mostlyWind: boolean): string =>
  mostlyWind
    ? 'Most of it is wind: cover the microphone, in a breeze with fur over foam, in gusts with a basket too. A rule of thumb; quieter boxes will not help.'
    : 'Move closer or quieten the place; quieter boxes will not help.'

const ceiling = (figures: LevelFigures['ceiling']): Sentences => {
  const { point, track, headroomDb, marginDb, ceilingDb, unit } = figures
  return headroomDb < -shownDb
    ? {
        what: `${loudestWords[figures.loudest]} ${overloadWords[figures.shape]} at ${point}, ${decibels(-headroomDb)} too hot.`,
        why: `Peaks reach ${signed(ceilingDb - headroomDb)} and the ceiling is ${signed(ceilingDb)} ${unit}.`,
        remedy: figures.canTurnDown
          ? 'Bring the level down before that point; nothing after it can repair it.'
          : `No control before it can help: move ${figures.entry} farther away, or use one that takes more level.`,
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
        what: `Two paths of ${figures.source} cancel on ${figures.track}.`,
        why: `Where they meet, ${decibels(figures.lostDb)} are lost: they arrive with opposite polarity.`,
        remedy: 'Invert one of them, or leave one out.',
      }
    : {
        what: `Two paths of ${figures.source} reach ${figures.track} ${figures.laterMs.toFixed(1)} ms apart: it sounds hollow.`,
        why: `Every ${(1000 / figures.laterMs).toFixed(0)} Hz there is a dip of ${decibels(figures.dipDb)} (comb filtering); the two paths differ by ${plainDecibels(figures.apartDb)}.`,
        remedy: 'Record them on separate tracks, or turn one well down.',
      }

const underNoise = (figures: LevelFigures['under noise']): Sentences => {
  const { source, kind, track, speechToNoiseDb, wantedDb, byPlace, overBoxesDb, mostlyWind, hiss } = figures
  return {
    what:
      speechToNoiseDb < 0
        ? `The noise on ${track} is louder than ${source}: ${ratioName({ kind })} ${decibels(speechToNoiseDb)}.`
        : `${ratioNameFirst({ kind })} of ${source} on ${track} is ${decibels(speechToNoiseDb)}; the brief asks for ${decibels(wantedDb)}.`,
    why: byPlace
      ? `It comes from the place: the boxes alone would leave ${decibels(overBoxesDb)}.`
      : `Of the noise of the boxes, ${blame(hiss)}.`,
    remedy: byPlace ? placeRemedy(mostlyWind) : hissRemedy(hiss),
  }
}

const echo = ({ source, track, overVoiceDb }: LevelFigures['echo']): Sentences => ({
  what: `On ${track}, ${source} sounds far away.`,
  why: `The room\u2019s echo is ${decibels(overVoiceDb)} louder than the direct voice.`,
  remedy: 'Move a microphone closer; Brief ranks the places for it. No setting helps.',
})

const unrecordedWords: Record<LevelFigures['unrecorded']['why'], Pick<Sentences, 'why' | 'remedy'>> = {
  'leads nowhere': {
    why: 'The microphone that picks it up is not connected to a recording.',
    remedy: 'On Patch, connect it to a recorder or a camera.',
  },
  'no box is fed': {
    why: 'It feeds no box of the chain.',
    remedy: 'On Patch, choose it under Carries at the desk or player that gives it.',
  },
  'no microphone': {
    why: 'No microphone is at a place that hears it.',
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
      remedy: 'Patch shows the contacts there, and finds another connection.',
    }
  },
  unrecorded: ({ source, why }) => ({ what: `Not recorded: ${source}.`, ...unrecordedWords[why] }),
  'leads nowhere': ({ place, source }) => ({
    what:
      place === undefined
        ? `A box carries ${source}, and leads nowhere.`
        : `A microphone is at ${place}, and leads nowhere.`,
    why: 'No link goes on from it to where anything is recorded.',
    remedy: 'On Patch, connect it to a recorder or a camera, or delete it.',
  }),
  softer: ({ source, track, belowDb, louder, by, isMixed }) => ({
    what: `On ${track}, ${source} is ${decibels(belowDb)} softer than ${louder}.`,
    why: isMixed
      ? `${by} is mixed in there, and a mix cannot be taken apart afterwards.`
      : `${by} picks up both, and no recorded microphone picks up ${source} better.`,
    remedy: isMixed
      ? `Where ${source} should be heard beside ${louder}, raise it in the mix, or record it on a track of its own.`
      : `On Patch, connect a microphone closer to ${source} to a recording. Raised in the edit, the noise rises too.`,
  }),
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
          why: `Under ${limitDbSpl} dB, hiss and rustle are masked by the room you are in.`,
          remedy: 'Turn the headphone level up, or use headphones that are louder for the same voltage.',
        },
  'under noise': underNoise,
  echo,
  hiss: ({ source, track, overBoxesDb, hiss }) => ({
    what: `The hiss on ${track} is only ${decibels(overBoxesDb)} under ${source}.`,
    why: `Of it ${blame(hiss)}.`,
    remedy: hissRemedy(hiss),
  }),
  place: ({ kind, track, speechToNoiseDb, overBoxesDb, mostlyWind }) => ({
    what: `The place limits ${track}: ${ratioName({ kind })} ${decibels(speechToNoiseDb)}.`,
    why: `The boxes alone would leave ${decibels(overBoxesDb)}.`,
    remedy: placeRemedy(mostlyWind),
  }),
  window: ({ track, peakDbfs, outsideDb, lowestDbfs, highestDbfs, peakTarget, balanced }) => ({
    what: `Peaks of ${track} are at ${signed(peakDbfs)} dBFS, ${decibels(outsideDb)} ${peakDbfs > highestDbfs ? 'above' : 'below'} the target.`,
    why: `The peak target, ${peakTarget}, asks for ${signed(lowestDbfs)} to ${signed(highestDbfs)} dBFS.`,
    remedy: balanced
      ? 'The controls cannot get closer: "What would cure it?" tries what else would.'
      : 'Press Balance, or choose another peak target.',
  }),
  pauses: ({ track, riseDb, held, hotterHelps }) => ({
    what: `In pauses automatic gain lifts the noise on ${track} by ${decibels(riseDb)}.`,
    why: 'Nothing holds it down then: it rises until it reaches its target or its limit.',
    remedy: [
      'Set the level by hand.',
      held
        ? 'Where there is no such setting, keep it busy with something steady on the other channel, which its gain follows.'
        : hotterHelps
          ? 'Where there is no such setting, feed it hotter: it is its own noise that rises.'
          : 'Where there is no such setting, feeding it hotter does not help, because the noise that rises comes in with the voice: make another recording too.',
    ].join(' '),
  }),
}

/** Words for a finding about levels. */
export const levelWords = ({ code, figures }: LevelFinding): Sentences =>
  // code and figures belong together: the type of the finding says so
  (words[code] as (figures: unknown) => Sentences)(figures)
