import { describe, expect, it } from 'vitest'
import { levelsOfPatch } from '.'
import { scenes, shelf } from '../tests/demo'
import { boxColumns, boxGroups } from './box-columns'
import { columnsOf } from './columns'

const runs = scenes.flatMap((patch) => levelsOfPatch(patch, shelf).runs)

describe('columns box by box', () => {
  it('hold every point once and in order, whatever is opened', () => {
    for (const run of runs) {
      const stages = columnsOf(run)
      for (const opened of [new Set<string>(), new Set([stages[0]!.part, stages.at(-1)!.part])]) {
        const boxes = boxColumns(stages, opened)
        expect(boxes.flatMap(({ points }) => points)).toEqual(stages.flatMap(({ points }) => points))
        expect(new Set(boxes.flatMap(({ controls }) => controls))).toEqual(
          new Set(stages.flatMap(({ controls }) => controls)),
        )
      }
    }
  })
  it('show the tightest ceiling of a box, and the floor at its output', () => {
    for (const run of runs) {
      const stages = columnsOf(run)
      const boxes = boxColumns(stages, new Set())
      const lowest = (all: typeof stages) =>
        Math.min(...all.map(({ ceiling }) => ceiling?.headroomDb ?? Infinity))
      expect(lowest(boxes)).toBe(lowest(stages))
      expect(boxes.at(-1)!.noiseAtSourceDb).toBe(stages.at(-1)!.noiseAtSourceDb)
      const own = (all: typeof stages) =>
        all.reduce((sum, each) => sum + 10 ** (each.ownNoiseAtSourceDb / 10), 0)
      expect(10 * Math.log10(own(boxes))).toBeCloseTo(10 * Math.log10(own(stages)), 6)
    }
  })
  it('open where a box is opened, and are all stages where all are', () => {
    const [run] = runs
    const stages = columnsOf(run!)
    const all = new Set(stages.map(({ part }) => part))
    expect(boxColumns(stages, all)).toEqual(stages)
    const groups = boxGroups(stages)
    expect(boxColumns(stages, new Set())).toHaveLength(groups.length)
    const [large] = [...groups].sort((one, other) => other.count - one.count)
    expect(boxColumns(stages, new Set([large!.part]))).toHaveLength(groups.length + large!.count - 1)
  })
})
