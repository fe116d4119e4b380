import {
  arrivesAs,
  type Gain,
  type GainsOfLink,
  gainsOf,
  humDbuA,
  type PluggedLink,
  pluggedLink,
  reportOf,
  runLengthM,
  leakageDb,
  socketIsTaken,
  starves,
  wayTo,
} from '../circuit'
import { type CircuitFinding, isDead } from '../findings'
import { controlKey, type Gear, gearOf, known, type Link, type Patch, type Shelf, shelfFor } from '../model'
import { thermalNoiseDbuA } from '../units'
import type { PositionOf } from './reading'

/** How one channel of an output reaches one channel of an input. */
export interface Side {
  from: 'left' | 'right'
  sign: 1 | -1
  /** Gain at each piece on the way, dB, and last at the input: all of it if there are no pieces. */
  alongDb: (at: PositionOf) => readonly number[]
  /** Noise added along the link, dBu(A): resistances of the pieces, of an output without a noise figure, and hum of an unbalanced run. */
  noiseDbuA: (at: PositionOf) => number
  /** Noise that the resistances of the input add, dBu(A). */
  inputNoiseDbuA: (at: PositionOf) => number
}

/** What arrives at an input channel over a link: the output channels that reach it, or why none does. */
export type Arrival = { sides: Side[] } | { stop: CircuitFinding }
type Circuit = (channel: 'left' | 'right') => Arrival

/** Stands for "nothing at all" where minus infinity would break the arithmetic. */
const nothingDb = -200

/** Circuits as they were last solved. Documents are immutable: the same links between the same boxes are the same circuit. */
const circuits = new WeakMap<Link, { around: unknown[]; circuit: Circuit | undefined }>()

const siblings = (patch: Patch, link: Link) =>
  patch.links.filter(({ from }) => from.box === link.from.box && from.port === link.from.port)

/**
 * What the contacts of a link bring to each channel of its input, with all that hangs on the same output. Undefined
 * through the air, where there is nothing to plug.
 */
export function circuitOf(patch: Patch, link: Link, shelf: Shelf): Circuit | undefined {
  const box = (id: string) => patch.boxes.find((each) => each.id === id)
  const host = link.branch && hostOf(patch, link.branch.piece)
  const joined = patch.links.filter(
    ({ id, to }) => id !== link.id && to.box === link.to.box && to.port === link.to.port,
  )
  // links that share a socket with either end decide whether it can be plugged in at all
  const neighbours = patch.links.filter(
    ({ id, from, to }) =>
      id !== link.id && [from.box, to.box].some((each) => each === link.from.box || each === link.to.box),
  )
  const around = [
    shelf,
    patch.gear,
    box(link.from.box),
    host,
    ...neighbours,
    ...joined.flatMap((each) => [each, box(each.from.box)]),
    ...siblings(patch, link).flatMap((each) => [each, box(each.to.box)]),
  ]
  const found = circuits.get(link)
  if (found && found.around.length === around.length && found.around.every((each, at) => each === around[at]))
    return found.circuit
  const circuit = solvedCircuit(patch, link, shelf)
  circuits.set(link, { around, circuit })
  return circuit
}

function solvedCircuit(patch: Patch, link: Link, shelf: Shelf): Circuit | undefined {
  const plugged = pluggedLink(patch, link, shelf)
  if (!plugged) return undefined
  const fixed = gainsOf(plugged)
  const stop = fixed && stopOf(patch, link, shelf, plugged, fixed)
  if (!fixed || stop) {
    const dead = stop ?? known(deadFinding(plugged), `why link ${link.id} is dead`)
    return () => ({ stop: dead })
  }
  const { output, inputs } = plugged
  const dual = new Set(output.channels.map(({ signal }) => signal)).size < output.channels.length
  const stream = arrivesAs(plugged) === 'stream'
  const read = readingAt(patch, link, shelf, fixed)
  const own = link.pieces.map(({ id: piece }) => piece)
  const way = wayTo(plugged, 0).map((index) => plugged.pieces[index]!.id)
  const runM = runLengthM(plugged, 0)
  return (channel) => {
    const id = inputs[0]!.channels.length > 1 ? channel : 'one'
    const heard = fixed.gains.filter((gain) => gain.channel === id && gain.db > leakageDb)
    if (heard.length === 0) return { stop: deadFinding(plugged) ?? nothingHere(inputs[0]!.name, channel) }
    if (stream) {
      // a digital stream loses nothing and keeps its channels apart
      const whole = [...link.pieces.map(() => 0), 0]
      return {
        sides: heard.map(({ signal }) => ({
          from: output.channels.length > 1 && signal === 'right' ? 'right' : id === 'one' ? channel : 'left',
          sign: 1,
          alongDb: () => whole,
          noiseDbuA: () => -Infinity,
          inputNoiseDbuA: () => -Infinity,
        })),
      }
    }
    return {
      sides: heard.map(({ signal, sign, balanced }, index): Side => {
        const gainAt = (at: PositionOf) =>
          read(at).find((gain) => gain.channel === id && gain.signal === signal) ?? silentGain
        const hum = balanced || runM === 0 ? -Infinity : humDbuA(runM)
        return {
          from: signal === 'right' && !dual ? 'right' : 'left',
          sign,
          alongDb: (at) => folded(gainAt(at).alongDb, way, own),
          // resistances and hum are there once, however many signals meet
          noiseDbuA: (at) => (index > 0 ? -Infinity : noiseOf(gainAt(at), plugged, hum)),
          inputNoiseDbuA: (at) => (index > 0 ? -Infinity : thermalDbuA(gainAt(at).thermalOhm.inputs)),
        }
      }),
    }
  }
}

/**
 * Gains along a way as gains of the pieces that lie in the link itself: what a splitter before them or a lead behind
 * them loses goes to the nearest.
 */
function folded(alongDb: readonly number[], way: readonly string[], own: readonly string[]): number[] {
  const gains = [...own.map(() => 0), 0]
  let at = 0
  alongDb.forEach((db, index) => {
    at = Math.max(at, own.indexOf(way[index] ?? ''))
    gains[at]! += Math.max(nothingDb, db)
  })
  return gains
}

const silentGain: Pick<Gain, 'alongDb' | 'thermalOhm'> = {
  alongDb: [nothingDb],
  thermalOhm: { output: 0, pieces: 0, inputs: 0 },
}

/** Hum, and thermal noise of the pieces and of an output whose noise figure does not include it. */
function noiseOf({ thermalOhm }: Pick<Gain, 'thermalOhm'>, { output }: PluggedLink, humDb: number): number {
  const thermalDb = thermalDbuA(thermalOhm.pieces + (output.ownNoise ? 0 : thermalOhm.output))
  if (humDb === -Infinity) return thermalDb
  return 10 * Math.log10(10 ** (humDb / 10) + 10 ** (thermalDb / 10))
}

const thermalDbuA = (ohm: number): number => (ohm > 0 ? thermalNoiseDbuA(ohm) : -Infinity)

/** Gains at the present positions of the pieces' controls, which are all that changes while the link stays the same. */
function readingAt(patch: Patch, link: Link, shelf: Shelf, fixed: GainsOfLink): (at: PositionOf) => Gain[] {
  const all = shelfFor(patch, shelf)
  const controls = controlsOnLink(patch, link, (id) => gearOf(all, id))
  if (controls.length === 0) return () => fixed.gains
  const byPosition = new Map<string, Gain[]>()
  return (at) => {
    const key = controls.map(at).join()
    const gains =
      byPosition.get(key) ??
      gainsOf(known(pluggedLink(patch, link, shelf, at), `the circuit of link ${link.id}`))?.gains ??
      fixed.gains
    byPosition.set(key, gains)
    return gains
  }
}

/** Why nothing passes a link whose plugs go together; undefined where something does. */
function stopOf(
  patch: Patch,
  link: Link,
  shelf: Shelf,
  plugged: PluggedLink,
  { gains, needs }: GainsOfLink,
): CircuitFinding | undefined {
  const crowd = socketIsTaken(patch, link, shelf)
  if (crowd) return crowd
  const heard = gains.some(({ db }) => db > leakageDb)
  const streams = plugged.output.digital || plugged.inputs[0]!.digital || arrivesAs(plugged) !== 'volts'
  if (heard && !streams && !needs.some(starves)) return undefined
  return deadFinding(plugged)
}

/** The finding that explains a dead link, in the first variant of how its contacts touch. */
function deadFinding(plugged: PluggedLink): CircuitFinding | undefined {
  const { variants, findings } = reportOf(plugged)
  return (variants[0]?.findings ?? findings).find(isDead)
}

const nothingHere = (input: string, missing: string): CircuitFinding => ({
  severity: 'dead',
  code: 'one side',
  subject: { where: input },
  figures: { input, missing },
})

/** The link that a piece lies in. */
const hostOf = (patch: Patch, piece: string): Link | undefined =>
  patch.links.find(({ pieces }) => pieces.some(({ id }) => id === piece))

/** Controls on the pieces of a link and of all that hangs on the same output, as `part.control`. */
export function controlsOnLink(patch: Patch, link: Link, thing: (id: string) => Gear): string[] {
  const host = link.branch && hostOf(patch, link.branch.piece)
  return [...new Set([...siblings(patch, link), ...(host ? [host] : [])])].flatMap(({ pieces }) =>
    pieces.flatMap((piece) =>
      ladderControls(thing(piece.gear)).map((control) => controlKey(piece.id, control)),
    ),
  )
}

const ladderControls = (gear: Gear): string[] =>
  gear.passive && !Array.isArray(gear.passive.ladder) ? [gear.passive.ladder.control] : []
