import { AgcFollower, LimiterFollower } from '../dynamics'
import { type At, type End, type Flow, flowAfter, flowOf, type Graph, type Node, stageActs } from '../levels'
import type { Brief, Source } from '../model'
import { random } from '../signals'
import { CeilingOnSamples } from './ceiling'
import { Ambience, NoiseTable, whiteRms } from './noise'
import type { Voice } from './voices'

export interface Rendering {
  rateHz: number
  /** Frames in all. */
  frames: number
  seed: number
  voice: (source: Source) => Voice
  /** Whether the boxes hiss, and whether the place is heard. */
  noise: boolean
  ambience: boolean
  /** Share of the time that the air drops out, by the box with the radio stage; left out: a sound link. */
  dropouts?: ReadonlyMap<string, number>
}

/** A stretch of every recording. Samples are dBFS: full scale is 1. The arrays are used again for the next stretch. */
export interface RenderedBlock {
  fromFrame: number
  tracks: ReadonlyMap<End, Float32Array>
}

/** How often each ceiling was met, by node. */
export type Met = ReadonlyMap<Node, number>

const blockFrames = 4096

/**
 * Runs a patch on samples, as it is set: sources at their level, the noise of the place, and in every stage its noise,
 * gain, ceiling in its shape, dynamics and word length. What a sample means follows from its place: amplitude 1 is
 * the peak of a sine at 0 dB in the unit of the domain (dB SPL, dBu, dBFS). Yields block by block, so that memory
 * does not grow with the length; returns how often each ceiling was met.
 */
export function* render(
  graph: Graph,
  brief: Brief,
  at: At,
  rendering: Rendering,
): Generator<RenderedBlock, Met> {
  const { rateHz, frames, seed } = rendering
  const needed = leadingToTracks(graph)
  const table = new NoiseTable(seed)
  const flows = flowsOf(graph, at)
  const blocks = graph.nodes.map(({ index }) => new Float32Array(needed[index] ? blockFrames : 0))
  const scratch = new Float32Array(blockFrames)
  const stages = graph.nodes.map((node) =>
    needed[node.index] ? stageOf(node, flows[node.index]!, at, rendering, table) : undefined,
  )
  const order = inStep(graph, at, rateHz)
  const voices = graph.origins.map((origin, index) => ({
    origin,
    voice: rendering.voice(origin.source),
    size: 10 ** (origin.typicalDb / 20),
    index,
  }))
  const places = new Map<number, Ambience>()
  if (rendering.ambience)
    for (const { node, placeNoiseDb, unit } of graph.origins)
      if (placeNoiseDb > -Infinity && !places.has(node)) {
        const loudest = [...brief.noises].sort((one, other) => other.levelDba - one.levelDba)[0]
        const spectrum = unit === 'dB SPL' ? (loudest?.spectrum ?? 'even') : 'even'
        places.set(node, new Ambience(spectrum, placeNoiseDb, rateHz, table))
      }

  const ends = graph.ends.filter(({ stage }) => stage.kind === 'recording')
  for (let fromFrame = 0; fromFrame < frames; fromFrame += blockFrames) {
    const length = Math.min(blockFrames, frames - fromFrame)
    const spoken = new Map<Source, Float32Array>()
    const fill = ({ index, feeds, sign }: Node): void => {
      const block = blocks[index]!
      block.fill(0)
      for (const feed of feeds) {
        const fed = blocks[feed]!
        for (let at = 0; at < blockFrames; at++) block[at]! += fed[at]!
      }
      for (const { origin, voice, size } of voices) {
        if (origin.node !== index) continue
        // one source heard by several microphones is one sound
        let sound = spoken.get(origin.source)
        if (!sound) {
          sound = new Float32Array(blockFrames)
          voice.fill(sound, fromFrame)
          spoken.set(origin.source, sound)
        }
        for (let at = 0; at < blockFrames; at++) block[at]! += size * sound[at]!
      }
      places.get(index)?.add(block, scratch)
      if (sign === -1) for (let at = 0; at < blockFrames; at++) block[at] = -block[at]!
    }
    for (const { nodes, together } of order) {
      const heard = nodes.filter(({ index }) => needed[index])
      heard.forEach(fill)
      if (together) together(heard.map(({ index }) => blocks[index]!))
      else for (const { index } of heard) stages[index]!.run(blocks[index]!)
    }
    yield {
      fromFrame,
      tracks: new Map(ends.map((end) => [end, blocks[end.node]!.subarray(0, length)])),
    }
  }
  return new Map(
    graph.nodes.flatMap((node) => (stages[node.index] ? [[node, stages[node.index]!.met()]] : [])),
  )
}

/** Nodes from which some recording is reached. */
function leadingToTracks(graph: Graph): boolean[] {
  const needed = graph.nodes.map(() => false)
  const need = (index: number): void => {
    if (needed[index]) return
    needed[index] = true
    const { feeds, linked } = graph.nodes[index]!
    feeds.forEach(need)
    // what turns with it is heard too, even where it is not recorded
    linked?.forEach(need)
  }
  for (const { node, stage } of graph.ends) if (stage.kind === 'recording') need(node)
  return needed
}

/** Nodes to be run one after the other, or several at once whose automatic gain turns together. */
interface Step {
  nodes: Node[]
  together?: (blocks: readonly Float32Array[]) => void
}

/** Every node after all that feed it, linked automatic gains side by side. */
function inStep(graph: Graph, at: At, rateHz: number): Step[] {
  const done = new Set<number>()
  const steps: Step[] = []
  const visit = (index: number): void => {
    if (done.has(index)) return
    const node = graph.nodes[index]!
    const { stage } = node
    const acts = stage?.kind === 'agc' && stageActs(stage, node.part, at)
    const nodes = acts && node.linked ? [node, ...node.linked.map((each) => graph.nodes[each]!)] : [node]
    for (const each of nodes) done.add(each.index)
    for (const { feeds } of nodes) feeds.forEach(visit)
    const follower = acts && node.linked ? new AgcFollower(stage, rateHz, nodes.length) : undefined
    steps.push({
      nodes,
      together:
        follower &&
        ((blocks) => {
          for (let index = 0; index < blockFrames; index++) {
            blocks.forEach((block, channel) => follower.hear(block[index]!, channel))
            const gain = follower.turn()
            for (const block of blocks) block[index]! *= gain
          }
        }),
    })
  }
  for (const { index } of graph.nodes) visit(index)
  return steps
}

/** A flow into each node, for the impedance that stands behind it: that of the first source to come that way. */
function flowsOf(graph: Graph, at: At): Flow[] {
  const nobody: Flow = { quietestDb: -200, typicalDb: -200, loudestDb: -200, crestDb: 12, sourceOhm: 0 }
  const after: Flow[] = []
  return graph.nodes.map((node) => {
    const origin = graph.origins.find((each) => each.node === node.index)
    const flow = origin ? flowOf(origin) : node.feeds.length ? after[node.feeds[0]!]! : nobody
    after[node.index] = flowAfter(flow, node.effect(flow, at))
    return flow
  })
}

interface StageOnSamples {
  run: (block: Float32Array) => void
  met: () => number
}

function stageOf(node: Node, flow: Flow, at: At, rendering: Rendering, table: NoiseTable): StageOnSamples {
  const { rateHz, noise, seed } = rendering
  const effect = node.effect(flow, at)
  const { stage } = node
  const acts = stage !== undefined && stageActs(stage, node.part, at)
  const follower =
    stage?.kind === 'agc' && acts
      ? new AgcFollower(stage, rateHz)
      : stage?.kind === 'limiter' && acts
        ? new LimiterFollower(stage, rateHz)
        : undefined
  const gain = follower ? 1 : 10 ** (effect.typicalGainDb / 20)
  const lowCut = stage?.kind === 'low-cut' && acts ? new LowCut(stage.cornerHz, rateHz) : undefined
  const ceiling = (levelDb: number) =>
    levelDb === Infinity ? undefined : new CeilingOnSamples(10 ** (levelDb / 20), effect.shape, rateHz)
  const [before, after] = [ceiling(effect.inputCeilingDb), ceiling(effect.outputCeilingDb)]
  const bits = stage?.kind === 'recording' && !stage.floating ? stage.bits : undefined
  const inputRms = noise ? whiteRms(effect.inputNoiseDb, rateHz) : 0
  const outputRms = noise && bits === undefined ? whiteRms(effect.outputNoiseDb, rateHz) : 0
  const quantiser = noise && bits !== undefined ? new Quantiser(bits, seed + node.index) : undefined
  const out = stage?.kind === 'radio' ? (rendering.dropouts?.get(node.part) ?? 0) : 0
  const air = out > 0 ? new Air(out, rateHz, seed + node.index) : undefined
  return {
    run: (block) => {
      if (inputRms > 0) table.add(block, inputRms)
      before?.apply(block)
      lowCut?.apply(block)
      if (follower)
        for (let index = 0; index < block.length; index++) block[index]! *= follower.next(block[index]!)
      else if (gain !== 1) for (let index = 0; index < block.length; index++) block[index]! *= gain
      air?.apply(block)
      if (outputRms > 0) table.add(block, outputRms)
      after?.apply(block)
      quantiser?.apply(block)
    },
    met: () => (before?.met ?? 0) + (after?.met ?? 0),
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
