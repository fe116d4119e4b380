import {
  type Asked,
  earDbSpl,
  echoOverVoiceDb,
  fairSpeechToNoiseDb,
  loudestIn,
  placeOf,
  poorSpeechToNoiseDb,
  type Run,
  safeListeningDbSpl,
  softListeningDbSpl,
  whereItStops,
} from '../levels'
import { type Plan } from '../model'
import { decibels, percent, shownDb, signed } from '../units'
import { circuitWords } from './circuit'
import { loudestWords, overloadWords } from './levels'
import { ratioNameFirst } from './ratio'

/** A stretch of a sentence, with the working colour it is about. */
export interface Phrase {
  text: string
  tone?: 'ceiling' | 'floor' | 'settled'
}

/** Which of several recordings the verdict of a plan is about: the one that is least clear. */
export const leastClearWords = ({ source, end }: Run): string =>
  `Least clear on ${end.boxName}: ${source.name}.`

/** The verdict of one run in a sentence or two. Its first word says whether the sound will be fine. */
export function verdictOf(run: Run, plan: Plan, wantedSpeechToNoiseDb = 0): Phrase[] {
  const silent = whereItStops(run)
  const stop = run.stop && circuitWords(run.stop.finding)
  if (silent)
    return [
      {
        text: `${run.stop?.finding.code === 'one side' ? 'This side is silent' : 'No sound'}: nothing of ${run.source.name} arrives`,
        tone: 'ceiling',
      },
      { text: stop ? `. ${stop.what} ` : `, it stops at ${silent.partName}. ` },
      { text: stop ? `${stop.remedy} ` : 'Patch shows the contacts there. ' },
    ]
  if (run.end.kind === 'listen') return earWords(run, plan)
  if (run.spill)
    return [
      {
        text: `Spill: ${run.source.name} comes in here behind others; ${run.spill.heldBy} is its recording. `,
      },
      ...headroomWords(run, plan),
    ]
  return [
    ...opening(run, plan, wantedSpeechToNoiseDb),
    ...headroomWords(run, plan),
    ...noiseWords(run, wantedSpeechToNoiseDb),
    ...behindWords(run),
    ...echoWords(run),
  ]
}

/** What echo has to say of a closer microphone need not be said twice. */
function behindWords(run: Run): Phrase[] {
  if (!run.behind) return []
  const { louder, belowDb, isMixed } = run.behind
  const text = `Here ${run.source.name} is ${decibels(belowDb)} softer than ${louder}`
  if (isMixed) return [{ text: `${text}, and a mix cannot be taken apart. ` }]
  const remedy = echoWords(run).length ? '. ' : '; only a closer microphone helps. '
  return [{ text, tone: 'floor' }, { text: remedy }]
}

function echoWords(run: Run): Phrase[] {
  const overDb = echoOverVoiceDb(run)
  if (overDb <= shownDb) return []
  return [
    { text: `The room\u2019s echo is ${decibels(overDb)} louder than the direct voice`, tone: 'floor' },
    { text: ': it sounds far away, and only a closer microphone helps. ' },
  ]
}

/** What was computed for a run and found good, a sentence each: nothing is claimed that was not examined. */
export function foundWell(run: Run, plan: Plan, asked: Asked | undefined): string[] {
  const ceilings = run.points.reduce((sum, point) => sum + point.ceilings.length, 0)
  const { tightest, peakDb } = run
  return [
    tightest
      ? `Of ${ceilings === 1 ? 'one known ceiling' : `${ceilings} known ceilings`} on the way, the narrowest keeps ${decibels(tightest.ceiling.headroomDb)} over the loudest peak; the plan asks for ${decibels(plan.marginDb)}.`
      : 'No ceiling on the way is known, so nothing is said about clipping.',
    ...(run.end.kind === 'listen'
      ? [
          `At the ear ${earDbSpl(run).toFixed(0)} dB SPL, between ${softListeningDbSpl} (too soft to judge by) and ${safeListeningDbSpl} (harmful over a day).`,
        ]
      : [
          asked?.window
            ? `Its peaks, ${signed(peakDb)} dBFS, lie in the window of ${signed(asked.window.lowestDbfs)} to ${signed(asked.window.highestDbfs)} dBFS.`
            : 'The plan asks for no peak level on this recording.',
          `${ratioNameFirst(run.source)} is ${decibels(run.speechToNoiseDb)}; from ${fairSpeechToNoiseDb} dB up it is clear.`,
          ...closeVoiceWords(run),
        ]),
  ]
}

function closeVoiceWords(run: Run): string[] {
  const overDb = -echoOverVoiceDb(run)
  return Number.isFinite(overDb) && overDb > 0
    ? [
        `The direct voice is ${decibels(overDb)} louder than the room\u2019s echo; under 0 dB it sounds far away.`,
      ]
    : []
}

/** The first word of the verdict: clean, or the worst finding. */
function opening(run: Run, plan: Plan, wantedDb: number): Phrase[] {
  const headroomDb = run.tightest?.ceiling.headroomDb ?? Infinity
  if (headroomDb < -shownDb) return [{ text: 'Distorted: ', tone: 'ceiling' }]
  if (run.speechToNoiseDb < wantedDb - shownDb)
    return [{ text: run.speechToNoiseDb < 0 ? 'Lost in noise: ' : 'Too noisy: ', tone: 'floor' }]
  if (headroomDb < plan.marginDb - shownDb) return [{ text: 'Tight: ', tone: 'ceiling' }]
  if (run.speechToNoiseDb < poorSpeechToNoiseDb) return [{ text: 'Noisy: ', tone: 'floor' }]
  if (run.behind && !run.behind.isMixed) return [{ text: 'Too soft: ', tone: 'floor' }]
  if (echoOverVoiceDb(run) > shownDb) return [{ text: 'Far away: ', tone: 'floor' }]
  if (run.speechToNoiseDb < fairSpeechToNoiseDb) return [{ text: 'Usable: ', tone: 'floor' }]
  return [{ text: 'Clean: ', tone: 'settled' }]
}

function headroomWords({ tightest, points, ...run }: Run, plan: Plan): Phrase[] {
  if (!tightest) return []
  const point = points[tightest.point]!
  const place = placeOf(point)
  const { headroomDb, shape } = tightest.ceiling
  if (headroomDb < -shownDb) {
    const who = loudestWords[loudestIn({ tightest, points, ...run })]
    return [
      { text: `${who.charAt(0).toLowerCase()}${who.slice(1)} ` },
      { text: `${overloadWords[shape]} at ${place}, ${decibels(-headroomDb)} too hot`, tone: 'ceiling' },
      { text: '. ' },
    ]
  }
  return [
    {
      text: `${decibels(headroomDb)} of headroom`,
      tone: headroomDb < plan.marginDb - shownDb ? 'ceiling' : 'settled',
    },
    { text: ` at the narrowest place, ${place}. ` },
  ]
}

/** Rise of the noise above that of the boxes if the place makes half of it, and if it makes nine tenths, dB. */
const [mostlyPlaceDb, allPlaceDb] = [3, 10]

function noiseWords(run: Run, wantedDb: number): Phrase[] {
  const [biggest] = run.shares
  const ratio = run.speechToNoiseDb
  const good = ratio >= fairSpeechToNoiseDb && ratio >= wantedDb
  const words: Phrase[] = [
    { text: `${ratioNameFirst(run.source)} ` },
    { text: decibels(ratio), tone: good ? 'settled' : 'floor' },
  ]
  if (ratio < 0)
    words.push({
      text: `: the noise is louder than ${run.source.kind === 'speech' ? 'the voice' : run.source.name}`,
      tone: 'floor',
    })
  else if (ratio < wantedDb - shownDb)
    words.push({ text: `, where the brief asks for ${decibels(wantedDb)}` })
  const placeDb = run.overBoxesDb - ratio
  if (placeDb > mostlyPlaceDb)
    words.push({
      text: `, limited by the place ${placeDb > allPlaceDb ? 'and not by' : 'more than by'} the boxes`,
    })
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
    words.push({ text: `Automatic gain lifts it by ${decibels(run.pauseRiseDb)} in pauses. `, tone: 'floor' })
  return words
}

function earWords(run: Run, plan: Plan): Phrase[] {
  const level = earDbSpl(run)
  const headroomDb = run.tightest?.ceiling.headroomDb ?? Infinity
  const first: Phrase =
    level > safeListeningDbSpl
      ? { text: 'Too loud: ', tone: 'ceiling' }
      : headroomDb < -shownDb
        ? { text: 'Distorted: ', tone: 'ceiling' }
        : level < softListeningDbSpl
          ? { text: 'Too soft to judge by: ', tone: 'floor' }
          : { text: 'Fit to listen by: ', tone: 'settled' }
  return [
    first,
    { text: `at the ear ${level.toFixed(0)} dB SPL for typical speech. ` },
    ...headroomWords(run, plan),
  ]
}
