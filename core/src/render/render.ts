import { known } from '../model'
import { type PositionOf, type Chain, chainOf, type End, type Graph, type Node } from '../chain'
import { AgcFollower } from '../dynamics'
import { DelayLine } from './delay'
import { Ambience, NoiseTable } from './noise'
import type { Rendering } from './rendering'
import { followedDb, stageOnSamples, type StageOnSamples } from './stage'
import type { Voice } from './voices'

/** A stretch of every recording. Samples are dBFS: full scale is 1. The arrays are used again for the next stretch. */
export interface RenderedBlock {
  fromFrame: number
  tracks: ReadonlyMap<End, Float32Array>
}

/** How often each ceiling was met, by node. */
export type Met = ReadonlyMap<Node, number>

export const blockFrames = 4096
/** Behind a dead link nothing is left. */
const deadFactor = 0

/**
 * Runs a patch on samples, as it is set: sources at their level, the noise of the place, and in every stage its noise,
 * gain, ceiling in its shape, dynamics, delay and word length. What a sample means follows from its place: amplitude 1
 * is the peak of a sine at 0 dB in the unit of the domain (dB SPL, dBu, dBFS). Yields block by block, so that memory
 * does not grow with the length; returns how often each ceiling was met.
 */
export function* render(graph: Graph, at: PositionOf, rendering: Rendering): Generator<RenderedBlock, Met> {
  const { frames } = rendering
  const chain = chainOf(
    graph,
    graph.nodes.map(({ read }) => read(at)),
  )
  const needed = leadingToTracks(graph)
  const table = new NoiseTable(rendering.seed)
  const stages = graph.nodes.map((node) =>
    needed[node.index] ? stageOnSamples(node, chain, rendering, table) : undefined,
  )
  const entries = new Entries(chain, rendering, needed, table)
  const order = inStep(chain, needed, rendering)
  const blocks = graph.nodes.map(({ index }) => new Float32Array(needed[index] ? blockFrames : 0))
  const ends = graph.ends.filter(({ stage }) => stage.kind === 'recording')
  for (let fromFrame = 0; fromFrame < frames; fromFrame += blockFrames) {
    const length = Math.min(blockFrames, frames - fromFrame)
    entries.begin(fromFrame)
    for (const { nodes, together } of order) {
      for (const node of nodes) fill(node, blocks, entries)
      if (together) together(nodes.map(({ index }) => blocks[index]!))
      else for (const { index } of nodes) stages[index]!.run(blocks[index]!, entries.spoken)
    }
    yield {
      fromFrame,
      tracks: new Map(ends.map((end) => [end, blocks[end.node]!.subarray(0, length)])),
    }
  }
  return new Map(
    graph.nodes.flatMap((node): [Node, number][] => {
      const stage: StageOnSamples | undefined = stages[node.index]
      return stage ? [[node, stage.met()]] : []
    }),
  )
}

/** Input of a node: everything that feeds it, and what enters there. */
function fill({ index, feeds, sign, stop }: Node, blocks: readonly Float32Array[], entries: Entries): void {
  const block = blocks[index]!
  block.fill(0)
  for (const feed of feeds) {
    const fed = blocks[feed]!
    for (let at = 0; at < blockFrames; at++) block[at]! += fed[at]!
  }
  entries.add(index, block)
  const factor = stop ? deadFactor : (sign ?? 1)
  if (factor !== 1) for (let at = 0; at < blockFrames; at++) block[at]! *= factor
}

/** Sounds and noises where they enter the chain. */
class Entries {
  /** Sound of each source in this stretch, as it leaves the source. */
  readonly spoken = new Map<string, Float32Array>()
  private readonly voices: Map<string, Voice>
  private readonly lines: { node: number; source: string; size: number; line: DelayLine }[]
  private readonly noises: { node: number; ambience: Ambience }[]
  private readonly scratch = new Float32Array(blockFrames)
  private fromFrame = 0

  constructor(
    { graph }: Chain,
    { rateHz, voice, ambience }: Rendering,
    needed: readonly boolean[],
    table: NoiseTable,
  ) {
    const origins = graph.origins.filter(({ node }) => needed[node])
    this.voices = new Map(origins.map(({ source }) => [source.id, voice(source)]))
    this.lines = origins.map(({ node, source, typicalDb, delayS }) => ({
      node,
      source: source.id,
      size: 10 ** (typicalDb / 20),
      line: new DelayLine(Math.round(delayS * rateHz)),
    }))
    this.noises = ambience
      ? graph.entryNoises
          .filter(({ node }) => needed[node])
          .flatMap(({ node, noises }) =>
            noises.map((noise) => ({ node, ambience: new Ambience(noise, rateHz, table) })),
          )
      : []
  }

  /** One source heard by several microphones is one sound. */
  begin(fromFrame: number): void {
    this.fromFrame = fromFrame
    for (const [source, voice] of this.voices) {
      const sound = this.spoken.get(source) ?? new Float32Array(blockFrames)
      this.spoken.set(source, sound)
      voice.fill(sound, fromFrame)
    }
  }

  add(node: number, block: Float32Array): void {
    for (const each of this.lines)
      if (each.node === node)
        each.line.add(known(this.spoken.get(each.source), each.source), block, each.size)
    for (const each of this.noises)
      if (each.node === node) each.ambience.add(block, this.scratch, this.fromFrame)
  }
}

/** Nodes that lead to a recording, and nodes linked with them. */
function leadingToTracks(graph: Graph): boolean[] {
  const needed = graph.nodes.map(() => false)
  const need = (index: number): void => {
    if (needed[index]) return
    needed[index] = true
    const { feeds, linked } = graph.nodes[index]!
    feeds.forEach(need)
    // linked channels are rendered too, even if they are not recorded
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

function inStep(chain: Chain, needed: readonly boolean[], rendering: Rendering): Step[] {
  const { graph, readings } = chain
  return graph.steps
    .map((step) => step.filter((index) => needed[index]))
    .filter(({ length }) => length > 0)
    .map((step): Step => {
      const nodes = step.map((index) => graph.nodes[index]!)
      const stage = readings[step[0]!]!.follows
      if (step.length < 2 || stage?.kind !== 'agc') return { nodes }
      const startDb = followedDb(step[0]!, chain, rendering)
      const follower = new AgcFollower(stage, rendering.rateHz, nodes.length, startDb)
      return {
        nodes,
        together: (blocks) => {
          for (let index = 0; index < blockFrames; index++) {
            blocks.forEach((block, channel) => follower.hear(block[index]!, channel))
            const gain = follower.turn()
            for (const block of blocks) block[index]! *= gain
          }
        },
      }
    })
}
