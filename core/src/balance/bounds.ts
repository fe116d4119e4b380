import {
  aimOf,
  type At,
  type Effect,
  type End,
  type Flow,
  flowAfter,
  flowOf,
  type Graph,
  loudestPeakDb,
  neverPauses,
  type Node,
  noisePower,
  outsideDb,
  stageActs,
  windowOf,
} from '../levels'
import { settledAgcGainDb } from '../dynamics'
import { type Plan, type Position, positionsOf, type Source } from '../model'
import { powerDb } from '../units'
import type { FreeControl } from './free-control'
import { tenths } from './objective'

/** Positions that each free control may still take: from one index of its positions to another. */
export interface Box {
  low: Int32Array
  high: Int32Array
}

/** The best that any combination inside a box can come to, figure by figure; headroom and miss in tenths of a dB. */
export interface Best {
  headroom: number
  miss: number
  /** Speech over noise of the worst recording that counts, dB. */
  worstDb: number
  changes: number
}

/** The most favourable figures of a node over the positions left to it. */
interface Favourable {
  typicalHigh: number
  /** The largest gain as a ratio of powers, and the least. */
  powerHigh: number
  powerLow: number
  loudestLow: number
  loudestHigh: number
  gainLow: number
  inputNoise: number
  outputNoise: number
  inputCeilingDb: number
  outputCeilingDb: number
}

/** Levels of one source between bounds. */
interface Stretch {
  typicalLow: number
  typicalHigh: number
  loudestLow: number
  loudestHigh: number
}

const slackDb = 1e-9
const silence: Flow = { quietestDb: -200, typicalDb: -200, loudestDb: -200, crestDb: 12, sourceOhm: 150 }

/**
 * Bounds over whole boxes of positions: no combination inside does better in any single figure. Every gain, noise
 * and ceiling takes its most favourable value by itself; automatic gain and limiters are read at both ends of the
 * level that may come in, since what leaves them never falls when what enters rises. A box of one position each is
 * bounded by its own figures, up to the impedance behind an input, for which the best that occurs stands.
 */
export function boundsOn(
  graph: Graph,
  plan: Plan,
  free: readonly FreeControl[],
  nextOf: readonly (readonly number[])[],
  endsAt: readonly (readonly End[])[],
  counted: (end: End) => boolean,
): (box: Box) => Best {
  const indexOf = new Map(free.map(({ key }, index) => [key, index]))
  const positions = free.map(({ control }) => positionsOf(control))
  const nows = free.map(({ now }, index) => positions[index]!.indexOf(now))
  const ohms = sourceOhms(graph, positions, indexOf)
  const readers = graph.nodes.map((node) => reader(node, graph, positions, indexOf, ohms))
  const links = graph.nodes.some(({ linked }) => linked)
  const mixes = graph.nodes.some(({ kind, index }) => kind === 'sum' && nextOf[index]!.length > 0)
  const roots = graph.origins.filter(({ node }) => nextOf[node]!.length > 0)
  const windows = endsAt.map((ends) =>
    ends.map((end) => ({ window: windowOf(plan.school, aimOf(end)), counts: counted(end) })),
  )

  const sources = roots.map((origin) => {
    const flow = flowOf(origin)
    // peak over level, the same all along
    const overDb = loudestPeakDb(flow) - flow.loudestDb
    return { origin, flow, overDb, placePower: noisePower(origin.placeNoiseDb) }
  })

  return (box) => {
    const linked = links ? linkedReader(graph, readers, box) : undefined
    const beside = mixes ? leastNoise(graph, readers, box, linked) : undefined
    const best: Best = { headroom: Infinity, miss: 0, worstDb: Infinity, changes: 0 }
    for (let index = 0; index < free.length; index++)
      if (nows[index]! < box.low[index]! || nows[index]! > box.high[index]!) best.changes++
    let room = Infinity
    let away = 0
    for (const { origin, flow, overDb, placePower } of sources) {
      let worstPower = -1
      /** `power` is the largest gain from the source so far, `noise` the least power collected, referred to the source. */
      const walk = (
        index: number,
        came: number,
        stretch: Stretch,
        power: number,
        collected: number,
      ): void => {
        const node = graph.nodes[index]!
        const figures = linked?.(node, stretch, flow.source) ?? readers[index]!(box, stretch, flow)
        let noise = collected + figures.inputNoise / power
        if (beside && node.kind === 'sum')
          for (const feed of node.feeds) if (feed !== came) noise += beside[feed]! / power
        room = Math.min(room, figures.inputCeilingDb - (stretch.loudestLow + overDb))
        const gain = power * figures.powerHigh
        noise += figures.outputNoise / gain
        const after: Stretch = {
          typicalLow: stretch.typicalLow + figures.gainLow,
          typicalHigh: stretch.typicalHigh + figures.typicalHigh,
          loudestLow: stretch.loudestLow + figures.loudestLow,
          loudestHigh: stretch.loudestHigh + figures.loudestHigh,
        }
        const lowPeak = after.loudestLow + overDb
        room = Math.min(room, figures.outputCeilingDb - lowPeak)
        for (const { window, counts } of windows[index]!) {
          const nearest = Math.min(Math.max(lowPeak, window.lowestDbfs), after.loudestHigh + overDb)
          away = Math.max(away, outsideDb(window, nearest))
          if (counts) worstPower = Math.max(worstPower, noise)
        }
        for (const next of nextOf[index]!) walk(next, index, after, gain, noise)
      }
      const start: Stretch = {
        typicalLow: flow.typicalDb,
        typicalHigh: flow.typicalDb,
        loudestLow: flow.loudestDb,
        loudestHigh: flow.loudestDb,
      }
      walk(origin.node, -1, start, 1, 0)
      if (worstPower >= 0)
        best.worstDb = Math.min(best.worstDb, flow.typicalDb - powerDb(worstPower + placePower))
    }
    // sums taken in another order differ in their last digits: a bound must never be the lower for it
    best.headroom = tenths(room + slackDb)
    best.miss = tenths(away - slackDb)
    best.worstDb += slackDb
    return best
  }
}

type Reader = (box: Box, stretch: Stretch | undefined, of: Pick<Flow, 'crestDb'>) => Favourable

/** Reads a node over the positions left to its controls. What does not follow the level is worked out once. */
function reader(
  node: Node,
  graph: Graph,
  positions: readonly (readonly Position[])[],
  indexOf: ReadonlyMap<string, number>,
  ohms: readonly (readonly number[])[],
): Reader {
  const own = node.controls.flatMap((key) => indexOf.get(key) ?? [])
  const follows = node.stage?.kind === 'agc' || node.stage?.kind === 'limiter'
  const known = new Map<number | string, Favourable>()
  const [only] = own
  const sources = node.feeds.length ? [...new Set(node.feeds.flatMap((feed) => ohms[feed]!))] : [0]
  const over = (box: Box, flows: readonly Flow[]): Favourable => {
    const favourable: Favourable = {
      powerHigh: 0,
      powerLow: 0,
      typicalHigh: -Infinity,
      loudestLow: Infinity,
      loudestHigh: -Infinity,
      gainLow: Infinity,
      inputNoise: Infinity,
      outputNoise: Infinity,
      inputCeilingDb: -Infinity,
      outputCeilingDb: -Infinity,
    }
    combinations(own, box, (chosen) => {
      const at: At = (key) => {
        const index = indexOf.get(key)
        return index === undefined ? graph.settings.get(key)! : positions[index]![chosen.get(index)!]!
      }
      for (const flow of flows) take(favourable, node.effect(flow, at))
    })
    favourable.powerHigh = noisePower(favourable.typicalHigh)
    favourable.powerLow = noisePower(favourable.gainLow)
    return favourable
  }
  return (box, stretch, { crestDb }) => {
    if (!follows) {
      const key =
        only === undefined
          ? 0
          : own.length === 1
            ? box.low[only]! * 65_536 + box.high[only]!
            : own.map((index) => `${box.low[index]}-${box.high[index]}`).join()
      const found =
        known.get(key) ??
        over(
          box,
          sources.map((sourceOhm) => ({ ...silence, crestDb, sourceOhm })),
        )
      known.set(key, found)
      return found
    }
    const flows = stretch
      ? [
          { ...silence, crestDb, typicalDb: stretch.typicalLow, loudestDb: stretch.loudestLow },
          { ...silence, crestDb, typicalDb: stretch.typicalHigh, loudestDb: stretch.loudestHigh },
        ]
      : [silence]
    const figures = over(box, flows)
    if (!stretch) return figures
    // what leaves never falls when what enters rises: its bounds are the ends, whatever the gains between
    let [low, high] = [Infinity, -Infinity]
    combinations(own, box, (chosen) => {
      const at: At = (key) => {
        const index = indexOf.get(key)
        return index === undefined ? graph.settings.get(key)! : positions[index]![chosen.get(index)!]!
      }
      low = Math.min(low, flowAfter(flows[0]!, node.effect(flows[0]!, at)).loudestDb)
      high = Math.max(high, flowAfter(flows[1]!, node.effect(flows[1]!, at)).loudestDb)
    })
    return { ...figures, loudestLow: low - stretch.loudestLow, loudestHigh: high - stretch.loudestHigh }
  }
}

/** Bounds of linked automatic gain for one box; undefined for any other node. */
type LinkedReader = (
  node: Node,
  stretch: Stretch | undefined,
  source: string | undefined,
) => Favourable | undefined

/**
 * Linked gain lies between what it would be on its own and what it is when the other channels are as loud as the box
 * lets them be.
 */
function linkedReader(graph: Graph, readers: readonly Reader[], box: Box): LinkedReader {
  const hottest = hottestLevels(graph, readers, box)
  return ({ linked, stage, part }, stretch, source) => {
    if (!linked || stage?.kind !== 'agc') return undefined
    const acts = stageActs(stage, part, (key) => graph.settings.get(key)!)
    const gain = (levelDb: number) => (acts ? settledAgcGainDb(stage, levelDb) : 0)
    let [steady, typical, loudest] = [0, -Infinity, -Infinity]
    for (const other of linked)
      for (const feed of graph.nodes[other]!.feeds)
        for (const each of hottest[feed]!) {
          if (neverPauses(each.source)) steady += noisePower(each.typicalDb)
          if (each.source.id !== source) continue
          typical = Math.max(typical, each.typicalDb)
          loudest = Math.max(loudest, each.loudestDb)
        }
    const held = steady === 0 ? -Infinity : powerDb(steady)
    const at = stretch ?? silentStretch
    const high = gain(at.typicalLow)
    const low = gain(Math.max(at.typicalHigh, typical, held))
    return {
      typicalHigh: high,
      powerHigh: noisePower(high),
      powerLow: noisePower(low),
      gainLow: low,
      loudestLow: gain(Math.max(at.loudestLow, loudest, held)),
      // what leaves never falls when what enters rises
      loudestHigh: gain(at.loudestHigh),
      inputNoise: 0,
      outputNoise: 0,
      inputCeilingDb: Infinity,
      outputCeilingDb: Infinity,
    }
  }
}
const silentStretch: Stretch = { typicalLow: -200, typicalHigh: -200, loudestLow: -200, loudestHigh: -200 }

interface Hot {
  source: Source
  typicalDb: number
  loudestDb: number
}

/** The loudest that every source can come to at the output of each node. */
function hottestLevels(graph: Graph, readers: readonly Reader[], box: Box): Hot[][] {
  const all: Hot[][] = []
  for (const { index, feeds, stage } of graph.nodes) {
    const own = graph.origins
      .filter(({ node }) => node === index)
      .map(({ source, typicalDb, loudestDb }) => ({ source, typicalDb, loudestDb }))
    const follows = stage?.kind === 'agc' || stage?.kind === 'limiter'
    const most = follows
      ? stage.kind === 'agc'
        ? Math.max(0, stage.maximumGainDb)
        : 0
      : readers[index]!(box, undefined, silence).typicalHigh
    all[index] = [...own, ...feeds.flatMap((feed) => all[feed]!)].map(({ source, typicalDb, loudestDb }) => ({
      source,
      typicalDb: typicalDb + most,
      loudestDb: loudestDb + most,
    }))
  }
  return all
}

function take(figures: Favourable, effect: Effect): void {
  figures.typicalHigh = Math.max(figures.typicalHigh, effect.typicalGainDb)
  figures.gainLow = Math.min(figures.gainLow, effect.typicalGainDb)
  figures.loudestLow = Math.min(figures.loudestLow, effect.loudestGainDb)
  figures.loudestHigh = Math.max(figures.loudestHigh, effect.loudestGainDb)
  figures.inputNoise = Math.min(figures.inputNoise, noisePower(effect.inputNoiseDb))
  figures.outputNoise = Math.min(figures.outputNoise, noisePower(effect.outputNoiseDb))
  figures.inputCeilingDb = Math.max(figures.inputCeilingDb, effect.inputCeilingDb)
  figures.outputCeilingDb = Math.max(figures.outputCeilingDb, effect.outputCeilingDb)
}

/** Every combination of positions of some controls inside a box. */
function combinations(
  own: readonly number[],
  box: Box,
  visit: (chosen: ReadonlyMap<number, number>) => void,
): void {
  const chosen = new Map<number, number>()
  const step = (depth: number): void => {
    const index = own[depth]
    if (index === undefined) return visit(chosen)
    for (let position = box.low[index]!; position <= box.high[index]!; position++) {
      chosen.set(index, position)
      step(depth + 1)
    }
  }
  step(0)
}

/** Impedances that may stand behind what follows each node, over all positions of its controls. */
function sourceOhms(
  graph: Graph,
  positions: readonly (readonly Position[])[],
  indexOf: ReadonlyMap<string, number>,
): number[][] {
  const whole: Box = {
    low: new Int32Array(positions.length),
    high: Int32Array.from(positions, (each) => each.length - 1),
  }
  const ohms: number[][] = []
  for (const node of graph.nodes) {
    if (node.linked) {
      ohms[node.index] = [0]
      continue
    }
    const own = node.controls.flatMap((key) => indexOf.get(key) ?? [])
    const before = node.feeds.length ? [...new Set(node.feeds.flatMap((feed) => ohms[feed] ?? [0]))] : [0]
    const found = new Set<number>()
    combinations(own, whole, (chosen) => {
      const at: At = (key) => {
        const index = indexOf.get(key)
        return index === undefined ? graph.settings.get(key)! : positions[index]![chosen.get(index)!]!
      }
      for (const sourceOhm of before) found.add(node.effect({ ...silence, sourceOhm }, at).sourceOhm)
    })
    ohms[node.index] = [...found]
  }
  return ohms
}

/** Least noise power at the output of each node, in its own unit: what a neighbour on a mix brings in at least. */
function leastNoise(
  graph: Graph,
  readers: readonly Reader[],
  box: Box,
  linked: LinkedReader | undefined,
): Float64Array {
  const least = new Float64Array(graph.nodes.length)
  const places = new Map(
    graph.origins
      .filter(({ placeNoiseDb }) => placeNoiseDb > -Infinity)
      .map(({ node, placeNoiseDb }) => [node, noisePower(placeNoiseDb)]),
  )
  for (const node of graph.nodes) {
    const { index, feeds } = node
    let power = feeds.reduce((sum, feed) => sum + least[feed]!, 0)
    power = places.get(index) ?? power
    const figures = linked?.(node, undefined, undefined) ?? readers[index]!(box, undefined, silence)
    least[index] = (power + figures.inputNoise) * figures.powerLow + figures.outputNoise
  }
  return least
}
