import { carries, type Chain, type FollowingStage, type Node } from '../chain'
import { AgcFollower, LimiterFollower } from '../dynamics'
import { random } from '../signals'
import { CeilingOnSamples } from './ceiling'
import { DelayLine } from './delay'
import { Duck } from './duck'
import { type NoiseTable, whiteRms } from './noise'
import type { Rendering } from './rendering'

export interface StageOnSamples {
  /** @param spoken the signal of every source, for stages that listen to others */
  run: (block: Float32Array, spoken: ReadonlyMap<string, Float32Array>) => void
  met: () => number
}

/** Applies a stage to samples: noise, ceiling, gain and dynamics in order. */
export function stageOnSamples(
  node: Node,
  chain: Chain,
  rendering: Rendering,
  table: NoiseTable,
): StageOnSamples {
  const { rateHz, noise, seed } = rendering
  const reading = chain.readings[node.index]!
  const { stage } = node
  const follow = reading.follows && followerOf(reading.follows, node, chain, rendering)
  const gain = 10 ** (reading.gainDb / 20)
  const lowCut = reading.lowCutHz === undefined ? undefined : new LowCut(reading.lowCutHz, rateHz)
  const ceiling = (levelDb: number) =>
    levelDb === Infinity ? undefined : new CeilingOnSamples(10 ** (levelDb / 20), reading.shape, rateHz)
  const [before, after] = [ceiling(reading.inputCeilingDb), ceiling(reading.outputCeilingDb)]
  const bits = stage?.kind === 'recording' && !stage.floating ? stage.bits : undefined
  const inputRms = noise ? whiteRms(reading.inputNoiseDb, rateHz) : 0
  const outputRms = noise && bits === undefined ? whiteRms(reading.outputNoiseDb, rateHz) : 0
  const quantiser = noise && bits !== undefined ? new Quantiser(bits, seed + node.index) : undefined
  const out = stage?.kind === 'radio' ? (rendering.dropouts?.get(node.part) ?? 0) : 0
  const air = out > 0 ? new Air(out, rateHz, seed + node.index) : undefined
  const delay = node.delayS ? new DelayLine(Math.round(node.delayS * rateHz)) : undefined
  const scratch = new Float32Array(delay ? 4096 : 0)
  return {
    run: (block, spoken) => {
      if (inputRms > 0) table.add(block, inputRms)
      before?.apply(block)
      lowCut?.apply(block)
      follow?.(block, spoken)
      if (gain !== 1) for (let index = 0; index < block.length; index++) block[index]! *= gain
      air?.apply(block)
      delay?.apply(block, scratch)
      if (outputRms > 0) table.add(block, outputRms)
      after?.apply(block)
      quantiser?.apply(block)
    },
    met: () => (before?.met ?? 0) + (after?.met ?? 0),
  }
}

/** Gain of a following stage while the source speaks that has just spoken when a rendering begins, dB. */
export function followedDb(
  node: number,
  { table, typical }: Chain,
  { spoke }: Rendering,
): number | undefined {
  const arrives = (source: number) => carries(typical[source]!.before[node]!, table, source)
  const named = table.sources.findIndex(({ source }, index) => source.id === spoke && arrives(index))
  const first = table.sources.findIndex((_, index) => arrives(index))
  return typical[Math.max(0, named >= 0 ? named : first)]?.followDb[node]
}

/** A stage that follows the level, as it does on samples. It begins as if somebody had just spoken. */
function followerOf(
  stage: FollowingStage,
  node: Node,
  chain: Chain,
  rendering: Rendering,
): StageOnSamples['run'] {
  const { table, typical } = chain
  const { rateHz } = rendering
  const carried = table.sources.map((_, source) =>
    carries(typical[source]!.before[node.index]!, table, source),
  )
  if (stage.kind === 'duck') {
    const others = table.sources.flatMap(({ source }, index) =>
      source.kind === 'speech' && !carried[index] ? [source.id] : [],
    )
    const duck = new Duck(stage.depthDb, rateHz)
    return (block, spoken) =>
      duck.apply(
        block,
        others.map((source) => spoken.get(source)).filter((each) => each !== undefined),
      )
  }
  const startDb = followedDb(node.index, chain, rendering)
  const follower =
    stage.kind === 'agc' ? new AgcFollower(stage, rateHz, 1, startDb) : new LimiterFollower(stage, rateHz)
  return (block) => {
    for (let index = 0; index < block.length; index++) block[index]! *= follower.next(block[index]!)
  }
}

/** Second-order high-pass (Butterworth, by the bilinear transform). */
class LowCut {
  private readonly b: readonly [number, number, number]
  private readonly a: readonly [number, number]
  private x1 = 0
  private x2 = 0
  private y1 = 0
  private y2 = 0

  constructor(cornerHz: number, rateHz: number) {
    const k = Math.tan((Math.PI * cornerHz) / rateHz)
    const norm = 1 / (1 + Math.SQRT2 * k + k * k)
    this.b = [norm, -2 * norm, norm]
    this.a = [2 * (k * k - 1) * norm, (1 - Math.SQRT2 * k + k * k) * norm]
  }

  apply(block: Float32Array): void {
    const { a, b } = this
    for (let index = 0; index < block.length; index++) {
      const x = block[index]!
      const y = b[0] * x + b[1] * this.x1 + b[2] * this.x2 - a[0] * this.y1 - a[1] * this.y2
      this.x2 = this.x1
      this.x1 = x
      this.y2 = this.y1
      this.y1 = y
      block[index] = y
    }
  }
}

/** Rounds to a word length with triangular dither. */
class Quantiser {
  private readonly step: number
  private readonly uniform: () => number

  constructor(bits: number, seed: number) {
    this.step = 2 ** (1 - bits)
    this.uniform = random(seed)
  }

  apply(block: Float32Array): void {
    for (let index = 0; index < block.length; index++) {
      const dither = this.uniform() - this.uniform()
      block[index] = Math.max(-1, Math.min(1, this.step * Math.round(block[index]! / this.step + dither)))
    }
  }
}

/** Radio that drops out for a tenth of a second now and then: out for a given share of the time on the whole. */
class Air {
  private left = 0
  private readonly uniform: () => number
  /** Chance of going out at a frame, so that the time out is the share of all. */
  private readonly chance: number
  private readonly lengthFrames: number

  constructor(share: number, rateHz: number, seed: number) {
    this.uniform = random(seed + 77)
    this.lengthFrames = Math.round(0.1 * rateHz)
    this.chance = share >= 1 ? 1 : share / ((1 - share) * this.lengthFrames)
  }

  apply(block: Float32Array): void {
    for (let index = 0; index < block.length; index++) {
      if (this.left === 0 && this.uniform() < this.chance) this.left = this.lengthFrames
      if (this.left === 0) continue
      this.left--
      block[index] = 0
    }
  }
}
