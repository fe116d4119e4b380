// What the switches in the changed files call: `$` of a bundle. They are passed for every sample of a clip, so each operator
// has one of its own, which the compiler can put in its place.

const seen = new Uint8Array(65_536)
let active = -1

/** From now on this change is made; none with -1: then it is noted which are passed. */
export function make(change: number): void {
  active = change
}
/** Which changes were passed since somebody last asked. */
export function passedSince(): number[] {
  const passed = [...seen.keys()].filter((id) => seen[id])
  seen.fill(0)
  return passed
}

function isMade(id: number): boolean {
  if (active === -1) seen[id] = 1
  return active === id
}

export const switches = {
  value: <T>(id: number, before: T, after: T): T => (isMade(id) ? after : before),
  plus: (id: number, left: number, right: number) => (isMade(id) ? left - right : left + right),
  minus: (id: number, left: number, right: number) => (isMade(id) ? left + right : left - right),
  times: (id: number, left: number, right: number) => (isMade(id) ? left / right : left * right),
  over: (id: number, left: number, right: number) => (isMade(id) ? left * right : left / right),
  less: (id: number, left: number, right: number) => (isMade(id) ? left >= right : left < right),
  more: (id: number, left: number, right: number) => (isMade(id) ? left <= right : left > right),
  and: <T>(id: number, left: T, right: () => T): T => (isMade(id) ? left || right() : left && right()),
  or: <T>(id: number, left: T, right: () => T): T => (isMade(id) ? left && right() : left || right()),
}
