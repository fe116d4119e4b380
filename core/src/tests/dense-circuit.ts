import { ground, type Netlist } from '../circuit'

/**
 * Modified nodal analysis in complex numbers, written for this test alone: ideal voltage sources get rows of their
 * own behind a node of their own, wires become voltage sources of 0 V, transformers two coupled inductor rows.
 */
export function dense(
  netlist: Netlist,
  frequencyHz: number,
  signal: string | undefined,
): Map<string, [number, number]> {
  const names = new Set<string>()
  /** Branches with a current of their own: volts across, plus what its own and another's current and another pair add. */
  const currents: {
    from: string
    to: string
    volts: number
    own?: [number, number]
    mutual?: { branch: number; by: [number, number] }
    follows?: { of: readonly [string, string]; gain: number }
  }[] = []
  const admittances: { from: string; to: string; re: number; im: number }[] = []
  const omega = 2 * Math.PI * frequencyHz
  for (const [index, part] of netlist.entries()) {
    if (part.kind === 'transformer') {
      const at = currents.length
      const [one, two] = [part.henry, part.henry * part.ratio ** 2]
      const mutual = omega * Math.sqrt((one - part.leakageHenry) * two)
      const own = (henry: number, windingOhm: number): [number, number] => [windingOhm, omega * henry]
      currents.push(
        {
          from: part.first[0],
          to: part.first[1],
          volts: 0,
          own: own(one, part.firstOhm),
          mutual: { branch: at + 1, by: [0, mutual] },
        },
        {
          from: part.second[0],
          to: part.second[1],
          volts: 0,
          own: own(two, part.secondOhm),
          mutual: { branch: at, by: [0, mutual] },
        },
      )
    } else if (part.kind === 'amplifier')
      currents.push({
        from: part.second[0],
        to: part.second[1],
        volts: 0,
        own: [part.ohm, 0],
        follows: omega === 0 ? undefined : { of: part.first, gain: part.gain },
      })
    else if (part.kind === 'resistor')
      admittances.push({ from: part.from, to: part.to, re: 1 / part.ohm, im: 0 })
    else if (part.kind === 'capacitor')
      admittances.push({ from: part.from, to: part.to, re: 0, im: omega * part.farad })
    else if (part.kind === 'wire') currents.push({ from: part.from, to: part.to, volts: 0 })
    else if (part.ohm === 0)
      currents.push({ from: part.from, to: part.to, volts: part.signal === signal ? part.volts : 0 })
    else {
      const inner = `inner ${index}`
      admittances.push({ from: part.from, to: inner, re: 1 / part.ohm, im: 0 })
      currents.push({ from: inner, to: part.to, volts: part.signal === signal ? part.volts : 0 })
    }
  }
  for (const { from, to } of [...admittances, ...currents]) names.add(from).add(to)
  for (const { follows } of currents) follows?.of.forEach((name) => names.add(name))
  names.delete(ground)
  const list = [...names]
  const size = list.length + currents.length
  const matrix: [number, number][][] = Array.from({ length: size }, () =>
    Array.from({ length: size + 1 }, () => [0, 0]),
  )
  const row = (name: string) => list.indexOf(name)
  const put = (r: number, c: number, re: number, im: number) => {
    if (r < 0 || c < 0) return
    matrix[r]![c]![0] += re
    matrix[r]![c]![1] += im
  }
  for (const name of list) if (!name.startsWith('inner')) put(row(name), row(name), 1e-11, 0)
  for (const { from, to, re, im } of admittances)
    for (const [r, c, sign] of [
      [from, from, 1],
      [to, to, 1],
      [from, to, -1],
      [to, from, -1],
    ] as const)
      put(row(r), row(c), sign * re, sign * im)
  currents.forEach(({ from, to, volts, own, mutual, follows }, index) => {
    const k = list.length + index
    put(row(from), k, 1, 0)
    put(row(to), k, -1, 0)
    put(k, row(from), 1, 0)
    put(k, row(to), -1, 0)
    matrix[k]![size] = [volts, 0]
    if (own) put(k, k, -own[0], -own[1])
    if (mutual) put(k, list.length + mutual.branch, -mutual.by[0], -mutual.by[1])
    if (follows) {
      put(k, row(follows.of[0]), -follows.gain, 0)
      put(k, row(follows.of[1]), follows.gain, 0)
    }
  })
  const times = ([a, b]: [number, number], [c, d]: [number, number]): [number, number] => [
    a * c - b * d,
    a * d + b * c,
  ]
  const over = ([a, b]: [number, number], [c, d]: [number, number]): [number, number] => [
    (a * c + b * d) / (c * c + d * d),
    (b * c - a * d) / (c * c + d * d),
  ]
  for (let p = 0; p < size; p++) {
    let best = p
    for (let r = p; r < size; r++)
      if (Math.hypot(...matrix[r]![p]!) > Math.hypot(...matrix[best]![p]!)) best = r
    ;[matrix[p], matrix[best]] = [matrix[best]!, matrix[p]!]
    for (let r = p + 1; r < size; r++) {
      const factor = over(matrix[r]![p]!, matrix[p]![p]!)
      if (factor[0] === 0 && factor[1] === 0) continue
      for (let c = p; c <= size; c++) {
        const [re, im] = times(factor, matrix[p]![c]!)
        matrix[r]![c]![0] -= re
        matrix[r]![c]![1] -= im
      }
    }
  }
  const answer: [number, number][] = Array.from({ length: size }, () => [0, 0])
  for (let r = size - 1; r >= 0; r--) {
    let [re, im] = matrix[r]![size]!
    for (let c = r + 1; c < size; c++) {
      const [a, b] = times(matrix[r]![c]!, answer[c]!)
      re -= a
      im -= b
    }
    answer[r] = over([re, im], matrix[r]![r]!)
  }
  return new Map(list.map((name, index) => [name, answer[index]!]))
}
