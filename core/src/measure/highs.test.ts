import { describe, expect, it } from 'vitest'
import { random } from '../signals'
import { highBetween, highsOf, stretchFrames } from './highs'
import { Overview } from './overview'

const chance = random(8)
const samples = Float32Array.from({ length: 3 * stretchFrames + 20 }, () => 2 * chance() - 1)
const highest = (from: number, to: number) => Math.max(...samples.subarray(from, to).map(Math.abs))

describe('the highest sizes of stretches', () => {
  it('are those of their samples, the last of a short one', () => {
    const starts = [0, 1, 2, 3].map((stretch) => stretch * stretchFrames)
    expect([...highsOf(samples)]).toEqual(starts.map((from) => highest(from, from + stretchFrames)))
  })
  it('give the highest between any two places', () => {
    const highs = highsOf(samples)
    for (let from = 0; from < samples.length; from += 7)
      for (let to = from + 1; to <= samples.length; to += 13)
        expect(highBetween(samples, highs, from, to)).toBe(highest(from, to))
  })
})

describe('the overview of a clip', () => {
  it('has the highest of every slice over all channels, as far as it is read', () => {
    const length = 120 * 2 * stretchFrames
    const overview = new Overview(length)
    const push = (to: number, at: number, size: number) => {
      const block = new Float32Array(to)
      block[at] = -size
      overview.push([highsOf(new Float32Array(to)), highsOf(block)], to)
    }
    push(20 * stretchFrames, 5 * stretchFrames, 0.5)
    expect(overview.read).toHaveLength(10)
    expect(overview.read.flatMap((high, slice) => (high ? [[slice, high]] : []))).toEqual([[2, 0.5]])
    push(length - 20 * stretchFrames, 0, 0.25)
    expect(overview.read).toHaveLength(overview.all)
    expect(overview.read.flatMap((high, slice) => (high ? [[slice, high]] : []))).toEqual([
      [2, 0.5],
      [10, 0.25],
    ])
  })
  it('takes more than the file promised into its last slice', () => {
    const overview = new Overview(120 * stretchFrames)
    overview.push([highsOf(new Float32Array(240 * stretchFrames).fill(0.125))], 240 * stretchFrames)
    expect(overview.read).toEqual(Array.from({ length: 120 }, () => 0.125))
  })
})
