/** A node of a network, by name. `ground` is the reference: the ground of the box that receives. */
export type NodeName = string
export const ground: NodeName = 'ground'

/** A two-ended part, or two pairs of ends that act on each other. */
export type Part =
  | { kind: 'resistor'; id: string; from: NodeName; to: NodeName; ohm: number }
  | { kind: 'capacitor'; id: string; from: NodeName; to: NodeName; farad: number }
  /** Volts from `to` up to `from` behind a resistance. `signal` names the sound it carries; without it, DC. */
  | { kind: 'source'; id: string; from: NodeName; to: NodeName; volts: number; ohm: number; signal?: string }
  /**
   * Two windings on one core: volts at `second` over volts at `first` is `ratio`. The copper of each winding counts
   * at every frequency, DC included. `henry` is the first winding's own inductance, `leakageHenry` what is left of
   * it with the second winding shorted.
   */
  | {
      kind: 'transformer'
      id: string
      first: readonly [NodeName, NodeName]
      second: readonly [NodeName, NodeName]
      ratio: number
      firstOhm: number
      secondOhm: number
      henry: number
      leakageHenry: number
    }
  /** An amplifier for sound: the voltage across `second`, behind a resistance, follows that across `first`, with no feedback. */
  | {
      kind: 'amplifier'
      id: string
      first: readonly [NodeName, NodeName]
      second: readonly [NodeName, NodeName]
      gain: number
      ohm: number
    }
  /** A joint: the two nodes are one. */
  | { kind: 'wire'; id: string; from: NodeName; to: NodeName }

export type Netlist = readonly Part[]

/** Nodes that a part is connected between. */
export const nodesOfPart = (part: Part): readonly NodeName[] =>
  'first' in part ? [...part.first, ...part.second] : [part.from, part.to]

/** All nodes of a network, each once. */
export const nodesOf = (netlist: Netlist): NodeName[] => [...new Set(netlist.flatMap(nodesOfPart))]

/** Names of the sounds in a network, each once. */
export const signalsOf = (netlist: Netlist): string[] => [
  ...new Set(
    netlist.flatMap((part) => (part.kind === 'source' && part.signal !== undefined ? [part.signal] : [])),
  ),
]
