/** A square matrix by rows. */
export type Matrix = readonly Float64Array[]

/** Added to the diagonal so that rounding cannot make a nearly certain variance negative, dB squared. */
const jitter = 1e-9

/**
 * The lower triangle L with L L' = the symmetric matrix, by the method of Cholesky. What is as good as certain counts
 * as certain.
 */
export function choleskyOf(matrix: Matrix): Matrix {
  const size = matrix.length
  const lower = Array.from({ length: size }, () => new Float64Array(size))
  for (let row = 0; row < size; row++)
    for (let column = 0; column <= row; column++) {
      let sum = matrix[row]![column]!
      for (let each = 0; each < column; each++) sum -= lower[row]![each]! * lower[column]![each]!
      if (row === column) lower[row]![column] = Math.sqrt(Math.max(jitter, sum))
      else lower[row]![column] = sum / lower[column]![column]!
    }
  return lower
}

/** The x with L L' x = b. */
export function solvedBy(lower: Matrix, right: ArrayLike<number>): Float64Array {
  const size = lower.length
  const x = Float64Array.from(right)
  for (let row = 0; row < size; row++) {
    for (let each = 0; each < row; each++) x[row]! -= lower[row]![each]! * x[each]!
    x[row]! /= lower[row]![row]!
  }
  for (let row = size - 1; row >= 0; row--) {
    for (let each = row + 1; each < size; each++) x[row]! -= lower[each]![row]! * x[each]!
    x[row]! /= lower[row]![row]!
  }
  return x
}

/** A vector with the covariance L L', made of independent draws from the normal distribution. */
export function drawn(lower: Matrix, normal: () => number): Float64Array {
  const independent = Float64Array.from({ length: lower.length }, normal)
  return Float64Array.from(lower, (row, last) => {
    let sum = 0
    for (let index = 0; index <= last; index++) sum += row[index]! * independent[index]!
    return sum
  })
}
