import type { Rung } from '../model'

/**
 * Gain of a source behind a resistance through a ladder into a load, by node voltages: a dense solution of Kirchhoff's
 * current law that shares nothing with the code.
 */
export function denseGain(sourceOhm: number, rungs: readonly Rung[], loadOhm: number): number {
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
  const matrix = Array.from({ length: size }, (_row, row) =>
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
