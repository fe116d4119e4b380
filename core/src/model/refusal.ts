import type { z } from 'zod'
import { currentFormat } from './format-version'

/** Input that cannot be used: what was refused, why, and what to do. The message is written for a person. */
export class Refusal extends Error {
  override name = 'Refusal'
}

/** One sentence out of a failed parse: the first thing wrong and where, and how many more there are. */
export function sentenceOf(error: z.core.$ZodError, what: string): string {
  const leaves = error.issues.flatMap(deepest)
  const first = leaves[0]
  if (!first) return `${what} could not be read.`
  const more = leaves.length > 1 ? ` (and ${leaves.length - 1} more)` : ''
  return `${what} was refused: ${where(first.path)}${reason(first)}${more}.`
}

/** A union reports every branch; the branch that got furthest says what was meant. */
function deepest(issue: z.core.$ZodIssue): z.core.$ZodIssue[] {
  if (issue.code !== 'invalid_union' || issue.errors.length === 0) return [issue]
  const branches = issue.errors.map((branch) =>
    branch.flatMap(deepest).map((inner) => ({ ...inner, path: [...issue.path, ...inner.path] })),
  )
  const depth = (branch: z.core.$ZodIssue[]) => Math.max(0, ...branch.map((inner) => inner.path.length))
  return branches.reduce((best, branch) => (depth(branch) > depth(best) ? branch : best))
}

function where(path: readonly PropertyKey[]): string {
  if (path.length === 0) return ''
  const text = path.map((part, index) =>
    typeof part === 'number' ? `[${part}]` : (index ? '.' : '') + String(part),
  )
  return `${text.join('')}: `
}

function reason(issue: z.core.$ZodIssue): string {
  switch (issue.code) {
    case 'unrecognized_keys':
      return `unknown field ${issue.keys.map((key) => `"${key}"`).join(', ')}; check its spelling or remove it`
    case 'too_small':
      return issue.origin === 'string' ? 'must not be empty' : `must be at least ${issue.minimum}`
    case 'too_big':
      return issue.origin === 'string'
        ? `must be at most ${issue.maximum} characters; shorten it`
        : issue.origin === 'array'
          ? `may hold at most ${issue.maximum}`
          : `must be at most ${issue.maximum}`
    case 'invalid_value':
      return `must be ${issue.values.map((value) => `"${String(value)}"`).join(' or ')}`
    case 'invalid_type':
      return issue.input === undefined
        ? `is missing or not a ${issue.expected}`
        : `must be a ${issue.expected}`
    default:
      return issue.message.charAt(0).toLowerCase() + issue.message.slice(1)
  }
}

/** Parses at the door. Throws a Refusal with one sentence; `what` names the thing in it. */
export function parse<T extends z.ZodType>(schema: T, input: unknown, what: string): z.output<T> {
  const result = schema.safeParse(input, { reportInput: true })
  if (!result.success) throw new Refusal(sentenceOf(result.error, what))
  return result.data
}

/** JSON text of this version or an earlier one into a checked value. NaN, trailing commas and the like are refused with the parser's reason. */
export function parseJson<T extends z.ZodType>(schema: T, text: string, what: string): z.output<T> {
  let input: unknown
  try {
    // some editors begin a file with a byte-order mark
    input = JSON.parse(text.replace(/^\uFEFF/, ''))
  } catch (error) {
    const why = error instanceof Error ? error.message : 'unreadable'
    throw new Refusal(`${what} was refused: it is not JSON (${why}).`)
  }
  return parse(schema, currentFormat(input), what)
}
