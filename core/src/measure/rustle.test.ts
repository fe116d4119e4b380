import { describe, expect, it } from 'vitest'
import { normal, random } from '../signals'
import { RustleMeter } from './rustle'

const rateHz = 12_000
const lengthS = 4
/** Noise, and between 1 and 1.6 s crackles so many seconds apart, evenly or by chance. */
function rustleIn(apartS: number, byChance: boolean, seed = 9) {
  const next = normal(random(4))
  const chance = random(seed)
  const samples = Float32Array.from({ length: lengthS * rateHz }, () => 0.0005 * next())
  for (let at = 1; at < 1.6; at += byChance ? -Math.log(1 - chance()) * apartS : apartS)
    samples[Math.round(at * rateHz)]! += byChance ? 0.2 * (chance() + 0.5) : 0.2
  const meter = new RustleMeter(rateHz)
  meter.push(samples)
  return meter.finish(-25)
}

describe('rustle', () => {
  it('is crackles by chance, from where they begin to where they end', () => {
    const { ranges, confidence } = rustleIn(0.006, true)
    expect(ranges).toHaveLength(1)
    expect(Math.abs(ranges[0]!.fromS - 1)).toBeLessThan(0.05)
    expect(Math.abs(ranges[0]!.toS - 1.6)).toBeLessThan(0.05)
    expect(confidence).toBeGreaterThan(0.9)
  })
  it('is heard where they come as far apart as a voice has them, if that lasts longer than a consonant', () => {
    const found = Array.from({ length: 40 }, (_, seed) => rustleIn(0.008, true, seed).ranges.length > 0)
    expect(found.filter(Boolean).length).toBeGreaterThan(29)
  })
  it('is none where they come evenly, as a voice has them', () => {
    expect(rustleIn(0.008, false).ranges).toEqual([])
  })
  it('is none where a single one stands alone, nor in noise', () => {
    expect(rustleIn(1, false).ranges).toEqual([])
  })
})
