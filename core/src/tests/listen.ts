import type { PositionOf, End, Graph } from '../chain'
import { AFilter } from '../measure'
import type { Source } from '../model'
import { type Met, render, type Rendering, silentVoice, type Voice } from '../render'
import { amplitudeDb } from '../units'

export const rateHz = 48_000

export interface Heard {
  /** Level as a sine would have it, A-weighted, after the first tenth of a second, dBFS. */
  levelDbfs: Map<End, number>
  met: Met
}

/** Renders a stretch and listens to every recording. */
export function listen(graph: Graph, at: PositionOf, part: Partial<Rendering>): Heard {
  const skip = 0.2 * rateHz
  const rendering: Rendering = {
    rateHz,
    frames: 0.9 * rateHz,
    seed: 7,
    voice: () => silentVoice,
    noise: true,
    ambience: false,
    ...part,
  }
  const filters = new Map<End, AFilter>()
  const sums = new Map<End, { square: number; count: number }>()
  const running = render(graph, at, rendering)
  let next = running.next()
  for (; !next.done; next = running.next())
    for (const [end, samples] of next.value.tracks) {
      const filter = filters.get(end) ?? new AFilter(rateHz)
      filters.set(end, filter)
      const sum = sums.get(end) ?? { square: 0, count: 0 }
      sums.set(end, sum)
      for (const [index, sample] of samples.entries()) {
        const weighted = filter.next(sample)
        if (next.value.fromFrame + index < skip) continue
        sum.square += weighted * weighted
        sum.count++
      }
    }
  const levelDbfs = new Map(
    [...sums].map(([end, { square, count }]) => [end, amplitudeDb(Math.sqrt((2 * square) / count))] as const),
  )
  return { levelDbfs, met: next.value }
}

export const only =
  (source: Source, voice: Voice) =>
  (each: Source): Voice =>
    each.id === source.id ? voice : silentVoice
