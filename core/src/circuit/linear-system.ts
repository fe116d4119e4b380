/** A dense square system in complex numbers, factored once, in the arrays given, and solved for any right side. */
export class LinearSystem {
  private readonly order: Int32Array

  /** @param re real parts, `im` imaginary parts, row by row */
  constructor(
    readonly size: number,
    private readonly re: Float64Array,
    private readonly im: Float64Array,
  ) {
    this.order = Int32Array.from({ length: size }, (_, row) => row)
  }

  /**
   * Factors in place into a lower and an upper triangle (Doolittle, with partial pivoting).
   *
   * @returns the column that has no pivot, or undefined when the system has one answer
   */
  factor(): number | undefined {
    const { size, re, im } = this
    for (let pivot = 0; pivot < size; pivot++) {
      let best = pivot
      let largest = 0
      for (let row = pivot; row < size; row++) {
        const entry = row * size + pivot
        const value = Math.abs(re[entry]!) + Math.abs(im[entry]!)
        if (value > largest) {
          largest = value
          best = row
        }
      }
      if (!(largest > smallestPivot)) return pivot
      if (best !== pivot) this.exchange(pivot, best)
      const head = pivot * size + pivot
      const scale = re[head]! ** 2 + im[head]! ** 2
      const [inverseRe, inverseIm] = [re[head]! / scale, -im[head]! / scale]
      for (let row = pivot + 1; row < size; row++) {
        const lead = row * size + pivot
        const [a, b] = [re[lead]!, im[lead]!]
        if (a === 0 && b === 0) continue
        const factorRe = a * inverseRe - b * inverseIm
        const factorIm = a * inverseIm + b * inverseRe
        re[lead] = factorRe
        im[lead] = factorIm
        for (let column = pivot + 1; column < size; column++) {
          const [to, from] = [row * size + column, pivot * size + column]
          re[to]! -= factorRe * re[from]! - factorIm * im[from]!
          im[to]! -= factorRe * im[from]! + factorIm * re[from]!
        }
      }
    }
    return undefined
  }

  /** The answer for a real right side, after `factor`. */
  solve(rightSide: Float64Array): { re: Float64Array; im: Float64Array } {
    const { size, re, im, order } = this
    const x = Float64Array.from(order, (row) => rightSide[row]!)
    const y = new Float64Array(size)
    for (let row = 1; row < size; row++) for (let column = 0; column < row; column++) subtract(row, column)
    for (let row = size - 1; row >= 0; row--) {
      for (let column = row + 1; column < size; column++) subtract(row, column)
      const head = row * size + row
      const scale = re[head]! ** 2 + im[head]! ** 2
      const [a, b] = [x[row]!, y[row]!]
      x[row] = (a * re[head]! + b * im[head]!) / scale
      y[row] = (b * re[head]! - a * im[head]!) / scale
    }
    return { re: x, im: y }

    function subtract(row: number, column: number): void {
      const entry = row * size + column
      x[row]! -= re[entry]! * x[column]! - im[entry]! * y[column]!
      y[row]! -= re[entry]! * y[column]! + im[entry]! * x[column]!
    }
  }

  private exchange(one: number, other: number): void {
    const { size, re, im, order } = this
    for (let column = 0; column < size; column++) {
      const [a, b] = [one * size + column, other * size + column]
      ;[re[a], re[b]] = [re[b]!, re[a]!]
      ;[im[a], im[b]] = [im[b]!, im[a]!]
    }
    ;[order[one], order[other]] = [order[other]!, order[one]!]
  }
}

const smallestPivot = 1e-18
