import { voiceCoherence } from '../acoustics'
import { type Mixture, sameDelayS } from './mixture'
import { comingBack, neverPauses } from './graph'
import { whiteOverWeightedDb } from './reading'
import type { Table } from './table'
import { powerFromDb } from '../units'

/** Who sounds: each source's amplitude over its typical level, 0 for silent; and whether the place is at its loudest. */
export interface Sounding {
  sources: readonly number[]
  placeAtLoudest: boolean
}

export const whiteOverWeighted = powerFromDb(whiteOverWeightedDb)
/** One source at an amplitude relative to its typical level, and sources that never pause. */
export const speaking = (table: Table, source: number, amplitude: number): Sounding => ({
  sources: table.sources.map((each, index) =>
    index === source ? amplitude : neverPauses(each.source) ? 1 : 0,
  ),
  placeAtLoudest: false,
})

/**
 * What is at its loudest at once: everything; and where a duck is in the chain also what never pauses by itself, for the
 * duck is up while nobody speaks, and what it ducks is then louder than under a voice.
 */
export function loudMoments({ sources }: Table, ducks: boolean): Sounding[] {
  const everything = { sources: sources.map(({ loudest }) => loudest), placeAtLoudest: true }
  const alone = {
    sources: sources.map(({ source, loudest }) => (neverPauses(source) ? loudest : 0)),
    placeAtLoudest: true,
  }
  return ducks ? [everything, alone] : [everything]
}

/** Whether somebody speaks whose voice does not pass a duck: then it is down. */
export const isDucked = ({ sources }: Sounding, table: Table, passes: (source: number) => boolean): boolean =>
  table.sources.some(({ source }, index) => sources[index]! > 0 && source.kind === 'speech' && !passes(index))

/** Sources, by index, whose first word after a pause reaches an automatic gain; none if nothing passes it. */
export function comingBackAt(table: Table, passes: (source: number) => boolean): number[] {
  const passing = [...table.sources.keys()].filter(passes)
  const back = comingBack(passing.map((source) => table.sources[source]!.source))
  return back.length ? passing.filter((source) => back.includes(table.sources[source]!.source)) : passing
}

const coherences = new Map<number, number>()

function coherence(delayS: number): number {
  const microseconds = Math.round(Math.abs(delayS) * 1e6)
  const known = coherences.get(microseconds) ?? voiceCoherence(microseconds / 1e6)
  coherences.set(microseconds, known)
  return known
}

/** The ways of one source in a mixture, at its typical level. */
export interface WaysOfSource {
  amplitudes: number[]
  delaysS: number[]
}

export function waysOfSource(mixture: Mixture, table: Table, source: number): WaysOfSource {
  const ways: WaysOfSource = { amplitudes: [], delaysS: [] }
  for (let way = 0; way < mixture.emitters.length; way++) {
    const emitter = mixture.emitters[way]!
    if (emitter >= table.firstEntryNoise || table.sourceOfOrigin[emitter] !== source) continue
    const same = ways.delaysS.findIndex((delayS) => Math.abs(delayS - mixture.delaysS[way]!) < sameDelayS)
    if (same >= 0) ways.amplitudes[same]! += mixture.amplitudes[way]!
    else {
      ways.amplitudes.push(mixture.amplitudes[way]!)
      ways.delaysS.push(mixture.delaysS[way]!)
    }
  }
  return ways
}

/** Power of one sound over several ways: with their signs where they arrive at one time, by likeness where not. */
export function powerOfWays({ amplitudes, delaysS }: WaysOfSource): number {
  if (amplitudes.length === 1) return amplitudes[0]! ** 2
  let power = 0
  for (let one = 0; one < amplitudes.length; one++) {
    power += amplitudes[one]! ** 2
    for (let other = 0; other < one; other++)
      power += 2 * amplitudes[one]! * amplitudes[other]! * coherence(delaysS[one]! - delaysS[other]!)
  }
  return Math.max(0, power)
}

/** Largest peak of one sound over several paths: peaks that arrive at different times may coincide. */
const peakOfWays = ({ amplitudes }: WaysOfSource): number =>
  amplitudes.reduce((sum, amplitude) => sum + Math.abs(amplitude), 0)

/** RMS power of a source at a place, at its typical level. */
export const sourcePower = (mixture: Mixture, table: Table, source: number): number =>
  powerOfWays(waysOfSource(mixture, table, source))

/** A-weighted noise power of the boxes, and of the place together with noise from feeds. */
export function noisePowers(mixture: Mixture, table: Table): { boxes: number; place: number } {
  let [boxes, place] = [0, 0]
  const { emitters, amplitudes, filters } = mixture
  for (let way = 0; way < emitters.length; way++) {
    const emitter = emitters[way]!
    if (emitter >= table.firstNodeNoise) boxes += amplitudes[way]! ** 2
    else if (emitter >= table.firstEntryNoise)
      place +=
        amplitudes[way]! ** 2 * table.entryNoiseLeft(emitter - table.firstEntryNoise, filters[way]!).weighted
  }
  return { boxes, place }
}

/** RMS power of all that sounds at a place, as automatic gain hears it: without the A curve. */
export function soundingPower(mixture: Mixture, table: Table, { sources, placeAtLoudest }: Sounding): number {
  const { emitters, amplitudes, filters } = mixture
  let power = 0
  for (let way = 0; way < emitters.length; way++) {
    const emitter = emitters[way]!
    if (emitter >= table.firstNodeNoise) power += amplitudes[way]! ** 2 * whiteOverWeighted
    else if (emitter >= table.firstEntryNoise) {
      const left = table.entryNoiseLeft(emitter - table.firstEntryNoise, filters[way]!)
      power += amplitudes[way]! ** 2 * (placeAtLoudest ? left.plainLoudest : left.plain)
    }
  }
  for (let source = 0; source < sources.length; source++)
    if (sources[source]! > 0) power += sourcePower(mixture, table, source) * sources[source]! ** 2
  return power
}

/**
 * The largest peak of all that sounds at a place, as the amplitude of the sine that reaches it. Peaks of different
 * sources meet sooner or later, and so do they and the noise of the place: they add. The noises of several places are
 * strangers of one kind: the squares of theirs do.
 */
export const soundingPeak = (mixture: Mixture, table: Table, sounding: Sounding): number =>
  peaksOfSounds(mixture, table, sounding).reduce((sum, peak) => sum + peak, 0)

/** How that peak comes together. */
export interface PeakMakeup {
  peak: number
  /** Share of the largest sound in it: 1 if there is only one. */
  largestShare: number
  /** Root of the summed powers: the amplitude that a level detector sees. */
  power: number
}

export function peakMakeup(mixture: Mixture, table: Table, sounding: Sounding): PeakMakeup {
  const peaks = peaksOfSounds(mixture, table, sounding)
  const peak = peaks.reduce((sum, each) => sum + each, 0)
  return {
    peak,
    largestShare: peak > 0 ? Math.max(...peaks) / peak : 1,
    power: Math.hypot(...peaks),
  }
}

/** Peak of the place and of each source that sounds. */
function peaksOfSounds(mixture: Mixture, table: Table, { sources, placeAtLoudest }: Sounding): number[] {
  const peaks = [placePeak(mixture, table, placeAtLoudest)]
  for (let source = 0; source < sources.length; source++)
    if (sources[source]! > 0)
      peaks.push(
        peakOfWays(waysOfSource(mixture, table, source)) * sources[source]! * table.sources[source]!.crest,
      )
  return peaks
}

/** The largest peak of the place and of noise from feeds, as the amplitude of a sine. */
export function placePeak(
  { emitters, amplitudes, filters }: Mixture,
  table: Table,
  atLoudest: boolean,
): number {
  let square = 0
  for (let way = 0; way < emitters.length; way++) {
    const emitter = emitters[way]!
    if (emitter < table.firstEntryNoise || emitter >= table.firstNodeNoise) continue
    const left = table.entryNoiseLeft(emitter - table.firstEntryNoise, filters[way]!)
    square += (amplitudes[way]! * (atLoudest ? left.loudestPeak : left.peak)) ** 2
  }
  return Math.sqrt(square)
}

/** Whether anything of a source arrives at a place. */
export const carries = (mixture: Mixture, table: Table, source: number): boolean =>
  mixture.emitters.some(
    (emitter) => emitter < table.firstEntryNoise && table.sourceOfOrigin[emitter] === source,
  )
