import { known } from '../model'
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

/** Solution of a network for some of its sources. */
export interface Solution {
  /** Voltage of a node against ground. Nodes that wires join have one; an unknown node has none. */
  volts: (node: NodeName) => Phasor
  /** Current into the first end of each winding of a transformer, by its id. */
  windingAmperes: (id: string) => readonly [first: Phasor, second: Phasor]
}

/** A network at one frequency, ready to be asked. */
export interface Network {
  /** Solves with the sources of one signal, or with the supplies (`undefined`); all other sources are off. */
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
/** Smaller resistances get a current unknown of their own: as conductances they would swamp the matrix, ohm. */
const smallestOhm = 1e-3
/** Stands in for zero resistance, so that a shorted ideal source still has a solution. */
export const leastOhm = 1e-4

type Source = Extract<Part, { kind: 'source' }>

/** A network as equations: a part independent of frequency, and a part proportional to it. */
interface Equations extends Unknowns {
  /** Real entries, siemens or pure numbers; the system is this and `reactive` times j omega. */
  resistive: Float64Array
  reactive: Float64Array
  /** Real entries that hold for sound alone: amplifiers pass no DC. */
  driven: Float64Array
}

const written = new WeakMap<Netlist, Equations>()

/** The equations of a network. They are written once, however many frequencies are asked for. */
function equationsOf(netlist: Netlist): Equations {
  const before = written.get(netlist)
  if (before) return before
  const unknowns = unknownsOf(netlist)
  const { rows, row, currents, size } = unknowns
  const entries = () => new Float64Array(size * size)
  const equations: Equations = { ...unknowns, resistive: entries(), reactive: entries(), driven: entries() }
  for (let node = 0; node < rows.length; node++) equations.resistive[node * size + node] = leakageSiemens
  for (const part of netlist) stamp(equations, part, row, currents.get(part))
  written.set(netlist, equations)
  return equations
}

/**
 * Modified nodal analysis at one frequency (Ho, Ruehli and Brennan, 1975): node voltages are unknowns, and so are the
 * currents of windings and of sources without resistance. Joined nodes are merged first.
 *
 * @param frequencyHz 0 for DC: capacitors are open, windings are their copper alone
 * @throws SingularNetwork
 */
export function networkAt(netlist: Netlist, frequencyHz: number): Network {
  const { row, rows, currents, size, resistive, reactive, driven } = equationsOf(netlist)
  const omega = 2 * Math.PI * frequencyHz
  const system = new LinearSystem(
    size,
    omega === 0 ? resistive.slice() : resistive.map((value, entry) => value + driven[entry]!),
    reactive.map((value) => omega * value),
  )
  const stuck = system.factor()
  if (stuck !== undefined)
    throw new SingularNetwork(`The network has no answer: ${rows[stuck] ?? 'a winding'} hangs in the air.`)

  const answer = (rightSide: Float64Array): Solution => {
    const { re, im } = system.solve(rightSide)
    const unknown = (index: number): Phasor => (index < 0 ? nothing : { re: re[index]!, im: im[index]! })
    return {
      volts: (node) => unknown(row(node)),
      windingAmperes: (id) => {
        const part = netlist.find((each) => each.id === id && each.kind === 'transformer')
        const at = part && currents.get(part)
        return at === undefined ? [nothing, nothing] : [unknown(at), unknown(at + 1)]
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

interface Unknowns {
  /** Nodes that have a row, in row order; each represents all nodes that wires join to it. */
  rows: NodeName[]
  /** Row of a node; -1 for the reference, and for a node that is not there. */
  row: RowOf
  /** Row of the first current of each part that has some. */
  currents: Map<Part, number>
  size: number
}

/** Numbers the unknowns: node voltages first, then currents, those of one part next to each other. */
function unknownsOf(netlist: Netlist): Unknowns {
  const joined = joinWires(netlist)
  const numbers = new Map<NodeName, number>([[joined(ground), -1]])
  const rows: NodeName[] = []
  for (const node of netlist.flatMap(nodesOfPart)) {
    if (numbers.has(node)) continue
    const root = joined(node)
    if (!numbers.has(root)) numbers.set(root, rows.push(root) - 1)
    numbers.set(node, known(numbers.get(root), `row of ${root}`))
  }
  const row = (node: NodeName): number => numbers.get(node) ?? -1
  const currents = new Map<Part, number>()
  let size = rows.length
  for (const part of netlist) {
    const count = currentsIn(part)
    if (count > 0) currents.set(part, size)
    size += count
  }
  return { rows, row, currents, size }
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

/** Writes a part into the equations. `current` is the row of its first unknown current. */
function stamp(equations: Equations, part: Part, row: RowOf, current: number | undefined): void {
  const { size, resistive, reactive, driven } = equations
  switch (part.kind) {
    case 'wire':
      return
    case 'resistor':
    case 'source':
      if (current === undefined) admit(resistive, size, row(part.from), row(part.to), 1 / part.ohm)
      else {
        carry(resistive, size, current, row(part.from), row(part.to))
        add(resistive, size, current, current, -Math.max(part.ohm, leastOhm))
      }
      return
    case 'capacitor':
      admit(reactive, size, row(part.from), row(part.to), part.farad)
      return
    case 'amplifier': {
      const siemens = 1 / Math.max(part.ohm, smallestOhm)
      const [a, b] = part.first.map(row) as [number, number]
      const [c, d] = part.second.map(row) as [number, number]
      admit(resistive, size, c, d, siemens)
      const transfer = part.gain * siemens
      add(driven, size, c, a, -transfer)
      add(driven, size, c, b, transfer)
      add(driven, size, d, a, transfer)
      add(driven, size, d, b, -transfer)
      return
    }
    case 'transformer':
      windings(equations, part, row, known(current, 'the currents of a transformer'))
  }
}

/**
 * Two coupled inductances: V1 = (R1 + jwL1) I1 + jwM I2, V2 = jwM I1 + (R2 + jwL2) I2, with L2 = n^2 L1. The leakage,
 * seen at the first winding with the second shorted, is L1 - M^2 / L2, from which M follows.
 */
function windings(
  { size, resistive, reactive }: Equations,
  part: Extract<Part, { kind: 'transformer' }>,
  row: RowOf,
  current: number,
): void {
  const [first, second] = [current, current + 1]
  const secondHenry = part.henry * part.ratio ** 2
  const mutualHenry = Math.sqrt(Math.max(0, part.henry - part.leakageHenry) * secondHenry)
  carry(resistive, size, first, row(part.first[0]), row(part.first[1]))
  carry(resistive, size, second, row(part.second[0]), row(part.second[1]))
  add(resistive, size, first, first, -Math.max(part.firstOhm, leastOhm))
  add(resistive, size, second, second, -Math.max(part.secondOhm, leastOhm))
  add(reactive, size, first, first, -part.henry)
  add(reactive, size, second, second, -secondHenry)
  add(reactive, size, first, second, -mutualHenry)
  add(reactive, size, second, first, -mutualHenry)
}

/** An unknown current that leaves one node and enters another, and the voltage between them in its equation. */
function carry(entries: Float64Array, size: number, current: number, from: number, to: number): void {
  add(entries, size, from, current, 1)
  add(entries, size, to, current, -1)
  add(entries, size, current, from, 1)
  add(entries, size, current, to, -1)
}

/** Adds an admittance between two nodes. */
function admit(entries: Float64Array, size: number, from: number, to: number, value: number): void {
  add(entries, size, from, from, value)
  add(entries, size, to, to, value)
  add(entries, size, from, to, -value)
  add(entries, size, to, from, -value)
}

/** Negative rows and columns are the reference node and are left out. */
function add(entries: Float64Array, size: number, row: number, column: number, value: number): void {
  if (row >= 0 && column >= 0) entries[row * size + column]! += value
}

/** Finds for each node the representative of all nodes joined to it by wires. */
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
