import { type Chain, powerOfWays, waysOfSource } from '../chain'
import { amplitudeDb, powerDb } from '../units'
import { type ChainReader, dbOf, floorDb, type Heard } from './chain-reader'
import type { NoiseShare, Run } from './run'

/** Ratios of a source to the noise of its pauses. */
export function ratiosAt(reader: ChainReader, { source, typical, pause }: Heard, node: number) {
  const typicalDb = reader.sourceDb(typical, source, node)
  const { boxes, place } = reader.noisesAfter(pause, node)
  const spoken = reader.noisesAfter(typical, node)
  const rise = powerDb((boxes + place) / (spoken.boxes + spoken.place))
  return {
    noiseDb: powerDb(boxes),
    noiseWithPlaceDb: powerDb(boxes + place),
    overBoxesDb: typicalDb - powerDb(boxes),
    speechToNoiseDb: typicalDb - powerDb(boxes + place),
    pauseRiseDb: Number.isFinite(rise) ? Math.max(0, rise) : 0,
  }
}

/** Who makes the noise that is heard in the pauses, the most first. */
export function sharesAt(
  { chain }: ChainReader,
  { source, typical, pause, origin }: Heard,
  end: number,
): NoiseShare[] {
  const { table, graph } = chain
  const mixture = pause.after[end]!
  const powers = new Map<number, number>()
  mixture.emitters.forEach((emitter, way) => {
    if (emitter < table.firstNodeNoise) return
    const node = (emitter - table.firstNodeNoise) >> 1
    powers.set(node, (powers.get(node) ?? 0) + mixture.amplitudes[way]! ** 2)
  })
  const whole = [...powers.values()].reduce((sum, power) => sum + power, 0)
  const gainDb = dbOf(powerOfWays(waysOfSource(typical.after[end]!, table, source))) - origin.typicalDb
  return [...powers]
    .filter(([, power]) => power > 0)
    .map(([index, power]) => ({
      node: graph.nodes[index]!.id,
      partName: graph.nodes[index]!.partName,
      name: graph.nodes[index]!.name,
      atSourceDb: powerDb(power) - gainDb,
      share: power / whole,
    }))
    .sort((one, other) => other.share - one.share)
}

/** The ways by which a source arrives that are apart in time. */
export function waysAt({ chain }: ChainReader, { source, typical }: Heard, end: number): Run['ways'] {
  const { amplitudes, delaysS } = waysOfSource(typical.after[end]!, chain.table, source)
  const first = Math.min(...delaysS)
  return amplitudes.map((amplitude, way) => ({
    db: Math.max(floorDb, amplitudeDb(Math.abs(amplitude))),
    laterMs: (delaysS[way]! - first) * 1000,
    sign: amplitude < 0 ? (-1 as const) : (1 as const),
  }))
}

/** Share of a source that arrives through one box, over all its channels with their signs. */
export function entryShare(
  { graph, table }: Chain,
  { source, typical }: Heard,
  end: number,
  part: string,
): Run['byEntry'] {
  const { emitters, amplitudes } = typical.after[end]!
  let sum = 0
  emitters.forEach((emitter, way) => {
    if (
      emitter < table.firstEntryNoise &&
      table.sourceOfOrigin[emitter] === source &&
      graph.nodes[graph.origins[emitter]!.node]!.part === part
    )
      sum += amplitudes[way]!
  })
  return { db: Math.max(floorDb, amplitudeDb(Math.abs(sum))), sign: sum < 0 ? -1 : 1 }
}
