import { describe, expect, it } from 'vitest'
import { ClickMeter } from '../measure/clicks'
import { DropoutMeter } from '../measure/dropouts'
import { levelsOf } from '../model'
import { scenes } from '../tests/demo'
import { cases } from '../tests/form'
import { rateHz } from '../tests/listen'
import { amplitudeDb } from '../units'
import { clipVoice, loudestS, momentAt, strikingVoice, talkingVoice, type Voice } from './index'
import { Duck } from './duck'
import { Ambience, NoiseTable } from './noise'

describe('made-up voices', () => {
  const speech = scenes[0]!.brief.sources[0]!
  const samples = (voice: Voice, seconds: number) => {
    const all = new Float32Array(seconds * rateHz)
    for (let from = 0; from < all.length; from += 4096) {
      const block = new Float32Array(Math.min(4096, all.length - from))
      voice.fill(block, from)
      all.set(block, from)
    }
    return all
  }
  /** Over several rounds: moments begin in the middle of a block, and their times are rounded. */
  const clicksIn = (voice: Pick<Voice, 'fill'>, hz: number) => {
    const meter = new ClickMeter(hz)
    const block = new Float32Array(4096)
    for (let from = 0; from < 40 * hz; from += block.length) {
      voice.fill(block, from)
      meter.push(block)
    }
    return meter.finish()
  }
  const rmsDb = (part: Float32Array) =>
    amplitudeDb(Math.sqrt((2 * part.reduce((sum, sample) => sum + sample * sample, 0)) / part.length))

  it('talk at their typical level, quieter and louder as the source says, and pause', () => {
    const all = samples(talkingVoice(speech, rateHz, 3), 14)
    const at = (from: number, to: number) => rmsDb(all.subarray(from * rateHz, to * rateHz))
    const levels = levelsOf(speech)
    expect(Math.abs(at(0.2, 2))).toBeLessThan(1.5)
    const loud = at(loudestS.from + 0.1, loudestS.to - 0.1)
    expect(Math.abs(loud - (levels.loudest - levels.typical))).toBeLessThan(2)
    expect(at(2.3, loudestS.from - 0.1)).toBeLessThan(-100)
    expect(momentAt(2.3).effort).toBe('pause')
  })
  it.each(cases([44_100, 48_000, 96_000], [44_100]))('have no click in them at %i Hz', (hz) => {
    const music = { ...speech, kind: 'music' as const }
    for (const source of [speech, music])
      expect(clicksIn(talkingVoice(source as typeof speech, hz, 3), hz)).toEqual([])
  })
  it('do not drop out between syllables, where a feed brings them without a room and nearly without noise', () => {
    const feed = samples(talkingVoice({ ...speech, kind: 'music' } as typeof speech, rateHz, 3), 40)
    const noise = new NoiseTable(5)
    noise.add(feed, 1e-5)
    const meter = new DropoutMeter(rateHz)
    meter.push(feed)
    expect(meter.finish().ranges).toEqual([])
  })
  it('fall under somebody else without a click', () => {
    const duck = new Duck(14, rateHz)
    const music = talkingVoice({ ...speech, kind: 'music', id: 'music' } as typeof speech, rateHz, 3)
    const words = talkingVoice(speech, rateHz, 4)
    const other = new Float32Array(4096)
    const fill: Voice['fill'] = (block, fromFrame) => {
      music.fill(block, fromFrame)
      words.fill(other, fromFrame)
      duck.apply(block, [other])
    }
    expect(clicksIn({ fill }, rateHz)).toEqual([])
  })
  it('and a place that gets loud have no click in them', () => {
    const place = { spectrum: 'traffic', levelDba: -20, loudestDba: -5, crestDb: 14 } as const
    const ambience = new Ambience(place, rateHz, new NoiseTable(5))
    const scratch = new Float32Array(4096)
    const fill: Voice['fill'] = (block, fromFrame) => {
      block.fill(0)
      ambience.add(block, scratch, fromFrame)
    }
    expect(clicksIn({ fill }, rateHz)).toEqual([])
  })
  it('begin each moment with its peak, to a tenth of a decibel, and never go beyond', () => {
    const all = samples(talkingVoice(speech, rateHz, 3), 14)
    const peakDb = (from: number, to: number) =>
      amplitudeDb(
        all.subarray(from * rateHz, to * rateHz).reduce((most, each) => Math.max(most, Math.abs(each)), 0),
      )
    const levels = levelsOf(speech)
    const over = speech.crestDb - 3.01
    expect(peakDb(0, 2.2)).toBeCloseTo(over, 1)
    expect(peakDb(loudestS.from, loudestS.to)).toBeCloseTo(levels.loudest - levels.typical + over, 1)
  })
  it('go on without a pause where the source never makes one', () => {
    const music = { ...speech, kind: 'music' as const, id: 'music' }
    if (speech.kind === 'line') throw new Error('a voice was wanted')
    const all = samples(talkingVoice(music as typeof speech, rateHz, 3), 5)
    expect(rmsDb(all.subarray(2.4 * rateHz, 5 * rateHz))).toBeGreaterThan(-3)
  })
  it('strike with the peak that the loudest moment has, between remarks', () => {
    const bell = scenes.find(({ name }) => name === 'The tuning')!.brief.sources[0]!
    const all = samples(strikingVoice(bell, rateHz, 2), 14)
    const peakDb = amplitudeDb(all.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0))
    const levels = levelsOf(bell)
    expect(Math.abs(peakDb - (levels.loudest - levels.typical + bell.crestDb - 3.01))).toBeLessThan(0.3)
    expect(rmsDb(all.subarray(11 * rateHz, 13 * rateHz))).toBeGreaterThan(-25)
  })
  it('are the same for the same seed, and others for another', () => {
    const [one, same, other] = [1, 1, 2].map((seed) => samples(talkingVoice(speech, rateHz, seed), 1))
    expect(one).toEqual(same)
    expect(one).not.toEqual(other)
  })
  it('may be somebody\u2019s own clip, brought to the typical level', () => {
    const clip = Float32Array.from({ length: rateHz }, (_, frame) => 0.01 * Math.sin(frame / 5))
    expect(rmsDb(samples(clipVoice(clip), 1))).toBeCloseTo(0, 1)
    expect(samples(clipVoice(new Float32Array(rateHz)), 1).every((sample) => sample === 0)).toBe(true)
  })
})
