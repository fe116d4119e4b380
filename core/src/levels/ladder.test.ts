import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import type { Rung } from '../model'
import { inputOhm, loadedLadder } from './ladder'

const rung: fc.Arbitrary<Rung> = fc.oneof(
  fc.record({ seriesOhm: fc.double({ min: 0, max: 1e5, noNaN: true }) }),
  fc.record({ shuntOhm: fc.double({ min: 1, max: 1e6, noNaN: true }) }),
)

/** The same ladder by node voltages: a dense solution of Kirchhoff's current law, nothing shared with the code. */
function denseGain(sourceOhm: number, rungs: Rung[], loadOhm: number): number {
  const series = [sourceOhm]
  const shunts: number[] = []
  for (const each of [...rungs, { shuntOhm: loadOhm }]) {
    if ('seriesOhm' in each) {
      shunts[series.length - 1] ??= 0
      series.push(each.seriesOhm)
    } else shunts[series.length - 1] = (shunts[series.length - 1] ?? 0) + 1 / each.shuntOhm
  }
  const size = series.length
  const g = series.map((ohm) => 1 / Math.max(ohm, 1e-6))
  const matrix = Array.from({ length: size }, (_, row) =>
    Array.from({ length: size + 1 }, (_, column) => {
      if (column === size) return row === 0 ? g[0]! : 0
      if (column === row) return g[row]! + (g[row + 1] ?? 0) + (shunts[row] ?? 0)
      if (column === row + 1) return -g[row + 1]!
      return column === row - 1 ? -g[row]! : 0
    }),
  )
  for (let pivot = 0; pivot < size; pivot++)
    for (let row = pivot + 1; row < size; row++) {
      const factor = matrix[row]![pivot]! / matrix[pivot]![pivot]!
      for (let column = pivot; column <= size; column++)
        matrix[row]![column]! -= factor * matrix[pivot]![column]!
    }
  return matrix[size - 1]![size]! / matrix[size - 1]![size - 1]!
}

describe('a loaded ladder', () => {
  it('agrees with the worked case: 300 ohm into 2400 ohm loses 1.023 dB', () => {
    expect(loadedLadder(300, [], 2400).gainsDb[0]).toBeCloseTo(-1.023, 3)
  })
  it('agrees with node voltages on any ladder, however it is cut into pieces', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 1e4, noNaN: true }),
        fc.array(fc.array(rung, { maxLength: 4 }), { minLength: 1, maxLength: 4 }),
        fc.double({ min: 10, max: 1e6, noNaN: true }),
        (sourceOhm, groups, loadOhm) => {
          const total = loadedLadder(sourceOhm, groups, loadOhm).gainsDb.reduce((sum, gain) => sum + gain, 0)
          expect(total).toBeCloseTo(20 * Math.log10(denseGain(sourceOhm, groups.flat(), loadOhm)), 3)
        },
      ),
    )
  })
  it('never gains', () => {
    fc.assert(
      fc.property(
        fc.array(rung, { maxLength: 6 }),
        fc.double({ min: 10, max: 1e6, noNaN: true }),
        (rungs, loadOhm) => {
          for (const gain of loadedLadder(100, [rungs], loadOhm).gainsDb)
            expect(gain).toBeLessThanOrEqual(1e-9)
        },
      ),
    )
  })
  it('looks into a 40 dB pad and sees its shunts', () => {
    expect(inputOhm([[{ seriesOhm: 9900 }, { shuntOhm: 100 }]], Infinity)).toBeCloseTo(10000, 9)
    expect(loadedLadder(0, [[{ seriesOhm: 9900 }, { shuntOhm: 100 }]], Infinity).sourceOhm).toBeCloseTo(99, 9)
  })
})
