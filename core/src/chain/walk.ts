import { amplitudeFromDb } from '../units'
import { deadFactor, type Graph, type Node } from './graph'
import { isBehindFollowers } from './steps'
import { peakMakeup, soundingPower, type Sounding } from './heard'
import { type Added, emptyMixture, merged, type Mixture, passedOn } from './mixture'
import type { FollowingStage, Reading } from './reading'
import { type Table, tableOf } from './table'

/** Input of a following stage: level of everything that sounds, and of its largest peak, dB. */
export interface Met {
  node: Node
  stage: FollowingStage
  mixture: Mixture
  levelDb: number
  peakDb: number
  /** Share of the largest single sound in that peak. */
  peakShare: number
  /** Peak level as a level detector sees it, dB; of the loudest of linked channels. */
  peakPowerDb: number
}

/** Who sounds, and how following stages respond. */
export interface Situation extends Sounding {
  /** Gain of a following stage, dB. */
  follow: (met: Met) => number
}

/** The chain in one situation. */
export interface Walked {
  /** What arrives before each node and leaves it. */
  before: Mixture[]
  after: Mixture[]
  /** Gain of each node, dB, and the part of it that follows the level. */
  gainDb: Float64Array
  followDb: Float64Array
}

/** A chain walked before, and the steps that come behind a following stage. */
export interface Known {
  walked: Walked
  stepsBehind: readonly (readonly number[])[]
}

/** Steps that contain following stages, and all steps behind them. */
export function stepsBehindFollowers(graph: Graph, readings: readonly Reading[]): number[][] {
  const isBehind = isBehindFollowers(graph, (node) => readings[node]!.follows !== undefined)
  return graph.steps.filter((step) => step.some((index) => isBehind[index]))
}

const dbOfPower = (power: number): number => 10 * Math.log10(Math.max(1e-24, power))

/**
 * Walks a chain once from its entries to its ends: what comes from every source, every place and every noise, node by
 * node, for one setting of its controls and one situation.
 *
 * @param sourceShiftsDb how far each source lies off its plan, dB; left out: as planned
 * @param known the same chain in another situation: what no following stage comes before is the same in this one
 */
export function walk(
  graph: Graph,
  readings: readonly Reading[],
  situation: Situation,
  sourceShiftsDb?: readonly number[],
  known?: Known,
): Walked {
  const table = tableOf(graph)
  const count = graph.nodes.length
  const walked: Walked = known
    ? {
        before: known.walked.before.slice(),
        after: known.walked.after.slice(),
        gainDb: known.walked.gainDb.slice(),
        followDb: new Float64Array(count),
      }
    : {
        before: new Array<Mixture>(count).fill(emptyMixture),
        after: new Array<Mixture>(count).fill(emptyMixture),
        gainDb: new Float64Array(count),
        followDb: new Float64Array(count),
      }
  const entries = entriesOf(graph, table, sourceShiftsDb)
  for (const step of known?.stepsBehind ?? graph.steps) {
    for (const index of step) {
      const { feeds } = graph.nodes[index]!
      walked.before[index] = feeds.length
        ? merged(feeds.map((feed) => walked.after[feed]!))
        : (entries.get(index) ?? emptyMixture)
    }
    follow(graph, readings, situation, table, step, walked)
    for (const index of step) leave(graph.nodes[index]!, readings[index]!, table, walked)
  }
  return walked
}

/** What enters at each node without feeds. */
function entriesOf(
  graph: Graph,
  table: Table,
  sourceShiftsDb: readonly number[] | undefined,
): Map<number, Mixture> {
  const entries = new Map<number, Mixture>()
  const enter = (node: number, emitter: number, amplitude: number, delayS: number) => {
    const so = entries.get(node) ?? emptyMixture
    entries.set(node, {
      emitters: [...so.emitters, emitter],
      amplitudes: [...so.amplitudes, amplitude],
      delaysS: [...so.delaysS, delayS],
      filters: [...so.filters, 0],
    })
  }
  graph.origins.forEach(({ node, delayS }, origin) => {
    const shiftDb = sourceShiftsDb?.[table.sourceOfOrigin[origin]!] ?? 0
    const planned = table.amplitudeOfOrigin[origin]!
    enter(node, origin, shiftDb === 0 ? planned : planned * amplitudeFromDb(shiftDb), delayS)
  })
  graph.entryNoises.forEach(({ node }, index) => enter(node, table.firstEntryNoise + index, 1, 0))
  return entries
}

/** Sets the gain of a step's following stages; linked ones respond to the loudest of their channels. */
function follow(
  graph: Graph,
  readings: readonly Reading[],
  situation: Situation,
  table: Table,
  step: readonly number[],
  walked: Walked,
): void {
  if (!step.some((index) => readings[index]!.follows)) return
  const met = step.map((index) => {
    const mixture = walked.before[index]!
    const { peak, largestShare, power } = peakMakeup(mixture, table, situation)
    return {
      mixture,
      levelDb: dbOfPower(soundingPower(mixture, table, situation)),
      peakDb: 2 * dbOfPower(peak),
      peakShare: largestShare,
      peakPowerDb: 2 * dbOfPower(power),
    }
  })
  const together = step.length > 1 && {
    levelDb: Math.max(...met.map(({ levelDb }) => levelDb)),
    peakPowerDb: Math.max(...met.map(({ peakPowerDb }) => peakPowerDb)),
  }
  step.forEach((index, at) => {
    const stage = readings[index]!.follows
    if (stage)
      walked.followDb[index] = situation.follow({
        node: graph.nodes[index]!,
        stage,
        ...met[at]!,
        ...together,
      })
  })
}

/** Computes what leaves a node. */
function leave(node: Node, reading: Reading, table: Table, walked: Walked): void {
  const { index } = node
  const gainDb = reading.gainDb + walked.followDb[index]!
  walked.gainDb[index] = gainDb
  const gain = gainDb === 0 ? 1 : amplitudeFromDb(gainDb)
  const added: Added[] = []
  const emitter = table.firstNodeNoise + 2 * index
  if (reading.inputNoiseDb > -Infinity)
    added.push({ emitter, amplitude: amplitudeFromDb(reading.inputNoiseDb) * gain })
  if (reading.outputNoiseDb > -Infinity)
    added.push({ emitter: emitter + 1, amplitude: amplitudeFromDb(reading.outputNoiseDb) })
  const { lowCutHz } = reading
  walked.after[index] = passedOn(
    walked.before[index]!,
    gain * (node.sign ?? 1) * (node.stop ? deadFactor : 1),
    {
      delayS: node.delayS ?? 0,
      filterAfter: lowCutHz === undefined ? undefined : (filter) => table.withLowCut(filter, lowCutHz),
      added,
    },
  )
}
