import { isUnfed } from '../balance'
import { type Gear, isPiece, type Shelf, thingsOf } from '../model'
import { type By, type Chain, ChainBuilder, pluggable } from './chains'

/** A chain that has come as far as some outputs. */
export interface Begun {
  builder: ChainBuilder
  /** The camera's box in the patch. */
  camera: string
  outputs: { box: string; port: string }[]
  /** Something that stands apart from the boxes is connected by a cable, not plugged in directly. */
  by?: 'lead'
}

/** Each output into a separate input of the camera. */
export function straight(
  { builder, camera: box, outputs, by: lead }: Begun,
  camera: Gear,
  by: By | undefined = lead,
): Chain[] {
  const inputs = pluggable(camera, 'in')
  if (inputs.length < outputs.length || outputs.length === 0) return []
  const joined = outputs.reduce<ChainBuilder | undefined>(
    (sofar, output, index) => sofar?.connect(output, { box, port: inputs[index]!.id }, by),
    builder,
  )
  return joined ? [joined.done()] : []
}

/**
 * By a box that takes all of them: plain, and with an attenuator in front of the camera.
 *
 * @param byFrom by what a box goes on from there, where neither a plain way nor the first attenuator will do
 */
export function between(
  things: readonly Gear[],
  begun: Begun,
  camera: Gear,
  byFrom?: (box: string) => By | undefined,
): Chain[] {
  return things
    .filter((thing) => passes(thing, begun.outputs.length))
    .flatMap((thing) => passing(thing, begun, camera, byFrom))
}

/** Whether a thing accepts this many outputs and has an output itself. */
export const passes = (thing: Gear, outputs: number): boolean =>
  !isPiece(thing) &&
  thing.kind !== 'camera' &&
  thing.kind !== 'desk' &&
  pluggable(thing, 'in').length >= outputs &&
  pluggable(thing, 'out').length > 0

/** A thing added to a chain and fed by all its outputs; undefined where they do not go together. */
export function fedInto(
  thing: Gear,
  { builder, outputs, by: lead }: Begun,
  byFrom?: (box: string) => By | undefined,
): { fed: ChainBuilder | undefined; box: string } {
  const added = builder.add(thing)
  const inputs = pluggable(thing, 'in')
  const fed = outputs.reduce<ChainBuilder | undefined>(
    (sofar, output, index) =>
      sofar?.connect(output, { box: added.id, port: inputs[index]!.id }, byFrom?.(output.box) ?? lead),
    added.builder,
  )
  return { fed, box: added.id }
}

function passing(thing: Gear, begun: Begun, camera: Gear, byFrom?: (box: string) => By | undefined): Chain[] {
  const { fed, box } = fedInto(thing, begun, byFrom)
  if (!fed) return []
  for (const output of pluggable(thing, 'out'))
    for (const input of pluggable(camera, 'in')) {
      const ends = [
        { box, port: output.id },
        { box: begun.camera, port: input.id },
      ] as const
      const plain = fed.connect(...ends)
      const padded = fed.connect(...ends, byFrom?.(box) ?? 'pad')
      if (plain ?? padded) return [plain, padded].flatMap((chain) => (chain ? [chain.done()] : []))
    }
  return []
}

interface RadioPair {
  transmitter: Gear
  receiver: Gear
}

/**
 * Every microphone by a radio of its own: a transmitter that it fits and a receiver on the same channel. Where no
 * transmitter feeds one that needs power, all by a box that does, and its output by one radio. What a desk feeds comes by
 * wire. A chain for each pair that the first microphone can use; the next ones use what is left.
 */
export function overRadio(begun: Begun, shelf: Shelf): Begun[] {
  const feeds = new Set(begun.builder.patch.boxes.filter(({ source }) => source).map(({ id }) => id))
  const isFeed = ({ box }: Begun['outputs'][number]) => feeds.has(box)
  const pairs = radioPairs(shelf)
  const direct = pairs.flatMap((first) => eachByRadio(begun, first, pairs, isFeed))
  const fed = direct.filter(({ builder }) => !isUnfed(builder.patch, shelf))
  if (fed.length) return fed
  const through = thingsOf(shelf).flatMap((thing) => throughRadio(thing, begun, pairs, isFeed))
  const fedThrough = through.filter(({ builder }) => !isUnfed(builder.patch, shelf))
  return fedThrough.length ? fedThrough : direct
}

function radioPairs(shelf: Shelf): RadioPair[] {
  const sets = [...shelf.values()].filter(isRadio)
  return sets
    .filter((set) => pluggable(set, 'in').length > 0)
    .flatMap((transmitter) =>
      sets
        .filter((set) => pluggable(set, 'out').length > 0)
        .map((receiver): RadioPair => ({ transmitter, receiver })),
    )
}
export const isRadio = ({ ports }: Gear): boolean => ports.some(({ connector }) => connector === 'radio')

function eachByRadio(
  { builder, camera, outputs }: Begun,
  first: RadioPair,
  pairs: readonly RadioPair[],
  isFeed: (end: Begun['outputs'][number]) => boolean,
): Begun[] {
  let sofar: ChainBuilder = builder
  const ends: Begun['outputs'] = []
  for (const output of outputs) {
    const isFirst = ends.every((end) => isFeed(end))
    const sent = isFeed(output)
      ? { builder: sofar, end: output }
      : sentBy(isFirst ? [first] : pairs, sofar, output)
    if (!sent) return []
    sofar = sent.builder
    ends.push(sent.end)
  }
  return [{ builder: sofar, camera, outputs: ends }]
}

/** All microphones into one box, and on from there by a radio: plain, and with an attenuator in front of the transmitter. */
function throughRadio(
  thing: Gear,
  begun: Begun,
  pairs: readonly RadioPair[],
  isFeed: (end: Begun['outputs'][number]) => boolean,
): Begun[] {
  const voices = begun.outputs.filter((end) => !isFeed(end))
  if (isRadio(thing) || !passes(thing, voices.length)) return []
  const { fed, box } = fedInto(thing, { ...begun, outputs: voices })
  if (!fed) return []
  for (const { id: port } of pluggable(thing, 'out')) {
    const sent = pairs.flatMap((pair) =>
      [undefined, 'pad' as const].flatMap((by) => sentBy([pair], fed, { box, port }, by) ?? []),
    )
    if (sent.length)
      return sent.map(({ builder, end }) => ({
        builder,
        camera: begun.camera,
        outputs: [...begun.outputs.filter(isFeed), end],
      }))
  }
  return []
}

/** Connects an output through the first pair that accepts it, unused pairs first. */
function sentBy(
  pairs: readonly RadioPair[],
  sofar: ChainBuilder,
  output: Begun['outputs'][number],
  by?: By,
): { builder: ChainBuilder; end: Begun['outputs'][number] } | undefined {
  const isLeft = ({ transmitter, receiver }: RadioPair) =>
    sofar.hasLeft(transmitter) && sofar.hasLeft(receiver)
  for (const { transmitter, receiver } of [...pairs].sort(
    (one, other) => Number(isLeft(other)) - Number(isLeft(one)),
  )) {
    const sends = sofar.add(transmitter)
    const into = { box: sends.id, port: pluggable(transmitter, 'in')[0]!.id }
    const plugged = sends.builder.connect(output, into, by)
    const hears = plugged?.add(receiver)
    const linked = hears?.builder.link(sends.id, hears.id)
    if (hears && linked)
      return { builder: linked, end: { box: hears.id, port: pluggable(receiver, 'out')[0]!.id } }
  }
  return undefined
}
