import { attenuating, harmlessWays, quietEnough, type Way } from '../circuit'
import { applyEdits, type Edit } from '../edits'
import { plugIn } from '../advice'
import {
  type Gear,
  idsOf,
  isPluggable,
  type Link,
  nameOfFurther,
  partId,
  type Patch,
  type Port,
  type Shelf,
  shelfFor,
  gearOf,
  boxOf,
  missingIn,
  usesIn,
} from '../model'
import { radioLinksOf } from '../radio'

type End = Link['from']

/** A chain from the microphones to the camera, and its shopping list. */
export interface Chain {
  patch: Patch
  /** Each as often as it must be bought. */
  missing: Gear[]
  /** Boxes between, by name. */
  through: string[]
}

/** Most pieces in front of a box and behind it: a pad and a lead, and an adapter where those do not fit. */
const mostPieces = 2
const mostPiecesAtAll = 3

/** With an attenuator, with one that takes so much more away than the plain way or the most there is, with a cable rather than plug in socket. */
export type By = 'pad' | { lossDb: number } | 'lead'

/** A chain that begins at some outputs and goes on from there. */
export class ChainBuilder {
  constructor(
    readonly patch: Patch,
    private readonly shelf: Shelf,
    /** Gear that is there already, which nobody has to buy. */
    private readonly given?: Patch,
    readonly through: readonly string[] = [],
    /** Cache of ways by the ends they join: chains from one beginning join the same ends again and again. */
    private readonly known = new Map<string, Way[]>(),
  ) {}

  /** Whether one more of a thing is owned than the chain uses. */
  hasLeft = ({ id, owned }: Gear): boolean => (usesIn(this.patch).get(id) ?? 0) < owned

  done = (): Chain => ({
    patch: this.patch,
    missing: missingIn(this.patch, this.shelf, this.given),
    through: [...this.through],
  })

  /** Another box with nothing plugged in yet. */
  add(gear: Gear, more: Partial<Patch['boxes'][number]> = {}): { builder: ChainBuilder; id: string } {
    const id = partId(gear.kind, idsOf(this.patch))
    const name = nameOfFurther(this.patch, gear)
    const box = { id, gear: gear.id, ...(name && { name }), settings: {}, locked: [], ...more }
    return { builder: this.with([{ kind: 'add box', box }], [gear.name]), id }
  }

  /**
   * Plugs an output into an input by the pieces that do it best; undefined where nothing does without harm. A supply
   * that is off is no hindrance: it is switched on later.
   *
   * @param by with what, where a plain way will not do
   */
  connect(from: End, to: End, by?: By): ChainBuilder | undefined {
    const way =
      chosenWay(this.waysBetween(from, to, mostPieces), by) ??
      (by && by !== 'lead' ? this.attenuatedWay(from, to, by) : undefined)
    return way && this.with(plugIn(this.patch, this.shelf, from, to, way.pieces), [])
  }

  /** Joins a transmitter and a receiver through the air, both on one channel; undefined where they do not match. */
  link(transmitter: string, receiver: string): ChainBuilder | undefined {
    const [sends, hears] = [transmitter, receiver].map((box) => this.gearOf(box))
    const radio = (gear: Gear, direction: Port['direction']) =>
      gear.ports.find((port) => port.connector === 'radio' && port.direction === direction)
    const [out, into] = [radio(sends!, 'out'), radio(hears!, 'in')]
    if (!out || !into) return undefined
    const joined = this.with(
      plugIn(this.patch, this.shelf, { box: transmitter, port: out.id }, { box: receiver, port: into.id }),
      [],
    )
    return channelsOf(hears!)
      .map((channel) => joined.with(channel ? [{ kind: 'set control', part: receiver, ...channel }] : [], []))
      .find(({ patch }) => radioLinksOf(patch, this.shelf).every(({ matched }) => matched))
  }

  /** With as many pieces as allowed: the way that suffices, otherwise the one with the most attenuation. */
  private attenuatedWay(from: End, to: End, by: By): Way | undefined {
    const ways = this.waysBetween(from, to, mostPiecesAtAll)
    return chosenWay(ways, by) ?? (typeof by === 'object' ? quietEnough(ways, Infinity) : undefined)
  }

  private waysBetween(from: End, to: End, most: number): Way[] {
    const link: Link = { id: 'planned', from, to, pieces: [] }
    // other things plugged into the same output count; without any, the two boxes are enough
    const beside = this.patch.links.filter((each) => each.from.box === from.box)
    const far = [from, to, ...beside.map((each) => each.to)].map(({ box }) => boxOf(this.patch, box))
    const joined = JSON.stringify([from, to, most, far, beside])
    const ways = this.known.get(joined) ?? harmlessWays(this.patch, link, this.shelf, most)
    this.known.set(joined, ways)
    return this.leftFirst(ways)
  }

  /** Ways in order, except those with gear already used elsewhere in the chain. */
  private leftFirst(ways: readonly Way[]): Way[] {
    const used = usesIn(this.patch)
    const bought = ({ pieces }: Way) =>
      pieces.filter(({ gear }) => (used.get(gear.id) ?? 0) + 1 > gear.owned).length
    return ways
      .map((way) => ({ way, bought: bought(way) }))
      .sort((one, other) => one.bought - other.bought)
      .map(({ way }) => way)
  }

  private with(edits: readonly Edit[], through: readonly string[]): ChainBuilder {
    return new ChainBuilder(
      applyEdits(this.patch, edits, this.shelf),
      this.shelf,
      this.given,
      [...this.through, ...through],
      this.known,
    )
  }

  private gearOf(box: string): Gear {
    return gearOf(shelfFor(this.patch, this.shelf), boxOf(this.patch, box).gear)
  }
}

function chosenWay(ways: readonly Way[], by: By | undefined): Way | undefined {
  const [first] = ways
  if (by === undefined) return first
  if (by === 'lead') return first?.pieces.length === 0 ? (plainestLead(ways) ?? first) : first
  if (by === 'pad') return ways.find(({ pieces }) => pieces.some(({ gear }) => gear.kind === 'pad'))
  return attenuating(ways, (first?.lossDb ?? 0) + by.lossDb)
}

/** A single cable, owned and cheap before others. */
const plainestLead = (ways: readonly Way[]): Way | undefined =>
  ways
    .filter(({ pieces }) => pieces.length === 1 && pieces[0]!.gear.kind === 'cable')
    .sort(
      (one, other) =>
        one.missing - other.missing ||
        (one.pieces[0]!.gear.price ?? Infinity) - (other.pieces[0]!.gear.price ?? Infinity),
    )[0]

/** Every position of the switch that sets a radio's channel; a single undefined without such a switch. */
function channelsOf({ radio }: Gear): ({ control: string; position: string } | undefined)[] {
  const carrier = radio?.carrierMhz
  return typeof carrier === 'object'
    ? Object.keys(carrier.at).map((position) => ({ control: carrier.control, position }))
    : [undefined]
}

/** Sockets of a thing in one direction into which something can be plugged. */
export const pluggable = ({ ports }: Gear, direction: Port['direction']): Port[] =>
  ports.filter((port) => port.direction === direction && isPluggable(port.connector))
