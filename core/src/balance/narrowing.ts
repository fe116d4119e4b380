import {
  aimOf,
  type At,
  type End,
  type Flow,
  flowOf,
  type Graph,
  loudestPeakDb,
  type Node,
  windowOf,
} from '../levels'
import { type Plan, positionsOf } from '../model'
import type { Box } from './bounds'
import type { FreeControl } from './free-control'

/** What a sum of gains along a way must keep to, dB re the source's loudest peak. */
interface Limit {
  /** Gain that each control brings in each of its positions. */
  knobs: { index: number; gains: Float64Array }[]
  /** What is not moved, or only known to lie between two figures. */
  restLow: number
  restHigh: number
  least: number
  most: number
}

/** Demands count in tenths of a dB: half a tenth either way is still met. */
const slackDb = 0.06
const silence: Flow = { quietestDb: -200, typicalDb: -200, loudestDb: -200, crestDb: 12, sourceOhm: 150 }

/**
 * Takes off a box the positions at its edges that break a demand whatever the other controls do: gains add along a
 * way, so what a ceiling or a window leaves to one control follows from the least and the most that the others can
 * bring. Goes round until nothing more comes off.
 *
 * @param leastHeadroomDb room that every ceiling must keep over the loudest peak
 * @param mostMissDb how far peaks may lie outside their window
 * @returns the smaller box, or undefined when nothing in it meets the demands
 */
export function narrowing(
  graph: Graph,
  plan: Plan,
  free: readonly FreeControl[],
  nextOf: readonly (readonly number[])[],
  endsAt: readonly (readonly End[])[],
  leastHeadroomDb: number,
  mostMissDb: number,
): (box: Box) => Box | undefined {
  const all = limits(graph, plan, free, nextOf, endsAt, leastHeadroomDb, mostMissDb)
  return (box) => {
    const low = box.low.slice()
    const high = box.high.slice()
    for (let moved = true; moved;) {
      moved = false
      for (const { knobs, restLow, restHigh, least, most } of all) {
        let [sumLow, sumHigh] = [restLow, restHigh]
        for (const { index, gains } of knobs) {
          sumLow += lowest(gains, low[index]!, high[index]!)
          sumHigh += highest(gains, low[index]!, high[index]!)
        }
        if (sumLow > most || sumHigh < least) return undefined
        for (const { index, gains } of knobs) {
          const othersLow = sumLow - lowest(gains, low[index]!, high[index]!)
          const othersHigh = sumHigh - highest(gains, low[index]!, high[index]!)
          const breaks = (position: number) =>
            gains[position]! + othersLow > most || gains[position]! + othersHigh < least
          const [before, after] = [low[index]!, high[index]!]
          while (low[index]! <= high[index]! && breaks(low[index]!)) low[index]!++
          while (high[index]! > low[index]! && breaks(high[index]!)) high[index]!--
          if (low[index]! > high[index]!) return undefined
          if (low[index] === before && high[index] === after) continue
          moved = true
          sumLow = othersLow + lowest(gains, low[index]!, high[index]!)
          sumHigh = othersHigh + highest(gains, low[index]!, high[index]!)
        }
      }
    }
    return { low, high }
  }
}

function lowest(gains: Float64Array, from: number, to: number): number {
  let found = Infinity
  for (let position = from; position <= to; position++) if (gains[position]! < found) found = gains[position]!
  return found
}

function highest(gains: Float64Array, from: number, to: number): number {
  let found = -Infinity
  for (let position = from; position <= to; position++) if (gains[position]! > found) found = gains[position]!
  return found
}

/** What a node does, over the positions of the one control that moves it, or between bounds. */
interface Reading {
  knob?: { index: number; gains: Float64Array }
  low: number
  high: number
  inputCeilingDb: number
  outputCeilingDb: number
}

function limits(
  graph: Graph,
  plan: Plan,
  free: readonly FreeControl[],
  nextOf: readonly (readonly number[])[],
  endsAt: readonly (readonly End[])[],
  leastHeadroomDb: number,
  mostMissDb: number,
): Limit[] {
  const readings = graph.nodes.map((node) => readingOf(node, graph, free))
  const found: Limit[] = []
  for (const origin of graph.origins) {
    if (nextOf[origin.node]!.length === 0) continue
    const peakDb = loudestPeakDb(flowOf(origin))
    const walk = (index: number, so: Limit): void => {
      const { knob, low, high, inputCeilingDb, outputCeilingDb } = readings[index]!
      const room = (ceilingDb: number) => ceilingDb - leastHeadroomDb - peakDb + slackDb
      const before: Limit = { ...so, most: Math.min(so.most, room(inputCeilingDb)) }
      let here = before
      if (knob) {
        keep(before)
        const known = before.knobs.find((each) => each.index === knob.index)
        const gains = known ? known.gains.map((gain, position) => gain + knob.gains[position]!) : knob.gains
        here = {
          ...before,
          knobs: [...before.knobs.filter((each) => each !== known), { index: knob.index, gains }],
          most: room(outputCeilingDb),
        }
      } else {
        // a limit on what came before is one on what comes after, once the gain between is known
        const carried = low === high ? before.most + low : Infinity
        if (low !== high) keep(before)
        here = {
          ...before,
          restLow: before.restLow + low,
          restHigh: before.restHigh + high,
          most: Math.min(carried, room(outputCeilingDb)),
        }
      }
      for (const end of endsAt[index]!) {
        const window = windowOf(plan.school, aimOf(end))
        keep({
          ...here,
          least: window.lowestDbfs - mostMissDb - peakDb - slackDb,
          most: Math.min(here.most, window.highestDbfs + mostMissDb - peakDb + slackDb),
        })
      }
      if (nextOf[index]!.length === 0) keep(here)
      for (const next of nextOf[index]!) walk(next, here)
    }
    walk(origin.node, { knobs: [], restLow: 0, restHigh: 0, least: -Infinity, most: Infinity })
  }
  return found

  function keep(limit: Limit): void {
    if (limit.least > -Infinity || limit.most < Infinity) found.push(limit)
  }
}

function readingOf(node: Node, graph: Graph, free: readonly FreeControl[]): Reading {
  const own = node.controls.flatMap((key) => {
    const index = free.findIndex((each) => each.key === key)
    return index < 0 ? [] : [index]
  })
  const { stage } = node
  // what follows the level is only known to lie within its limits
  if (stage?.kind === 'agc' || stage?.kind === 'limiter')
    return {
      low: stage.kind === 'agc' ? Math.min(0, stage.minimumGainDb) : -Infinity,
      high: stage.kind === 'agc' ? Math.max(0, stage.maximumGainDb) : 0,
      inputCeilingDb: Infinity,
      outputCeilingDb: Infinity,
    }
  const [only] = own
  const read = (at: At) => node.effect(silence, at)
  if (only === undefined) {
    const effect = read((key) => graph.settings.get(key)!)
    return {
      low: effect.loudestGainDb,
      high: effect.loudestGainDb,
      inputCeilingDb: effect.inputCeilingDb,
      outputCeilingDb: effect.outputCeilingDb,
    }
  }
  if (own.length > 1)
    return { low: -Infinity, high: Infinity, inputCeilingDb: Infinity, outputCeilingDb: Infinity }
  const { key, control } = free[only]!
  const effects = positionsOf(control).map((position) =>
    read((each) => (each === key ? position : graph.settings.get(each)!)),
  )
  return {
    knob: { index: only, gains: Float64Array.from(effects, ({ loudestGainDb }) => loudestGainDb) },
    low: 0,
    high: 0,
    inputCeilingDb: Math.max(...effects.map(({ inputCeilingDb }) => inputCeilingDb)),
    outputCeilingDb: Math.max(...effects.map(({ outputCeilingDb }) => outputCeilingDb)),
  }
}
