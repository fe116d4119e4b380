import { lastOf } from '../model'
import { powerSumDb } from '../units'
import type { Column } from './columns'
import { tighter } from './run'

/** Neighbouring columns of one box, by where they stand. */
export interface BoxGroup {
  part: string
  partName: string
  from: number
  count: number
}

/** The boxes of a run from left to right, with the columns that each of them takes. */
export function boxGroups(columns: readonly Column[]): BoxGroup[] {
  const groups: BoxGroup[] = []
  columns.forEach(({ part, partName }, index) => {
    const last = groups.at(-1)
    if (last?.part === part) last.count++
    else groups.push({ part, partName, from: index, count: 1 })
  })
  return groups
}

/**
 * Columns box by box: a box is one column, with its tightest ceiling, the noise at its output and all of its controls,
 * unless it is opened into its stages.
 */
export function boxColumns(columns: readonly Column[], opened: ReadonlySet<string>): Column[] {
  return boxGroups(columns).flatMap(({ part, from, count }) => {
    const stages = columns.slice(from, from + count)
    return opened.has(part) || count === 1 ? stages : [together(stages)]
  })
}

function together(stages: readonly Column[]): Column {
  const last = lastOf(stages)
  return {
    ...last,
    name: '',
    points: stages.flatMap(({ points }) => points),
    controls: [...new Set(stages.flatMap(({ controls }) => controls))],
    ceiling: stages.map(({ ceiling }) => ceiling).reduce(tighter),
    ownNoiseAtSourceDb: powerSumDb(stages.map(({ ownNoiseAtSourceDb }) => ownNoiseAtSourceDb)),
  }
}
