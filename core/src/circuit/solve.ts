import { ground, type Netlist, type NodeName, nodesOfPart } from './netlist'

/** A complex voltage. */
export interface Phasor {
  re: number
  im: number
}

export const magnitude = ({ re, im }: Phasor): number => Math.hypot(re, im)
export const minus = (one: Phasor, other: Phasor): Phasor => ({
  re: one.re - other.re,
  im: one.im - other.im,
})

/** Node voltages against ground. Nodes that wires join have one voltage; an unknown node has none. */
export interface Solution {
  volts: (node: NodeName) => Phasor
}

/** A network that has no answer; the message names the node that hangs in the air. */
export class SingularNetwork extends Error {
  override name = 'SingularNetwork'
}

/**
 * Leakage of every node to ground, siemens. It gives a floating network (a coil on two legs, a battery box) the
 * potential it has in the world, and is too small to be seen beside any real part: 1 Gohm beside 10 Mohm is 1 %
 * of the largest load there is and 0.0001 % of a usual one.
 */
const leakage = 1e-11
const smallestOhm = 1e-6
/** Part of the flux of one winding that the other sees. */
const coupling = 0.99999

/**
 * Solves a network by nodal analysis at one frequency, for the given sources: those of one signal, or those of the
 * supplies (`undefined`) at 0 Hz. All other sources rest, their resistances stay. Sources enter as currents
 * (Norton), joined nodes are merged first, and the dense system is eliminated with partial pivoting.
 *
 * @param frequencyHz 0 for DC: capacitors are open, windings are wires with a resistance
 * @throws SingularNetwork
 */
export function solve(netlist: Netlist, frequencyHz: number, signal: string | undefined): Solution {
  const joined = joinWires(netlist)
  const omega = 2 * Math.PI * frequencyHz
  const index = new Map<NodeName, number>()
  const at = (node: NodeName): number => {
    const root = joined(node)
    if (root === joined(ground)) return -1
    const known = index.get(root)
    if (known !== undefined) return known
    index.set(root, index.size)
    return index.size - 1
  }
  for (const part of netlist) for (const node of nodesOfPart(part)) at(node)

  const size = index.size
  const width = size + 1
  const re = new Float64Array(size * width)
  const im = new Float64Array(size * width)
  const add = (row: number, column: number, real: number, imaginary: number) => {
    if (row < 0 || column < 0) return
    re[row * width + column]! += real
    im[row * width + column]! += imaginary
  }
  const admit = (from: number, to: number, real: number, imaginary = 0) => {
    add(from, from, real, imaginary)
    add(to, to, real, imaginary)
    add(from, to, -real, -imaginary)
    add(to, from, -real, -imaginary)
  }
  for (let node = 0; node < size; node++) add(node, node, leakage, 0)

  for (const part of netlist) {
    switch (part.kind) {
      case 'wire':
        break
      case 'resistor':
        admit(at(part.from), at(part.to), 1 / Math.max(part.ohm, smallestOhm))
        break
      case 'capacitor':
        admit(at(part.from), at(part.to), 0, omega * part.farad)
        break
      case 'source': {
        const siemens = 1 / Math.max(part.ohm, smallestOhm)
        const [from, to] = [at(part.from), at(part.to)]
        admit(from, to, siemens)
        if (part.signal === signal && (signal !== undefined || frequencyHz === 0)) {
          if (from >= 0) re[from * width + size]! += part.volts * siemens
          if (to >= 0) re[to * width + size]! -= part.volts * siemens
        }
        break
      }
      case 'amplifier': {
        const siemens = 1 / Math.max(part.ohm, smallestOhm)
        const [a, b] = part.first.map(at) as [number, number]
        const [c, d] = part.second.map(at) as [number, number]
        admit(c, d, siemens)
        if (frequencyHz === 0) break
        const transfer = part.gain * siemens
        add(c, a, -transfer, 0)
        add(c, b, transfer, 0)
        add(d, a, transfer, 0)
        add(d, b, -transfer, 0)
        break
      }
      case 'transformer': {
        const [a, b] = part.first.map(at) as [number, number]
        const [c, d] = part.second.map(at) as [number, number]
        if (frequencyHz === 0) {
          admit(a, b, 1 / Math.max(part.windingOhm, smallestOhm))
          admit(c, d, 1 / Math.max(part.windingOhm * part.ratio ** 2, smallestOhm))
          break
        }
        // admittance of two coupled inductances: the inverse of [[L1, M], [M, L2]], over j omega
        const one = part.henry
        const two = part.henry * part.ratio ** 2
        const mutual = coupling * Math.sqrt(one * two)
        const determinant = one * two - mutual * mutual
        const couple = (p: number, q: number, r: number, s: number, value: number) => {
          const imaginary = -value / determinant / omega
          add(p, r, 0, imaginary)
          add(q, s, 0, imaginary)
          add(p, s, 0, -imaginary)
          add(q, r, 0, -imaginary)
        }
        couple(a, b, a, b, two)
        couple(c, d, c, d, one)
        couple(a, b, c, d, -mutual)
        couple(c, d, a, b, -mutual)
      }
    }
  }
  eliminate(re, im, size, () => [...index.keys()])
  return {
    volts: (node) => {
      const row = index.get(joined(node))
      return row === undefined
        ? { re: 0, im: 0 }
        : { re: re[row * width + size]!, im: im[row * width + size]! }
    },
  }
}

/** Gauss with partial pivoting, in place; the last column becomes the answer. */
function eliminate(re: Float64Array, im: Float64Array, size: number, names: () => NodeName[]): void {
  const width = size + 1
  for (let pivot = 0; pivot < size; pivot++) {
    let best = pivot
    let bestSize = 0
    for (let row = pivot; row < size; row++) {
      const at = row * width + pivot
      const value = Math.abs(re[at]!) + Math.abs(im[at]!)
      if (value > bestSize) {
        bestSize = value
        best = row
      }
    }
    if (!(bestSize > 1e-18))
      throw new SingularNetwork(`The network has no answer: ${names()[pivot]} hangs in the air.`)
    if (best !== pivot)
      for (let column = pivot; column < width; column++) {
        const [one, other] = [pivot * width + column, best * width + column]
        ;[re[one], re[other]] = [re[other]!, re[one]!]
        ;[im[one], im[other]] = [im[other]!, im[one]!]
      }
    const head = pivot * width + pivot
    const scale = re[head]! ** 2 + im[head]! ** 2
    const [ir, ii] = [re[head]! / scale, -im[head]! / scale]
    for (let column = pivot; column < width; column++) {
      const at = pivot * width + column
      const [r, i] = [re[at]!, im[at]!]
      re[at] = r * ir - i * ii
      im[at] = r * ii + i * ir
    }
    for (let row = 0; row < size; row++) {
      const lead = row * width + pivot
      const [fr, fi] = [re[lead]!, im[lead]!]
      if (row === pivot || (fr === 0 && fi === 0)) continue
      for (let column = pivot; column < width; column++) {
        const [to, from] = [row * width + column, pivot * width + column]
        re[to]! -= fr * re[from]! - fi * im[from]!
        im[to]! -= fr * im[from]! + fi * re[from]!
      }
    }
  }
}

/** Finds for each node the one that stands for all that wires join it to. */
function joinWires(netlist: Netlist): (node: NodeName) => NodeName {
  const parent = new Map<NodeName, NodeName>()
  const root = (node: NodeName): NodeName => {
    let top = node
    for (let up = parent.get(top); up !== undefined; up = parent.get(top)) top = up
    return top
  }
  for (const part of netlist) {
    if (part.kind !== 'wire') continue
    const [one, other] = [root(part.from), root(part.to)]
    if (one !== other) parent.set(other === ground ? one : other, other === ground ? other : one)
  }
  return root
}
