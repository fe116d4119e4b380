import { LinearSystem } from './linear-system'
import { ground, type Netlist, type NodeName, nodesOfPart, type Part } from './netlist'

/** A complex voltage or current. */
export interface Phasor {
  re: number
  im: number
}

export const magnitude = ({ re, im }: Phasor): number => Math.hypot(re, im)
export const minus = (one: Phasor, other: Phasor): Phasor => ({
  re: one.re - other.re,
  im: one.im - other.im,
})
const nothing: Phasor = { re: 0, im: 0 }

/** What a network comes to for some of its sources. */
export interface Solution {
  /** Voltage of a node against ground. Nodes that wires join have one; an unknown node has none. */
  volts: (node: NodeName) => Phasor
  /** Current into the first end of each winding of a transformer, by its id. */
  windingAmperes: (id: string) => readonly [first: Phasor, second: Phasor]
}

/** A network at one frequency, ready to be asked. */
export interface Network {
  /** Driven by the sources of one signal, or by those of the supplies (`undefined`); all others rest. */
  driven: (signal: string | undefined) => Solution
  /** One ampere pushed in at `from` and drawn out at `to`, every source at rest. */
  probed: (from: NodeName, to: NodeName) => Solution
}

/** A network that has no answer; the message names the node that hangs in the air. */
export class SingularNetwork extends Error {
  override name = 'SingularNetwork'
}

/**
 * Leakage of every node to ground, siemens. It gives a floating network (a coil on two legs, a battery box) the
 * potential it has in the world, and is too small to be seen beside any real part: 100 Gohm beside 10 Mohm is 0.01 %.
 */
const leakageSiemens = 1e-11
/** Under this a resistance is written as a current of its own: as a conductance it would drown everything beside it. */
const smallestOhm = 1e-3
/** What stands in for no resistance at all: an ideal source that the link shorts has an answer all the same. */
const leastOhm = 1e-4

type Source = Extract<Part, { kind: 'source' }>

/**
 * Modified nodal analysis at one frequency (Ho, Ruehli and Brennan, 1975): node voltages are unknowns, and so are the
 * currents of windings and of sources without resistance. Joined nodes are merged first.
 *
 * @param frequencyHz 0 for DC: capacitors are open, windings are their copper alone
 * @throws SingularNetwork
 */
export function networkAt(netlist: Netlist, frequencyHz: number): Network {
  const { joined, rows, row, currents, size } = unknownsOf(netlist)
  const system = new LinearSystem(size)
  for (let node = 0; node < rows.size; node++) system.add(node, node, leakageSiemens)
  const omega = 2 * Math.PI * frequencyHz
  for (const part of netlist) stamp(system, part, row, currents.get(part), omega)
  const stuck = system.factor()
  if (stuck !== undefined)
    throw new SingularNetwork(
      `The network has no answer: ${[...rows.keys()][stuck] ?? 'a winding'} hangs in the air.`,
    )

  const answer = (rightSide: Float64Array): Solution => {
    const { re, im } = system.solve(rightSide)
    const unknown = (index: number | undefined): Phasor =>
      index === undefined || index < 0 ? nothing : { re: re[index]!, im: im[index]! }
    return {
      volts: (node) => unknown(rows.get(joined(node))),
      windingAmperes: (id) => {
        const part = netlist.find((each) => each.id === id && each.kind === 'transformer')
        const at = part && currents.get(part)
        return [unknown(at), unknown(at === undefined ? undefined : at + 1)]
      },
    }
  }
  return {
    driven: (signal) => {
      const rightSide = new Float64Array(size)
      // supplies rest while sound is looked at, and sound while DC is
      if (signal !== undefined || frequencyHz === 0)
        for (const part of netlist)
          if (part.kind === 'source' && part.signal === signal)
            drive(rightSide, part, row, currents.get(part))
      return answer(rightSide)
    },
    probed: (from, to) => {
      const rightSide = new Float64Array(size)
      inject(rightSide, row(from), 1)
      inject(rightSide, row(to), -1)
      return answer(rightSide)
    },
  }
}

/** Numbers the unknowns: node voltages first, then the currents, those of each part that has some in a row. */
function unknownsOf(netlist: Netlist) {
  const joined = joinWires(netlist)
  const rows = new Map<NodeName, number>()
  const row = (node: NodeName): number => {
    const root = joined(node)
    if (root === joined(ground)) return -1
    const number = rows.get(root) ?? rows.size
    rows.set(root, number)
    return number
  }
  for (const part of netlist) for (const node of nodesOfPart(part)) row(node)
  const currents = new Map<Part, number>()
  let size = rows.size
  for (const part of netlist) {
    const count = currentsIn(part)
    if (count > 0) currents.set(part, size)
    size += count
  }
  return { joined, rows, row, currents, size }
}

/** Solves a network once, for the sources of one signal or of the supplies. */
export const solve = (netlist: Netlist, frequencyHz: number, signal: string | undefined): Solution =>
  networkAt(netlist, frequencyHz).driven(signal)

/** How many currents a part adds to the unknowns. */
const currentsIn = (part: Part): number =>
  part.kind === 'transformer'
    ? 2
    : (part.kind === 'source' || part.kind === 'resistor') && part.ohm < smallestOhm
      ? 1
      : 0

type RowOf = (node: NodeName) => number

function inject(rightSide: Float64Array, row: number, amperes: number): void {
  if (row >= 0) rightSide[row]! += amperes
}

function drive(rightSide: Float64Array, source: Source, row: RowOf, current: number | undefined): void {
  if (current !== undefined) {
    rightSide[current] = source.volts
    return
  }
  inject(rightSide, row(source.from), source.volts / source.ohm)
  inject(rightSide, row(source.to), -source.volts / source.ohm)
}

/** Writes a part into the system. `current` is the row of its first unknown current. */
function stamp(
  system: LinearSystem,
  part: Part,
  row: RowOf,
  current: number | undefined,
  omega: number,
): void {
  switch (part.kind) {
    case 'wire':
      return
    case 'resistor':
    case 'source':
      if (current === undefined) admit(system, row(part.from), row(part.to), 1 / part.ohm)
      else {
        carry(system, current, row(part.from), row(part.to))
        system.add(current, current, -Math.max(part.ohm, leastOhm))
      }
      return
    case 'capacitor':
      admit(system, row(part.from), row(part.to), 0, omega * part.farad)
      return
    case 'amplifier': {
      const siemens = 1 / Math.max(part.ohm, smallestOhm)
      const [a, b] = part.first.map(row) as [number, number]
      const [c, d] = part.second.map(row) as [number, number]
      admit(system, c, d, siemens)
      if (omega === 0) return
      const transfer = part.gain * siemens
      system.add(c, a, -transfer)
      system.add(c, b, transfer)
      system.add(d, a, transfer)
      system.add(d, b, -transfer)
      return
    }
    case 'transformer':
      windings(system, part, row, current!, omega)
  }
}

/**
 * Two coupled inductances: V1 = (R1 + jwL1) I1 + jwM I2, V2 = jwM I1 + (R2 + jwL2) I2, with L2 = n^2 L1. The leakage,
 * seen at the first winding with the second shorted, is L1 - M^2 / L2, from which M follows.
 */
function windings(
  system: LinearSystem,
  part: Extract<Part, { kind: 'transformer' }>,
  row: RowOf,
  current: number,
  omega: number,
): void {
  const [first, second] = [current, current + 1]
  const secondHenry = part.henry * part.ratio ** 2
  const mutualHenry = Math.sqrt(Math.max(0, part.henry - part.leakageHenry) * secondHenry)
  carry(system, first, row(part.first[0]), row(part.first[1]))
  carry(system, second, row(part.second[0]), row(part.second[1]))
  system.add(first, first, -Math.max(part.firstOhm, leastOhm), -omega * part.henry)
  system.add(second, second, -Math.max(part.secondOhm, leastOhm), -omega * secondHenry)
  system.add(first, second, 0, -omega * mutualHenry)
  system.add(second, first, 0, -omega * mutualHenry)
}

/** An unknown current that leaves one node and enters another, and the voltage between them in its equation. */
function carry(system: LinearSystem, current: number, from: number, to: number): void {
  system.add(from, current, 1)
  system.add(to, current, -1)
  system.add(current, from, 1)
  system.add(current, to, -1)
}

function admit(system: LinearSystem, from: number, to: number, real: number, imaginary = 0): void {
  system.add(from, from, real, imaginary)
  system.add(to, to, real, imaginary)
  system.add(from, to, -real, -imaginary)
  system.add(to, from, -real, -imaginary)
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
