import { describe, expect, it } from 'vitest'
import { amplitudeDb, amplitudeFromDb } from '../units'
import { FlatTops } from './flat-tops'

/** What is found in samples. */
function found(samples: readonly number[], rateHz = 48_000, bits = 16) {
  const tops = new FlatTops(bits, rateHz)
  tops.push(Float32Array.from(samples))
  return tops.finish()
}
const rest = (count: number) => Array<number>(count).fill(0)
/** Tops of these lengths at a level, each between samples at rest. */
const tops = (level: number, lengths: readonly number[], between = 10) => [
  ...rest(between),
  ...lengths.flatMap((length) => [...Array<number>(length).fill(level), ...rest(between)]),
]

describe('tops cut flat', () => {
  it('are reported with their place, level, shape and number of samples', () => {
    const { clipped, more } = found(tops(-0.5, [6, 7], 100), 1000)
    expect(more).toBe(0)
    expect(clipped).toEqual([
      {
        fromS: 0.1,
        toS: 0.106,
        levelDbfs: amplitudeDb(0.5),
        shape: 'flat below full scale',
        samples: 6,
        confidence: 1,
      },
      {
        fromS: 0.206,
        toS: 0.213,
        levelDbfs: amplitudeDb(0.5),
        shape: 'flat below full scale',
        samples: 7,
        confidence: 1,
      },
    ])
  })
  it('are a limit below full scale when one has 5 samples and all have 10 together', () => {
    expect(found(tops(0.5, [5, 5])).clipped).toHaveLength(1)
    expect(found(tops(0.5, [5, 4])).clipped).toEqual([])
    expect(found(tops(0.5, [4, 4, 4])).clipped).toEqual([])
    expect(found(tops(0.5, [5, 2, 2, 2])).clipped).toEqual([])
  })
  it('are cut at full scale from 3 samples on', () => {
    expect(found(tops(1, [3])).clipped).toHaveLength(1)
    expect(found(tops(1, [2, 2, 2])).clipped).toEqual([])
  })
  it('are at full scale from -0.05 dBFS on', () => {
    expect(found(tops(amplitudeFromDb(-0.045), [12])).clipped[0]!.shape).toBe('flat at full scale')
    expect(found(tops(amplitudeFromDb(-0.055), [12])).clipped[0]!.shape).toBe('flat below full scale')
  })
  it('are left alone where nothing clips', () => {
    expect(found(tops(0.055, [12])).clipped).toHaveLength(1)
    expect(found(tops(0.045, [12])).clipped).toEqual([])
  })
  it('are one range when they are nearer than 0.05 s', () => {
    expect(found(tops(0.5, [6, 6], 49), 1000).clipped).toEqual([
      {
        fromS: 0.049,
        toS: 0.11,
        levelDbfs: amplitudeDb(0.5),
        shape: 'flat below full scale',
        samples: 12,
        confidence: 1,
      },
    ])
    expect(found(tops(0.5, [6, 6], 51), 1000).clipped).toHaveLength(2)
  })
  it('are none as soon as something goes beyond them', () => {
    expect(found([...tops(0.5, [6, 6]), 0.6, 0]).clipped).toEqual([])
    // it does not matter which came first
    expect(found([0.6, ...tops(0.5, [6, 6])]).clipped).toEqual([])
    // the other side has a limit of its own
    expect(found([...tops(0.5, [6, 6]), -0.6, 0]).clipped).toHaveLength(1)
    // at full scale a bit more or less is the same limit
    expect(found([...tops(amplitudeFromDb(-0.04), [6, 6]), 1, 0]).clipped).toHaveLength(1)
  })
  it('are of both sides together', () => {
    const { clipped } = found([...tops(0.5, [6, 6]), ...tops(-0.5, [6, 6])])
    expect(clipped).toHaveLength(1)
    expect(clipped[0]!.samples).toBe(24)
    // each side alone has too few
    expect(found([...tops(0.5, [6]), ...tops(-0.5, [6])]).clipped).toEqual([])
  })
  it('count at the very end of a clip only at full scale', () => {
    const ends = (level: number) => found([...rest(10), ...Array<number>(12).fill(level)]).clipped.length
    expect(ends(1)).toBe(1)
    expect(ends(0.5)).toBe(0)
  })
  it('leave the wave by a corner; a smooth crest does not', () => {
    const step = 1.01 / 2 ** 15
    const length = 12
    // what a parabola that stays within a step for so long falls by at the next sample
    const smooth = step * ((length + 2) / (length - 1)) ** 2
    const left = (before: number, after: number) => {
      const one = [0.5 - before * smooth, ...Array<number>(length).fill(0.5), 0.5 - after * smooth]
      return found([0, ...one, 0, ...one, 0]).clipped.length
    }
    expect(left(1.1, 2.1)).toBe(1)
    expect(left(2.1, 1.1)).toBe(1)
    expect(left(1.5, 1.9)).toBe(0)
    expect(left(0.9, 5)).toBe(0)
    expect(left(5, 0.9)).toBe(0)
  })
  it('are level within a step of the converter, finer than 20 bits never', () => {
    const uneven = (height: number) => [0, 0.5, 0.5 - height, 0.5, 0.5 - height, 0.5, 0]
    const twice = (height: number) => [...uneven(height), ...uneven(height)]
    expect(found(twice(1 / 2 ** 15), 48_000, 16).clipped).toHaveLength(1)
    expect(found(twice(1.1 / 2 ** 15), 48_000, 16).clipped).toEqual([])
    expect(found(twice(1 / 2 ** 19), 48_000, 24).clipped).toHaveLength(1)
    expect(found(twice(1.1 / 2 ** 19), 48_000, 24).clipped).toEqual([])
  })
  it('are counted where there are too many to keep', () => {
    const ranges = found(tops(0.5, Array<number>(510).fill(6), 10), 100)
    expect([ranges.clipped.length, ranges.more]).toEqual([500, 10])
    const many = found(tops(0.5, Array<number>(20_010).fill(6), 3))
    expect([many.clipped.length, many.more, many.clipped[0]!.samples]).toEqual([1, 10, 120_000])
  })
})
