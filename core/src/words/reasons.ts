import type { Reason, ReasonFigures } from '../findings'
import { decibels } from '../units'
import { chanceWords } from './chances'
import { capital } from './sentences'

const words: { [Code in keyof ReasonFigures]: (figures: ReasonFigures[Code]) => string } = {
  powered: ({ supply, box, outputs }) => {
    const all = new Intl.ListFormat('en-GB').format(outputs)
    return `${capital(supply)} of ${box} is switched on: ${all} ${outputs.length > 1 ? 'need' : 'needs'} it.`
  },
  'nothing heard': () => 'No sound arrives on any recording: fix what is dead first, then balance again.',
  'all locked': () => 'Every control that could change a level is locked: unlock one, and balance again.',
  'no control': () => 'No control of this chain changes a level.',
  over: ({ point, partName, overDb, marginDb, atMicrophone, isProved }) => {
    const missing = `${isProved ? 'No setting' : 'No setting that was tried'} keeps ${decibels(marginDb)} under every ceiling: ${point} is ${decibels(overDb)} short.`
    return atMicrophone
      ? `${missing} It is the first thing in the chain: move it farther away, use one that takes more level, or ask for a smaller margin.`
      : `${missing} A pad of ${Math.ceil(overDb)} dB or more before ${partName} would fix it, or a smaller margin.`
  },
  outside: ({ peakTarget, outsideDb, because }) => {
    const missing = `${because === 'not known' ? 'No setting that was tried' : 'No setting'} brings every recording that counts into the window of the peak target, ${peakTarget}: the worst stays ${decibels(outsideDb)} outside.`
    switch (because) {
      case 'nothing to turn':
      case 'not known':
        return missing
      case 'coarse steps':
        return `${missing} A control with finer steps would fix it, or another peak target.`
      case 'short range':
        return `${missing} The controls do not reach that far: a pad or a preamplifier between two boxes may help, or another peak target. "What would cure it?" tries them.`
    }
  },
  binding: ({ point, headroomDb }) =>
    `The ceiling met first is ${point}, ${
      headroomDb < 0 ? `passed by ${decibels(-headroomDb)}` : `with ${decibels(headroomDb)} to spare`
    }.`,
  place: ({ track, overBoxesDb }) =>
    `The noise of the place limits ${track}: the boxes alone would leave ${decibels(overBoxesDb)}.`,
  hiss: ({ track, biggest }) =>
    biggest
      ? `On ${track}, ${biggest.point} makes ${Math.round(biggest.share * 100)} % of the hiss.`
      : `On ${track}, the boxes add nothing.`,
  unproved: ({ mayGainDb }) =>
    mayGainDb > 0.05 && Number.isFinite(mayGainDb)
      ? `This is the best found in the time allowed, not proved to be the best there is: another setting may be up to ${decibels(mayGainDb)} clearer.`
      : 'This is the best found in the time allowed, not proved to be the best there is.',
  safer: ({ marginDb, clipping, leavesOutAutomatic }) =>
    `With ${marginDb} dB under every ceiling the worst recording clips in ${chanceWords(clipping)}.${
      leavesOutAutomatic ? ' What automatic gain sets is left out.' : ''
    }`,
}

/** Why Balance ends where it ends, as a sentence. */
export const reasonWords = ({ code, figures }: Reason): string =>
  // code and figures belong together: the type of the reason says so
  (words[code] as (figures: unknown) => string)(figures)
