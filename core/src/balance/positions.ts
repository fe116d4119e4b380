import { type PositionOf, type Graph, type Reading, asSet } from '../chain'
import { type Position, positionsOf } from '../model'
import type { FreeControl } from './free-control'

/** Stops that each knob may still take: from one index to another. */
export interface Region {
  low: Int32Array
  high: Int32Array
}

/** A stop for each knob, by index. */
export type Choice = Int32Array

/**
 * What a search turns: mostly one control with its positions. Controls that act on the same nodes may be one knob, whose
 * stops are all combinations of their positions in the order of the gain that they come to: near stops are then alike.
 */
interface Knob {
  /** Free controls, by index. */
  controls: readonly number[]
  /** For each stop the position of each of these controls, by index. */
  stops: readonly (readonly number[])[]
  /** Gain that each stop comes to over the nodes that it acts on, dB. Never falls from one stop to the next where there are several controls. */
  gainDb: Float64Array
  /** How many controls a stop moves. */
  changes: Int32Array
}

/** Knobs with all their stops, and every node's reading at each of them. */
export class Positions {
  private readonly all: readonly (readonly Position[])[]
  readonly knobs: readonly Knob[]
  /** Present stop of each knob, by index. */
  readonly now: Choice
  /** For each node the knobs that change it. */
  readonly own: readonly (readonly number[])[]
  private readonly known: Map<number, Reading>[]

  /** @param togetherMost controls that act on one node become one knob where it has no more stops than this */
  constructor(
    private readonly graph: Graph,
    private readonly free: readonly FreeControl[],
    togetherMost = 0,
  ) {
    this.all = free.map(({ control }) => positionsOf(control))
    const now = free.map(({ now: position }, index) => this.all[index]!.indexOf(position))
    const indexOf = new Map(free.map(({ key }, index) => [key, index]))
    const acting = graph.nodes.map(({ controls }) =>
      controls.flatMap((key) => {
        const index = indexOf.get(key)
        return index === undefined ? [] : [index]
      }),
    )
    const groups = this.grouped(acting, togetherMost)
    this.own = acting.map((controls) => [
      ...new Set(controls.map((control) => groups.findIndex((group) => group.includes(control)))),
    ])
    this.knobs = groups.map((controls, knob) => this.knobOf(controls, knob, now))
    this.now = Int32Array.from(this.knobs, ({ changes }) => changes.indexOf(0))
    this.known = graph.nodes.map(() => new Map<number, Reading>())
  }

  whole(): Region {
    return {
      low: new Int32Array(this.knobs.length),
      high: Int32Array.from(this.knobs, ({ stops }) => stops.length - 1),
    }
  }

  /** Reading of a node with its knobs at given positions. */
  reading(node: number, choice: Choice): Reading {
    const own = this.own[node]!
    let key = 0
    for (const index of own) key = key * 16_384 + choice[index]!
    const known = this.known[node]!
    const found = known.get(key) ?? this.graph.nodes[node]!.read(this.at(own, choice))
    known.set(key, found)
    return found
  }

  /** Every node's reading. */
  readings(choice: Choice): Reading[] {
    return this.own.map((_, node) => this.reading(node, choice))
  }

  /** How many controls a choice moves. */
  changes(choice: Choice): number {
    return this.knobs.reduce((sum, { changes }, knob) => sum + changes[choice[knob]!]!, 0)
  }

  /** The fewest that any choice of a region moves. */
  leastChanges({ low, high }: Region): number {
    return this.knobs.reduce((sum, { changes }, knob) => sum + least(changes, low[knob]!, high[knob]!), 0)
  }

  /** A choice as positions by `part.control`. */
  named(choice: Choice): Map<string, Position> {
    return new Map(
      this.knobs.flatMap(({ controls, stops }, knob) =>
        controls.map((control, place): [string, Position] => [
          this.free[control]!.key,
          this.all[control]![stops[choice[knob]!]![place]!]!,
        ]),
      ),
    )
  }

  /**
   * Controls in groups: those that act on one node together, as long as they have few enough combinations there, and
   * leave few enough to every other node that one of them acts on too.
   */
  private grouped(acting: readonly (readonly number[])[], togetherMost: number): number[][] {
    let groups = this.free.map((_, index) => [index])
    const combinations = (controls: readonly number[]) =>
      controls.reduce((product, control) => product * this.all[control]!.length, 1)
    for (const controls of acting) {
      const touching = groups.filter((group) => group.some((control) => controls.includes(control)))
      const joined = touching.flat().sort((one, other) => one - other)
      if (touching.length < 2 || combinations(joined) > togetherMost) continue
      const next = [...groups.filter((group) => !touching.includes(group)), joined]
      const most = acting
        .filter((others) => others.some((control) => joined.includes(control)))
        .map((others) =>
          combinations(next.filter((group) => group.some((control) => others.includes(control))).flat()),
        )
      if (Math.max(...most) <= togetherMost) groups = next
    }
    return groups
  }

  private knobOf(controls: readonly number[], knob: number, now: readonly number[]): Knob {
    const nodes = this.graph.nodes.filter(({ index }) => this.own[index]!.includes(knob))
    const gainOf = (stop: readonly number[]): number =>
      nodes.reduce((sum, node) => sum + node.read(this.standing(controls, stop)).gainDb, 0) /
      Math.max(1, nodes.length)
    const stops = combinationsOf(controls.map((control) => this.all[control]!.length))
      .map((stop) => ({ stop, gainDb: gainOf(stop) }))
      .sort((one, other) => (controls.length > 1 ? one.gainDb - other.gainDb : 0))
    return {
      controls,
      stops: stops.map(({ stop }) => stop),
      gainDb: Float64Array.from(stops, ({ gainDb }) => gainDb),
      changes: Int32Array.from(
        stops,
        ({ stop }) => stop.filter((position, place) => position !== now[controls[place]!]).length,
      ),
    }
  }

  /** Some controls at given positions, everything else unchanged. */
  private standing(controls: readonly number[], stop: readonly number[]): PositionOf {
    return (key) => {
      const place = controls.findIndex((control) => this.free[control]!.key === key)
      return place < 0 ? asSet(this.graph)(key) : this.all[controls[place]!]![stop[place]!]!
    }
  }

  private at(own: readonly number[], choice: Choice): PositionOf {
    return this.standing(
      own.flatMap((knob) => this.knobs[knob]!.controls),
      own.flatMap((knob) => this.knobs[knob]!.stops[choice[knob]!]!),
    )
  }
}

/** Every combination of positions, given how many each has; the last changes fastest. */
export const combinationsOf = (counts: readonly number[]): number[][] =>
  counts.reduce<number[][]>(
    (all, count) =>
      all.flatMap((each) => Array.from({ length: count }, (_, position) => [...each, position])),
    [[]],
  )

function least(figures: Int32Array, from: number, to: number): number {
  let found = Infinity
  for (let index = from; index <= to && found > 0; index++)
    if (figures[index]! < found) found = figures[index]!
  return found
}

/** Every choice in which some knobs take the stops that a region leaves them, the others staying as given. */
export function forEachIn(
  region: Region,
  knobs: readonly number[],
  start: Choice,
  visit: (choice: Choice) => void,
): void {
  const choice = start.slice()
  const step = (depth: number): void => {
    const index = knobs[depth]
    if (index === undefined) return visit(choice)
    for (let stop = region.low[index]!; stop <= region.high[index]!; stop++) {
      choice[index] = stop
      step(depth + 1)
    }
  }
  step(0)
}
