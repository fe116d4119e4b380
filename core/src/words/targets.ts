import { peakWindows } from '../levels'
import type { PeakTarget } from '../model'
import { signed } from '../units'

/** Purpose of a school of peaks. */
const hows: Record<PeakTarget, string> = {
  cautious: 'for unpredictable people and no second take',
  usual: 'leaves room for a shout',
  'a little over': 'a rare word goes above it',
  full: 'for a quiet source, a noisy camera and a controlled voice',
  hot: 'for a controlled voice into a noisy camera; no room for a shout',
  'under the mark': 'its meter\u2019s first mark above the lowest, wherever that is',
  float: 'its level is set afterwards',
}
/** Targets that are no window in dBFS. */
const otherwise: Partial<Record<PeakTarget, string>> = {
  'under the mark': 'just under the mark',
  float: 'float, analogue only',
}

/** A peak target by its name and where peaks lie with it, and what it is for. */
export function targetWords(target: PeakTarget): { name: string; how: string } {
  const { lowestDbfs, highestDbfs } = peakWindows[target]
  const name = otherwise[target] ?? `${target}, ${signed(lowestDbfs, 0)} to ${signed(highestDbfs, 0)}`
  return { name, how: hows[target] }
}
