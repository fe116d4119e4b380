// What the switches in the changed files call: `$` of a bundle.

/** Which change is made, and which were passed since somebody last looked. */
export const state = { active: -1, passed: new Set<number>() }

type Operator = (left: number, right: number) => number | boolean
const operators: Record<string, [Operator, Operator]> = {
  '+': [(left, right) => left + right, (left, right) => left - right],
  '-': [(left, right) => left - right, (left, right) => left + right],
  '*': [(left, right) => left * right, (left, right) => left / right],
  '/': [(left, right) => left / right, (left, right) => left * right],
  '<': [(left, right) => left < right, (left, right) => left >= right],
  '>': [(left, right) => left > right, (left, right) => left <= right],
}

function isActive(id: number): boolean {
  if (state.active === -1) state.passed.add(id)
  return state.active === id
}

export const switches = {
  value: <T>(id: number, before: T, after: T): T => (isActive(id) ? after : before),
  operator: (id: number, operator: string, left: number, right: number) =>
    operators[operator]![isActive(id) ? 1 : 0](left, right),
  either: <T>(id: number, operator: string, left: T, right: () => T): T =>
    (operator === '&&') !== isActive(id) ? left && right() : left || right(),
}
