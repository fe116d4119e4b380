import { colourLeft } from '../acoustics'
import type { Source } from '../model'
import { amplitudeFromDb, powerFromDb, sineCrestDb } from '../units'
import type { EntryNoise, Graph } from './graph'

/** A source with its moments and peaks relative to its typical level, as amplitudes. */
export interface SourceEntry {
  source: Source
  quietest: number
  loudest: number
  /** Of the sine that its peaks reach over its RMS. */
  crest: number
}

/** A noise of an entry behind some low-cuts, for amplitude 1 at the entry. */
export interface EntryNoiseLeft {
  /** A-weighted power, as it mostly is. */
  weighted: number
  /** Power as it swings, as it mostly is and in its loudest moment. */
  plain: number
  plainLoudest: number
  /** Of the sine that its peaks reach, as it mostly is and in its loudest moment, as an amplitude. */
  peak: number
  loudestPeak: number
}

/** Everything about a graph that does not depend on its controls. */
export interface Table {
  sources: readonly SourceEntry[]
  /** For each origin the place of its source in the list, and the amplitude of its typical level. */
  sourceOfOrigin: readonly number[]
  amplitudeOfOrigin: readonly number[]
  /** Emitters count origins first, then entry noises, then the input and the output noise of each node. */
  firstEntryNoise: number
  firstNodeNoise: number
  /** An entry noise behind the low-cuts with a number. */
  entryNoiseLeft: (entryNoise: number, filter: number) => EntryNoiseLeft
  /** The number of a set of low-cuts with one more. */
  withLowCut: (filter: number, cornerHz: number) => number
}

const tables = new WeakMap<Graph, Table>()

/** The table of a graph, made once. */
export function tableOf(graph: Graph): Table {
  const known = tables.get(graph) ?? makeTable(graph)
  tables.set(graph, known)
  return known
}

function makeTable(graph: Graph): Table {
  const sources = [...new Map(graph.origins.map((origin) => [origin.source.id, origin])).values()].map(
    ({ source, quietestDb, typicalDb, loudestDb }): SourceEntry => ({
      source,
      quietest: amplitudeFromDb(quietestDb - typicalDb),
      loudest: amplitudeFromDb(loudestDb - typicalDb),
      crest: amplitudeFromDb(source.crestDb - sineCrestDb),
    }),
  )
  const firstEntryNoise = graph.origins.length
  /** Sets of low-cuts by number; none is 0. */
  const filters: (readonly number[])[] = [[]]
  const left = new Map<number, EntryNoiseLeft>()
  return {
    sources,
    sourceOfOrigin: graph.origins.map(({ source }) =>
      sources.findIndex((each) => each.source.id === source.id),
    ),
    amplitudeOfOrigin: graph.origins.map(({ typicalDb }) => amplitudeFromDb(typicalDb)),
    firstEntryNoise,
    firstNodeNoise: firstEntryNoise + graph.entryNoises.length,
    entryNoiseLeft: (entryNoise, filter) => {
      const key = entryNoise * 4096 + filter
      const found = left.get(key) ?? leftOf(graph.entryNoises[entryNoise]!, filters[filter]!)
      left.set(key, found)
      return found
    },
    withLowCut: (filter, cornerHz) => {
      const wanted = [...filters[filter]!, cornerHz].sort((one, other) => one - other)
      const found = filters.findIndex((each) => each.join() === wanted.join())
      return found >= 0 ? found : filters.push(wanted) - 1
    },
  }
}

/** The noises of an entry are uncorrelated: their powers add, and so do the squares of their peaks. */
function leftOf({ noises }: EntryNoise, lowCutsHz: readonly number[]): EntryNoiseLeft {
  const sum = { weighted: 0, plain: 0, plainLoudest: 0, peak: 0, loudestPeak: 0 }
  for (const { spectrum, levelDba, loudestDba, crestDb } of noises) {
    const { weighted, plain } = colourLeft(spectrum, lowCutsHz)
    const [power, loudest] = [powerFromDb(levelDba), powerFromDb(loudestDba)]
    const peakOver = powerFromDb(crestDb - sineCrestDb)
    sum.weighted += power * weighted
    sum.plain += power * plain
    sum.plainLoudest += loudest * plain
    sum.peak += power * plain * peakOver
    sum.loudestPeak += loudest * plain * peakOver
  }
  return { ...sum, peak: Math.sqrt(sum.peak), loudestPeak: Math.sqrt(sum.loudestPeak) }
}
