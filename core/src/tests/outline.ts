/** Every figure and word of an answer in short: of each field how many there are, their sum, and that of each by its place. */
export type Outline = Record<string, number[]>

/** Another for other words, or the same in another order. */
function sumOf(text: string): number {
  let sum = 0
  for (let index = 0; index < text.length; index++) sum += text.charCodeAt(index) * (1 + (index % 7))
  return sum
}

/** Of each field, wherever it occurs. Whatever changes, one of its sums does. */
export function outlineOf(value: unknown): Outline {
  const fields: Outline = {}
  const add = (path: string, each: number) => {
    const sums = (fields[path] ??= [0, 0, 0])
    sums[0]!++
    sums[1]! += each
    sums[2]! += each * sums[0]!
  }
  const look = (part: unknown, path: string): void => {
    if (typeof part === 'number') add(path, Number.isFinite(part) ? part : sumOf(String(part)))
    else if (typeof part === 'boolean') add(path, Number(part))
    else if (typeof part === 'string') add(path, sumOf(part))
    else if (Array.isArray(part)) for (const each of part) look(each, path)
    else if (part) for (const [key, each] of Object.entries(part)) look(each, path ? `${path}.${key}` : key)
  }
  look(value, '')
  // few enough digits that no machine differs, and no sign before zero
  for (const sums of Object.values(fields))
    sums.forEach((sum, index) => (sums[index] = Math.round(1000 * sum) / 1000 + 0))
  return fields
}
