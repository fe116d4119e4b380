import { describe, expect, it } from 'vitest'
import { reason, type ReasonFigures } from '../findings'
import { assumptionWords, cureWords, preflightWords, reasonWords } from './index'

describe('reasons of Balance', () => {
  it('say what keeps it from more, with figures and the cure that fits the cause', () => {
    const over = {
      point: 'Short gun, capsule',
      partName: 'Short gun',
      overDb: 4.2,
      marginDb: 3,
      isProved: true,
    }
    expect(reasonWords(reason('over', { ...over, atMicrophone: true }))).toMatch(
      /^No setting keeps 3\.0 dB .* Short gun, capsule is 4\.2 dB short\. .* move it farther away/,
    )
    // a pad takes whole decibels, never fewer than it is short of
    expect(reasonWords(reason('over', { ...over, atMicrophone: false }))).toMatch(/A pad of 5 dB or more/)
    expect(reasonWords(reason('over', { ...over, atMicrophone: true, isProved: false }))).toMatch(
      /^No setting that was tried keeps 3\.0 dB/,
    )
    const outside = { peakTarget: 'usual' as const, outsideDb: 1.3 }
    const because = (cause: ReasonFigures['outside']['because']) =>
      reasonWords(reason('outside', { ...outside, because: cause }))
    expect(because('coarse steps')).toMatch(/finer steps/)
    expect(because('short range')).toMatch(/What would cure it\?/)
    expect(because('not known')).toMatch(/^No setting that was tried .* stays 1\.3 dB outside\.$/)
    expect(because('nothing to turn')).toMatch(/stays 1\.3 dB outside\.$/)
  })
  it('tell a ceiling that is passed from one with room', () => {
    expect(reasonWords(reason('binding', { point: 'Camera, input', headroomDb: -2 }))).toMatch(
      /passed by 2\.0 dB\.$/,
    )
    expect(reasonWords(reason('binding', { point: 'Camera, input', headroomDb: 3.1 }))).toMatch(
      /3\.1 dB to spare\.$/,
    )
  })
  it('promise no gain where none is left or none is known', () => {
    for (const mayGainDb of [0, 0.04, Infinity])
      expect(reasonWords(reason('unproved', { mayGainDb }))).toMatch(/the best there is\.$/)
    expect(reasonWords(reason('unproved', { mayGainDb: 1.25 }))).toMatch(/up to 1\.3 dB clearer\.$/)
  })
})

describe('short lines', () => {
  it('name what is changed, assumed and looked at', () => {
    expect(cureWords({ kind: 'insert', thing: 'Pad 20 dB', between: ['Desk', 'Camera'] })).toBe(
      'Pad 20 dB between Desk and Camera',
    )
    expect(cureWords({ kind: 'insert', thing: 'Pad', between: ['Desk', 'Camera'], replaces: 'Cable' })).toBe(
      'Pad in place of Cable between Desk and Camera',
    )
    expect(cureWords({ kind: 'margin', marginDb: 1.5, beforeDb: 3 })).toBe(
      'A margin of 1.5 dB instead of 3.0',
    )
    expect(assumptionWords({ partName: 'Camera', place: 'Preamplifier', figure: 'inputNoiseDbuA' })).toBe(
      'Camera, Preamplifier: input noise is not known; a typical value is used',
    )
    expect(preflightWords({ kind: 'start', recorders: ['Recorder', 'Camera'] })).toBe(
      'Start Recorder, then Camera, then clap',
    )
    expect(preflightWords({ kind: 'start', recorders: ['Phone'] })).toBe(
      'Start Phone, and see that it really records',
    )
    expect(preflightWords({ kind: 'radio', sender: 'Sender', receiver: 'Receiver', channel: '2' })).toBe(
      'Sender linked to Receiver, both on channel 2, fresh cells at both ends',
    )
    expect(preflightWords({ kind: 'listen', boxes: [] })).toMatch(/play them back/)
  })
})
