import type { Run } from '../levels'
import type { ChannelMeasurement, Gear } from '../model'

/** A stage's ceiling as a clip shows it, and as planned, dBu. */
export interface LearntCeiling {
  part: string
  partName: string
  stageName: string
  /** Strip of the stage in its box, and its index there. */
  strip: string
  index: number
  field: 'inputCeilingDbu' | 'outputCeilingDbu'
  plannedDbu: number
  learntDbu: number
}

/** Ceilings above this are the file's own full scale, which says nothing of the stages before it, dBFS. */
const underFullScaleDb = -0.5
/** A ceiling within this of the plan is not worth learning, dB. */
const fitsDb = 0.3

/** Penalty for a stage whose ceiling has another shape, dB: driven hard, a bend looks flat. */
const otherShapeDb = 6

/**
 * Which stage's ceiling a clip shows: of those before the recording, the one whose planned ceiling would come nearest to
 * where the crests end, one of the same shape before others. Undefined where nothing is cut, or only the file.
 */
export function learntCeiling(
  { clipped, ceilingDbfs }: ChannelMeasurement,
  run: Run,
): LearntCeiling | undefined {
  const end = run.points.at(-1)
  const shape = clipped[0]?.shape
  if (!end || !shape || ceilingDbfs === null || ceilingDbfs > underFullScaleDb) return undefined
  const wanted = shape === 'bent' || shape === 'sagging' ? shape : 'flat'
  const candidates = run.points.flatMap((point) =>
    point.ceilings.flatMap((ceiling) => {
      const place = placeOf(point.node, point.part)
      if (!place || point.kind !== 'gain') return []
      // level in the file of a sine that just reaches the ceiling
      const inFileDbfs = ceiling.atSourceDb + end.gainFromSourceDb
      const offDb = ceilingDbfs - inFileDbfs
      return [
        {
          point,
          ceiling,
          place,
          offDb,
          rank: Math.abs(offDb) + (ceiling.shape === wanted ? 0 : otherShapeDb),
        },
      ]
    }),
  )
  const [best] = candidates.sort((one, other) => one.rank - other.rank)
  if (!best || Math.abs(best.offDb) < fitsDb) return undefined
  const { point, ceiling, place, offDb } = best
  return {
    part: point.part,
    partName: point.partName,
    stageName: point.name,
    ...place,
    field: ceiling.at === 'input' ? 'inputCeilingDbu' : 'outputCeilingDbu',
    plannedDbu: ceiling.levelDb,
    learntDbu: Math.max(-90, Math.min(60, Math.round((ceiling.levelDb + offDb) * 10) / 10)),
  }
}

/** Strip and stage of a node that is a stage of a box. */
function placeOf(node: string, part: string): { strip: string; index: number } | undefined {
  const found = /^(.+)\.(\d+)$/.exec(node.startsWith(`${part}.`) ? node.slice(part.length + 1) : '')
  return found ? { strip: found[1]!, index: Number(found[2]) } : undefined
}

/** Tolerance of a ceiling read off a clip, dB. */
const toleranceDb = 0.5

/** The thing with the learnt ceiling; undefined if it has no such figure there. */
export function withLearntCeiling(
  gear: Gear,
  { strip, index, field, learntDbu }: LearntCeiling,
  note: string,
): Gear | undefined {
  const stage = gear.strips.find(({ id }) => id === strip)?.stages[index]
  if (!stage || !(field in stage)) return undefined
  const figure = { value: learntDbu, tolerance: toleranceDb, from: 'measured' as const, note }
  return {
    ...gear,
    strips: gear.strips.map((each) =>
      each.id === strip
        ? {
            ...each,
            stages: each.stages.map((old, at) => (at === index ? { ...old, [field]: figure } : old)),
          }
        : each,
    ),
  }
}
