import { wiringOf } from '../circuit'
import { levelsOfPatch } from '../levels'
import { levelsAnswer, wiringAnswer } from '../report'
import { scenes, shelf } from './demo'

/** Everything published of the wiring and the levels of the demo scenes. */
export const answersOf = (name: string): unknown => {
  const patch = scenes.find((each) => each.name === name)!
  const levels = levelsOfPatch(patch, shelf)
  return {
    wiring: wiringAnswer(patch, wiringOf(patch, shelf), levels),
    levels: levelsAnswer(patch, levels),
  }
}
export const sceneNames = scenes.map(({ name }) => name)

/** Another for other words, or the same in another order. */
function sumOf(text: string): number {
  let sum = 0
  for (let index = 0; index < text.length; index++) sum += text.charCodeAt(index) * (1 + (index % 7))
  return sum
}

/** Of each field, wherever it occurs, how often, the sum of what it says, and that of each by its place: figures and words alike. */
export function outlineOf(value: unknown): Record<string, number[]> {
  const fields: Record<string, number[]> = {}
  const add = (path: string, each: number) => {
    const sums = (fields[path] ??= [0, 0, 0])
    sums[0]!++
    sums[1]! += each
    sums[2]! += each * sums[0]!
  }
  const look = (part: unknown, path: string): void => {
    if (typeof part === 'number') add(path, part)
    else if (typeof part === 'boolean') add(path, Number(part))
    else if (typeof part === 'string') add(path, sumOf(part))
    else if (Array.isArray(part)) for (const each of part) look(each, path)
    else if (part) for (const [key, each] of Object.entries(part)) look(each, path ? `${path}.${key}` : key)
  }
  look(value, '')
  for (const sums of Object.values(fields))
    sums.forEach((sum, index) => (sums[index] = Math.round(100 * sum) / 100 + 0))
  return fields
}
