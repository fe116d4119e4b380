import type { ClipFinding, Severity } from '../findings'
import { usualSpeechDbfs } from './level-histogram'
import { type ChannelMeasurement, type ClipFault, floatingPcm, type Measurement } from '../model'

/** A peak below this is low, dBFS: raising it later raises the noise too. */
const lowPeakDbfs = -40

/** Findings of a clip's measurement: clipping, loudness, and every fault that was found. */
export function clipFindings({ channels, faults, lengthS, codec }: Measurement): ClipFinding[] {
  const floating = codec === floatingPcm
  return [
    ...channels.flatMap((channel, index) => channelFindings(channel, index, lengthS, floating)),
    ...faults.map((fault) => faultFinding(fault, channels[fault.channel]?.speechDbfsA ?? usualSpeechDbfs)),
  ]
}

function channelFindings(
  { clipped, clippedMore, ceilingDbfs, peakDbfs }: ChannelMeasurement,
  index: number,
  lengthS: number,
  floating: boolean,
): ClipFinding[] {
  const subject = { channel: index + 1 }
  const whole = { ranges: [{ fromS: 0, toS: lengthS }], confidence: 1 }
  const [first] = clipped
  const found: ClipFinding[] = []
  if (first) {
    const { shape, fromS: firstS, levelDbfs, confidence } = first
    found.push({
      severity: 'harmful',
      code: 'clip',
      subject,
      figures: { shape, places: clipped.length + clippedMore, firstS, levelDbfs: ceilingDbfs ?? levelDbfs },
      ranges: clipped,
      confidence,
    })
  }
  if (peakDbfs === null) found.push({ severity: 'dead', code: 'silence', subject, figures: {}, ...whole })
  else if (peakDbfs < lowPeakDbfs) {
    const severity = floating ? 'note' : 'degraded'
    found.push({ severity, code: 'low level', subject, figures: { peakDbfs, floating }, ...whole })
  }
  return found
}

/** Severity and figures of a fault, judged against the level of speech, dBFS(A). */
function faultFinding(fault: ClipFault, speechDbfs: number): ClipFinding {
  const { channel, ranges, more, confidence } = fault
  const subject = { channel: channel + 1 }
  const places = { places: ranges.length + more, firstS: ranges[0]?.fromS ?? 0 }
  const where = { subject, ranges, confidence }
  const graded = (isHarmful: boolean): Severity => (isHarmful ? 'harmful' : 'degraded')
  switch (fault.code) {
    case 'hum': {
      const { mainsHz, levelDbfs } = fault
      const underSpeechDb = speechDbfs - levelDbfs
      const severity = underSpeechDb > 45 ? 'note' : graded(underSpeechDb < 25)
      return { code: 'hum', severity, figures: { mainsHz, levelDbfs, underSpeechDb }, ...where }
    }
    case 'wind':
    case 'pop': {
      const severity = graded(fault.code === 'wind' && fault.levelDbfs > speechDbfs)
      return { code: fault.code, severity, figures: { ...places, levelDbfs: fault.levelDbfs }, ...where }
    }
    case 'pumping': {
      const { risesDb, releaseS } = fault
      return {
        code: 'pumping',
        severity: graded(risesDb > 12),
        figures: { ...places, risesDb, releaseS },
        ...where,
      }
    }
    case 'dropout': {
      const { longestS } = fault
      const severity = graded(longestS > 0.02 || places.places > 2)
      return { code: 'dropout', severity, figures: { ...places, longestS }, ...where }
    }
    case 'rustle':
      return {
        code: 'rustle',
        severity: graded(fault.totalS > 1),
        figures: { ...places, totalS: fault.totalS },
        ...where,
      }
    case 'click':
      return {
        code: 'click',
        severity: 'degraded',
        figures: { ...places, levelDbfs: fault.levelDbfs },
        ...where,
      }
    default:
      return pairFinding(fault)
  }
}

type PairFault = Extract<ClipFault, { likeness: number }>

function pairFinding(fault: PairFault): ClipFinding {
  const { channel, ranges, confidence, differenceDb } = fault
  const where = { subject: { channel: channel + 1 }, ranges, confidence }
  const figures = { other: channel, differenceDb }
  switch (fault.code) {
    case 'channels delayed':
      return {
        code: fault.code,
        severity: 'degraded',
        figures: { ...figures, delayMs: fault.delayMs },
        ...where,
      }
    case 'channels opposite':
      return { code: fault.code, severity: 'harmful', figures, ...where }
    case 'one channel silent':
      return { code: fault.code, severity: 'degraded', figures, ...where }
    case 'channels equal':
    case 'channels unequal':
      return { code: fault.code, severity: 'note', figures, ...where }
  }
}
