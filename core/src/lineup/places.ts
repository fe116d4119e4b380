import type { Point } from '../levels'
import type { FigurePlace, Gear, LearntValue } from '../model'

type StagePlace = Extract<FigurePlace, { strip: string }>

/** Where in a thing a point of a run is; undefined where it is no stage of it. */
export function placeOfNode(
  { node, part }: Pick<Point, 'node' | 'part'>,
  box: string,
): { strip: string; stage: number } | undefined {
  const found = part === box ? /^(.+)\.(\d+)$/.exec(node.slice(box.length + 1)) : null
  return found ? { strip: found[1]!, stage: Number(found[2]) } : undefined
}

/** The value of a thing's field; null: none. */
export function valueAt(gear: Gear, place: FigurePlace): LearntValue {
  if ('mark' in place) return gear.meter?.marks.find(({ id }) => id === place.mark)?.atDbfs ?? null
  const stage = gear.strips.find(({ id }) => id === place.strip)?.stages[place.stage] as
    | Record<string, LearntValue>
    | undefined
  return stage?.[place.field] ?? null
}

/** The same place in every channel that is built alike: stages of one kind and name with the same value there. */
export function alikePlaces(gear: Gear, place: StagePlace): StagePlace[] {
  const stageAt = (strip: string) => gear.strips.find(({ id }) => id === strip)?.stages[place.stage]
  const mine = stageAt(place.strip)
  const value = JSON.stringify(valueAt(gear, place))
  return gear.strips.flatMap(({ id }) => {
    const stage = stageAt(id)
    const alike =
      stage?.kind === mine?.kind &&
      stage?.name === mine?.name &&
      JSON.stringify(valueAt(gear, { ...place, strip: id })) === value
    return alike ? [{ ...place, strip: id }] : []
  })
}

/** The thing with another value at some places; null takes it out. */
export function withValue(gear: Gear, places: readonly FigurePlace[], value: LearntValue): Gear {
  const put = (stage: object, field: string) => {
    const { [field]: _, ...others } = stage as Record<string, unknown>
    return value === null ? others : { ...others, [field]: value }
  }
  return places.reduce((thing, place): Gear => {
    if ('mark' in place)
      return {
        ...thing,
        meter: thing.meter && {
          marks: thing.meter.marks.map((mark) =>
            mark.id === place.mark ? { ...mark, atDbfs: value as typeof mark.atDbfs } : mark,
          ),
        },
      }
    return {
      ...thing,
      strips: thing.strips.map((strip) =>
        strip.id === place.strip
          ? {
              ...strip,
              stages: strip.stages.map((stage, index) =>
                index === place.stage ? (put(stage, place.field) as typeof stage) : stage,
              ),
            }
          : strip,
      ),
    }
  }, gear)
}
