import type { Contact } from '../model'
import type { Half } from './contacts'

/**
 * How an output drives its contacts. `ohm` is the whole source of a floating one, between its two legs; of a symmetric
 * or an impedance-balanced one it is in each leg, so that twice as much lies between them.
 */
export interface OutputChannel {
  signal: string
  drive: 'floating' | 'symmetric' | 'impedance-balanced' | 'single-ended'
  hot: Contact
  cold?: Contact
  ohm: number
}

/** Power that a thing needs over its contacts: minimum voltage and typical current, from contacts to ground. */
export interface PowerNeed {
  name: string
  contacts: readonly Contact[]
  minimumVolts: number
  typicalVolts: number
  typicalAmperes: number
}

export interface OutputPort extends Half {
  name: string
  channels: readonly OutputChannel[]
  ground: readonly Contact[]
  needs?: readonly PowerNeed[]
  /** DC that it bears on its contacts, volts. */
  toleratesVolts?: number
  digital?: DigitalPort
  /** Whether its own noise figure includes the thermal noise of its impedance, as a microphone's self-noise does. */
  ownNoise?: boolean
}

/** Sound as a digital stream: the rates that a port can work at, and whose clock it keeps. */
export interface DigitalPort {
  ratesHz: readonly number[]
  clock: 'own' | 'follows' | 'either'
}

export interface InputChannel {
  id: string
  hot: Contact
  /** The other leg of a differential input. */
  cold?: Contact
  ohm: number
  /**
   * Of each leg to ground, for a differential input, beside what lies between the legs. Left out: ten times `ohm`, and
   * so much less between the legs that the whole is `ohm`.
   */
  commonModeOhm?: number
  farad?: number
}

/** DC supplied by an input through a resistance, on its contacts. */
export interface Supply {
  name: string
  volts: number
  ohm: number
  contacts: readonly Contact[]
}

export interface InputPort extends Half {
  name: string
  channels: readonly InputChannel[]
  ground: readonly Contact[]
  supplies?: readonly Supply[]
  /** DC of others that it bears on its contacts, volts. */
  toleratesVolts?: number
  digital?: DigitalPort
}

/** A contact of an end of a piece, or a node inside it. */
export type Terminal = { end: number; contact: Contact } | { inside: string }

/** A cable or adapter: ends, and what lies between them. End 0 is towards the source. */
export interface Piece {
  id: string
  name: string
  ends: readonly Half[]
  wires: readonly (readonly [Terminal, Terminal])[]
  parts?: readonly (
    | { kind: 'resistor'; from: Terminal; to: Terminal; ohm: number }
    | { kind: 'capacitor'; from: Terminal; to: Terminal; farad: number }
    | {
        kind: 'transformer'
        first: readonly [Terminal, Terminal]
        second: readonly [Terminal, Terminal]
        ratio: number
        firstOhm: number
        secondOhm: number
        henry: number
        leakageHenry: number
      }
    /** Conversion into a digital stream or out of it: the voltage across `first` drives `second`, never back. */
    | {
        kind: 'converter'
        direction: 'in' | 'out'
        first: readonly [Terminal, Terminal]
        second: readonly [Terminal, Terminal]
        inputOhm: number
        outputOhm: number
      }
    /** A DC supply of its own between two places. */
    | { kind: 'supply'; from: Terminal; to: Terminal; volts: number; ohm: number }
  )[]
  lengthM?: number
  strays?: readonly StrayCapacitor[]
}

/** Capacitance between two conductors of a cable. */
export interface StrayCapacitor {
  from: Terminal
  to: Terminal
  farad: number
}

/** Where something is plugged in: at an end of a piece by its place in the list, or straight at the output. */
export type Tap = { piece: number; end: number } | 'output'

/**
 * A link as it is plugged: an output, pieces, inputs. Left to themselves the pieces lie in a row and the inputs hang
 * at the further ends of the last; `taps` says otherwise, for a tree of splitters.
 */
export interface PluggedLink {
  output: OutputPort
  pieces: readonly Piece[]
  inputs: readonly InputPort[]
  taps?: { pieces: readonly Tap[]; inputs: readonly Tap[] }
  /** How many of the inputs, from the first, are asked about; the others only load. Left out: all. */
  asked?: number
}

/** The sounds that an output gives, each once. */
export const signalsOfOutput = ({ output }: PluggedLink): string[] => [
  ...new Set(output.channels.map(({ signal }) => signal)),
]

/** Where each piece and each input is plugged in. */
export function tapsOf({ pieces, inputs, taps }: PluggedLink): NonNullable<PluggedLink['taps']> {
  if (taps) return taps
  const last = pieces.length - 1
  return {
    pieces: pieces.map((_, index): Tap => (index === 0 ? 'output' : { piece: index - 1, end: 1 })),
    inputs: inputs.map((_, index): Tap => (last < 0 ? 'output' : { piece: last, end: index + 1 })),
  }
}

/** Pieces between the output and an input, from the output on, by index. */
export function wayTo(link: PluggedLink, input: number): number[] {
  const taps = tapsOf(link)
  const way: number[] = []
  for (let tap = taps.inputs[input]!; tap !== 'output'; tap = taps.pieces[tap.piece]!) way.unshift(tap.piece)
  return way
}
