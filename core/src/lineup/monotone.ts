/**
 * The nearest row of numbers that never falls, in the sense of least squares: neighbours that fall are pooled until none
 * does (the pool-adjacent-violators algorithm; Ayer et al. 1955).
 */
export function risingFit(values: ArrayLike<number>): Float64Array {
  const means = new Float64Array(values.length)
  const counts = new Float64Array(values.length)
  let last = -1
  for (let index = 0; index < values.length; index++) {
    last++
    means[last] = values[index]!
    counts[last] = 1
    while (last > 0 && means[last - 1]! > means[last]!) {
      const together = counts[last - 1]! + counts[last]!
      means[last - 1] = (means[last - 1]! * counts[last - 1]! + means[last]! * counts[last]!) / together
      counts[last - 1] = together
      last--
    }
  }
  const fit = new Float64Array(values.length)
  let from = 0
  for (let block = 0; block <= last; block++) {
    fit.fill(means[block]!, from, from + counts[block]!)
    from += counts[block]!
  }
  return fit
}
