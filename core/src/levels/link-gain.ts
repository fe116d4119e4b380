import {
  arrivesAsStream,
  type Gain,
  gainsOf,
  humDbuA,
  pluggedLink,
  type PluggedLink,
  runLengthM,
  silenceDb,
} from '../circuit'
import {
  type Gear,
  type Ladder,
  type Link,
  type Patch,
  type Port,
  type Rung,
  type Shelf,
  shelfFor,
  valueOf,
} from '../model'
import type { At } from './effect'
import { inputOhm, type LoadedLadder, loadedLadder } from './ladder'
import { typicalOhm } from './typical'

/** A channel of an output that reaches an input; without a gain the ladder of its pieces alone counts. */
export interface Side {
  from: 'left' | 'right'
  gain?: (at: At) => { db: number; sourceOhm: number }
  sign?: 1 | -1
  /** Nothing arrives here. */
  silent?: boolean
  /** Hum that an unbalanced run picks up in a quiet place, an estimate; left out for none. */
  humDbuA?: number
}

/** Stands for nothing at all, where minus infinity would be no number to go on with. */
const nothingDb = -200

type Circuit = (channel: 'left' | 'right') => Side[]

/** Circuits as they were last solved. Documents are immutable: the same links between the same boxes are the same circuit. */
const circuits = new WeakMap<Link, { around: unknown[]; circuit: Circuit | undefined }>()

const siblings = (patch: Patch, link: Link) =>
  patch.links.filter(({ from }) => from.box === link.from.box && from.port === link.from.port)

/**
 * What the contacts of a link bring to each channel of its input, with all that hangs on the same output. Undefined
 * where there are no plugs or they do not go together: the wiring says so, and a lead that would fit is taken for
 * granted.
 */
export function circuitOf(patch: Patch, link: Link, shelf: Shelf): Circuit | undefined {
  const box = (id: string) => patch.boxes.find((each) => each.id === id)
  const beside = siblings(patch, link)
  const host = link.branch && hostOf(patch, link.branch.piece)
  const joined = patch.links.filter(
    ({ id, to }) => id !== link.id && to.box === link.to.box && to.port === link.to.port,
  )
  const around = [
    shelf,
    patch.gear,
    box(link.from.box),
    host,
    ...joined.flatMap((each) => [each, box(each.from.box)]),
    ...beside.flatMap((each) => [each, box(each.to.box)]),
  ]
  const known = circuits.get(link)
  if (known && known.around.length === around.length && known.around.every((each, at) => each === around[at]))
    return known.circuit
  const circuit = solvedCircuit(patch, link, shelf)
  circuits.set(link, { around, circuit })
  return circuit
}

function solvedCircuit(patch: Patch, link: Link, shelf: Shelf): Circuit | undefined {
  const plugged = pluggedLink(patch, link, shelf)
  if (!plugged) return undefined
  const fixed = gainsOf(plugged)
  if (!fixed) return undefined
  const all = shelfFor(patch, shelf)
  const controls = controlsOnLink(patch, link, (id) => all.get(id)!)
  const byPosition = new Map<string, Gain[]>()
  /** Gains with the pieces as they are set; only those are turned while nothing else of the link changes. */
  const reading = (at: At): Gain[] => {
    if (controls.length === 0) return fixed
    const key = controls.map(at).join()
    const known = byPosition.get(key) ?? gainsOf(pluggedLink(patch, link, shelf, at)!) ?? fixed
    byPosition.set(key, known)
    return known
  }
  const { output, inputs } = plugged
  const dual = new Set(output.channels.map(({ signal }) => signal)).size < output.channels.length
  const nothing = { db: nothingDb, sourceOhm: 0 }
  const passes = speakAlike(plugged)
  return (channel: 'left' | 'right'): Side[] => {
    const id = inputs[0]!.channels.length > 1 ? channel : 'one'
    const heard = fixed.filter((gain) => gain.channel === id && gain.db > silenceDb)
    if (heard.length === 0 || passes === 'nothing')
      return [{ from: 'left', gain: () => nothing, silent: true }]
    if (passes === 'stream') {
      // what carries both channels in one stream loses nothing and keeps them apart
      const whole = { db: 0, sourceOhm: 0 }
      return heard.map(({ signal }) => ({
        from: output.channels.length > 1 && signal === 'right' ? 'right' : id === 'one' ? channel : 'left',
        gain: () => whole,
      }))
    }
    const runM = runLengthM(plugged, 0)
    return heard.map(({ signal, sign, balanced }) => ({
      from: signal === 'right' && !dual ? 'right' : 'left',
      sign,
      humDbuA: balanced || runM === 0 ? undefined : humDbuA(runM),
      gain: (at) => {
        const found = reading(at).find((gain) => gain.channel === id && gain.signal === signal)
        return found ? { db: Math.max(nothingDb, found.db), sourceOhm: found.sourceOhm } : nothing
      },
    }))
  }
}

/** Whether sound arrives as volts, as a stream that the input reads, or as what it cannot read. */
function speakAlike(plugged: PluggedLink): 'volts' | 'stream' | 'nothing' {
  const { output, inputs } = plugged
  const [input] = inputs
  if (!output.digital && !input!.digital && !plugged.pieces.some(({ parts }) => parts?.some(isConverter)))
    return 'volts'
  const arrives = arrivesAsStream(plugged, 0)
  if (arrives !== (input!.digital !== undefined)) return 'nothing'
  const { digital } = output
  const straight = arrives && digital !== undefined
  if (straight && !digital.ratesHz.some((hz) => input!.digital!.ratesHz.includes(hz))) return 'nothing'
  return straight ? 'stream' : 'volts'
}
const isConverter = ({ kind }: { kind: string }) => kind === 'converter'

/** The link that a piece lies in. */
const hostOf = (patch: Patch, piece: string): Link | undefined =>
  patch.links.find(({ through }) => through.some(({ id }) => id === piece))

/** Controls on the pieces of a link and of all that hangs on the same output, as `part.control`. */
export function controlsOnLink(patch: Patch, link: Link, gearOf: (id: string) => Gear): string[] {
  const host = link.branch && hostOf(patch, link.branch.piece)
  return [...new Set([...siblings(patch, link), ...(host ? [host] : [])])].flatMap(({ through }) =>
    through.flatMap((piece) => ladderControls(gearOf(piece.gear)).map((control) => `${piece.id}.${control}`)),
  )
}

const ladderControls = (gear: Gear): string[] =>
  gear.passive && !Array.isArray(gear.passive.ladder) ? [gear.passive.ladder.control] : []

/**
 * Losses of the pieces of a link from impedances alone: the source behind the output, the pieces as a ladder, the
 * input as load, and whatever else hangs on the same output beside it.
 */
export function lossesOf(
  link: Link,
  out: Port,
  patch: Patch,
  gearOf: (id: string) => Gear,
): (at: At) => LoadedLadder {
  if (out.connector === 'radio' || out.digital)
    return () => ({ gainsDb: link.through.map(() => 0).concat(0), sourceOhm: 0 })
  const outOhm = out.impedanceOhm === undefined ? 0 : valueOf(out.impedanceOhm, typicalOhm.out)
  const loadOf = (each: Link) => {
    const box = patch.boxes.find(({ id }) => id === each.to.box)!
    const port = gearOf(box.gear).ports.find(({ id }) => id === each.to.port)!
    return port.impedanceOhm === undefined ? Infinity : valueOf(port.impedanceOhm, typicalOhm.in)
  }
  const groupsOf = (each: Link, at: At) =>
    each.through.map(({ id, gear, turned }) => {
      const rungs = rungsAt(gearOf(gear).passive!.ladder, id, at)
      return turned ? rungs.toReversed() : rungs
    })
  const others = siblings(patch, link).filter(({ id }) => id !== link.id)
  return (at: At) => {
    const beside: Rung[] = others.flatMap((other) => {
      const ohm = inputOhm(groupsOf(other, at), loadOf(other))
      return ohm === Infinity || ohm <= 0 ? [] : [{ shuntOhm: ohm }]
    })
    const groups = groupsOf(link, at)
    if (beside.length) {
      if (groups.length) groups[0] = [...beside, ...groups[0]!]
      else groups.push(beside)
    }
    return loadedLadder(outOhm, groups, loadOf(link))
  }
}

function rungsAt(ladder: Ladder, part: string, at: At): Rung[] {
  return Array.isArray(ladder) ? ladder : (ladder.at[at(`${part}.${ladder.control}`)] ?? [])
}
