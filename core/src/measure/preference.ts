/**
 * How often somebody who hears no difference would prefer one of two as often as that, or more, whichever it is: 0 to 1.
 * Tosses of a coin, both tails.
 */
export function chanceOfPreference(one: number, other: number): number {
  const total = one + other
  const most = Math.max(one, other)
  let [ways, sum] = [1, 0]
  for (let heads = 0; heads <= total; heads++) {
    if (heads >= most) sum += ways
    ways = (ways * (total - heads)) / (heads + 1)
  }
  return Math.min(1, (2 * sum) / 2 ** total)
}
