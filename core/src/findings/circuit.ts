import type { Shape } from '../model'
import type { FindingOf } from './finding'

/** Why nothing of a signal arrives. */
export type SilenceCause =
  | { kind: 'converter reversed' }
  | { kind: 'other kind'; takesStream: boolean }
  | { kind: 'both legs alike'; commonDb: number }
  | { kind: 'input open'; contacts: string[] }
  | { kind: 'output open'; contacts: string[] }
  | { kind: 'contacts joined'; pairs: [string, string][] }
  | { kind: 'no contact' }

/** Nothing of a signal is heard on an input. */
interface Silence {
  signal: string
  output: string
  input: string
  cause: SilenceCause
}
interface Half {
  shape: Shape
  gender: 'plug' | 'socket'
}
interface Starved {
  output: string
  need: string
  minimumVolts: number
  volts: number
}
interface Loaded {
  output: string
  loadOhm: number
  sourceOhm: number
}
interface Lost {
  signal: string
  lossDb: number
  cornerHz?: number
}

/** Findings about a link, by code, with their figures. Sound is in dB, for 1 V at its source. */
export interface CircuitFigures {
  misfit: { one: Half; other: Half; sameFamily: boolean }
  'two plugs': { box: string; port: string; one: string; other: string }
  dead: Silence
  'wrong way round': Silence
  stream: Silence | { input: string; takesStream: boolean; db: number }
  cancelled: Silence | { channel: string; one: string; other: string; db: number }
  'open leg': Silence | { input: string; contacts: string[]; db: number }
  'one side':
    | (Silence & { arrives: string })
    | { input: string; signal: string; channels: string[] }
    | { input: string; missing: string }
  'both sides': { input: string; signal: string; db: number }
  polarity: { input: string; signal: string; db: number; channels?: [string, string] }
  'half level': { signal: string; lossDb: number }
  'shorted output': Loaded & { leg: string }
  'overloaded output': Loaded & {
    lossDb: number
    shared: boolean
    heaviest?: { name: string; share: number }
  }
  'supply missing': Starved
  'supply weak': Starved
  'supply shorted': { supply: string; input: string; openVolts: number; amperes: number; contact: string }
  'foreign supply': { port: string; contact: string; volts: number; amperes?: number }
  unbalanced: {
    lengthM: number
    long: boolean
    quietDbu: number
    nearMainsDbu: number
    nearMotorsDbu: number
  }
  treble: Lost
  bass: Lost
  rate: { output: string; input: string; givesHz: readonly number[]; takesHz: readonly number[] }
  clock: { output: string; input: string; both: 'own' | 'follows' }
  /** It works in some sockets and not in others. */
  'some sockets': object
  /** A switch of a box lets nothing through, as an input that was not chosen. */
  'switched off': { box: string; stage: string }
  /** Transmitter and receiver on different channels. */
  channel: { sender: string; receiver: string; sendsMhz: number; listensMhz: number }
}

/** Something that the circuit of a link, or its radio, has to say. */
export type CircuitFinding = FindingOf<CircuitFigures> & { someSocketsOnly?: boolean }

/** Notes down a finding. */
export type Find = <Code extends CircuitFinding['code']>(
  severity: CircuitFinding['severity'],
  code: Code,
  subject: CircuitFinding['subject'],
  figures: CircuitFigures[Code],
) => void
