import { describe, expect, it } from 'vitest'
import { type ClipFault, ClipFault as Fault, floatingPcm, Measurement } from '../model'
import { clipFindings } from './clip-findings'

const ranges = [{ fromS: 2, toS: 3 }]
const fault = (figures: object, count = 1): ClipFault =>
  Fault.parse({
    channel: 0,
    ranges: Array.from({ length: count }, () => ranges[0]),
    more: 0,
    confidence: 0.8,
    ...figures,
  })
/** A clip whose speech is at -30 dBFS(A). */
const clip = (faults: ClipFault[], channel: object = {}, codec = 'PCM'): Measurement =>
  Measurement.parse({
    format: 'iron-hush/measurement',
    version: 1,
    clip: 'a.wav',
    container: 'WAV',
    codec,
    bits: 24,
    rateHz: 48_000,
    lengthS: 10,
    faults,
    channels: [
      {
        peakDbfs: -12,
        peakAtS: 1,
        rmsDbfs: -32,
        speechDbfsA: -30,
        noiseDbfsA: -70,
        pauses: true,
        clipped: [],
        clippedMore: 0,
        worstPeak: [],
        envelope: [],
        ...channel,
      },
    ],
    remarks: [],
  })
const severityOf = (found: ClipFault) => clipFindings(clip([found]))[0]!.severity

describe('how bad a fault is', () => {
  it.each([
    ['hum 24 dB under speech', fault({ code: 'hum', mainsHz: 50, levelDbfs: -54 }), 'harmful'],
    ['hum 26 dB under speech', fault({ code: 'hum', mainsHz: 50, levelDbfs: -56 }), 'degraded'],
    ['hum 44 dB under speech', fault({ code: 'hum', mainsHz: 50, levelDbfs: -74 }), 'degraded'],
    ['hum 46 dB under speech', fault({ code: 'hum', mainsHz: 50, levelDbfs: -76 }), 'note'],
    ['wind over speech', fault({ code: 'wind', levelDbfs: -29 }), 'harmful'],
    ['wind under speech', fault({ code: 'wind', levelDbfs: -31 }), 'degraded'],
    ['a pop over speech', fault({ code: 'pop', levelDbfs: -20 }), 'degraded'],
    ['pauses that rise 11 dB', fault({ code: 'pumping', risesDb: 11, releaseS: 1 }), 'degraded'],
    ['pauses that rise 13 dB', fault({ code: 'pumping', risesDb: 13, releaseS: 1 }), 'harmful'],
    ['two dropouts of 19 ms', fault({ code: 'dropout', longestS: 0.019 }, 2), 'degraded'],
    ['a dropout of 21 ms', fault({ code: 'dropout', longestS: 0.021 }), 'harmful'],
    ['three dropouts', fault({ code: 'dropout', longestS: 0.005 }, 3), 'harmful'],
    ['0.9 s of rustle', fault({ code: 'rustle', totalS: 0.9 }), 'degraded'],
    ['1.1 s of rustle', fault({ code: 'rustle', totalS: 1.1 }), 'harmful'],
    ['a click', fault({ code: 'click', levelDbfs: -6 }), 'degraded'],
    ['an upside-down pair', fault({ code: 'channels opposite', differenceDb: 0, likeness: -1 }), 'harmful'],
    ['an equal pair', fault({ code: 'channels equal', differenceDb: 0, likeness: 1 }), 'note'],
  ])('%s', (_, found, severity) => expect(severityOf(found)).toBe(severity))
  it('goes by usual speech where none was found', () => {
    const hum = fault({ code: 'hum', mainsHz: 60, levelDbfs: -60 })
    const [found] = clipFindings(clip([hum], { speechDbfsA: null }))
    expect(found).toMatchObject({ severity: 'degraded', figures: { mainsHz: 60, levelDbfs: -60 } })
  })
})

describe('what is said of a fault', () => {
  it('counts channels from 1, and the places that are not listed too', () => {
    const [found] = clipFindings(clip([{ ...fault({ code: 'click', levelDbfs: -6 }, 2), more: 3 }]))
    expect(found).toMatchObject({
      code: 'click',
      subject: { channel: 1 },
      figures: { places: 5, firstS: 2 },
      confidence: 0.8,
    })
  })
  it('of low peaks is worse where more gain would have helped', () => {
    expect(clipFindings(clip([], { peakDbfs: -39 }))).toEqual([])
    expect(clipFindings(clip([], { peakDbfs: -41 }))[0]).toMatchObject({
      code: 'low level',
      severity: 'degraded',
    })
    expect(clipFindings(clip([], { peakDbfs: -41 }, floatingPcm))[0]).toMatchObject({ severity: 'note' })
  })
})
