import fc from 'fast-check'
import {
  checkGear,
  type Gear,
  gearOf,
  Patch,
  partsOf,
  positionsOf,
  refuseBadPatch,
  type Shelf,
  shelfFor,
} from '../model'
import { scenes, shelf } from './demo'

/*
 * Patches of the demo with figures that no demo has: whatever passes the schemas must be answered, in time and in figures.
 */

/** Figures that people and files get wrong, and the ends of what is allowed. */
const odd = fc.oneof(
  fc.constantFrom(0, 1, -1, 1e-9, 0.001, 0.5, 3, 12, 29.9, 30, 60, 100, 140, 1000, 20_000, 1e6),
  fc.double({ min: -200, max: 200, noNaN: true }),
  fc.integer({ min: -10, max: 300 }),
)

/** Where the numbers of a value are, as paths. */
function numbersIn(value: unknown, path: string[] = []): string[][] {
  if (typeof value === 'number') return [path]
  if (value === null || typeof value !== 'object') return []
  return Object.entries(value).flatMap(([name, each]) => numbersIn(each, [...path, name]))
}

function setAt(value: unknown, path: readonly string[], to: unknown): unknown {
  const [name, ...rest] = path
  if (name === undefined) return to
  const copy = (Array.isArray(value) ? [...(value as unknown[])] : { ...(value as object) }) as Record<
    string,
    unknown
  >
  copy[name] = setAt(copy[name], rest, to)
  return copy
}

interface Change {
  pick: number
  to: number
}
const change: fc.Arbitrary<Change> = fc.record({ pick: fc.nat(), to: odd })

/** Some numbers of a value made odd, one after another; a change that is refused is left out. */
function changed<T>(value: T, changes: readonly Change[], sound: (value: unknown) => T | undefined): T {
  let now = value
  for (const { pick, to } of changes) {
    const paths = numbersIn(now).filter((path) => path.at(-1) !== 'version')
    const path = paths[pick % Math.max(1, paths.length)]
    if (path) now = sound(setAt(now, path, to)) ?? now
  }
  return now
}

const soundPatch = (value: unknown): Patch | undefined => Patch.safeParse(value).data

/** A patch of the demo with odd figures in its brief, its plan and its gear, and its controls anywhere. */
export const oddPatch: fc.Arbitrary<Patch> = fc
  .record({
    scene: fc.nat(scenes.length - 1),
    inBrief: fc.array(change, { maxLength: 3 }),
    inPlan: fc.array(change, { maxLength: 1 }),
    inGear: fc.array(
      fc.record({ gear: fc.nat(), changes: fc.array(change, { minLength: 1, maxLength: 2 }) }),
      {
        maxLength: 2,
      },
    ),
    turned: fc.array(fc.record({ pick: fc.nat(), to: fc.nat() }), { maxLength: 4 }),
    unlocked: fc.boolean(),
  })
  .map(({ scene, inBrief, inPlan, inGear, turned, unlocked }) => {
    let patch = scenes[scene]!
    patch = {
      ...patch,
      brief: changed(patch.brief, inBrief, (brief) => soundPatch({ ...patch, brief })?.brief),
    }
    patch = { ...patch, plan: changed(patch.plan, inPlan, (plan) => soundPatch({ ...patch, plan })?.plan) }
    for (const { gear, changes } of inGear) patch = withOddGear(patch, gear, changes)
    for (const { pick, to } of turned) patch = withControlAt(patch, pick, to)
    return unlocked ? { ...patch, boxes: patch.boxes.map((box) => ({ ...box, locked: [] })) } : patch
  })
  .filter((patch) => isSound(patch, shelf))

function withOddGear(patch: Patch, pick: number, changes: readonly Change[]): Patch {
  const used = [...new Set(partsOf(patch).map((part) => part.gear))]
  const id = used[pick % used.length]!
  const gear = changed<Gear>(gearOf(shelfFor(patch, shelf), id), changes, (value) => {
    const sound = soundPatch({ ...patch, gear: [...patch.gear.filter((each) => each.id !== id), value] })
    const own = sound?.gear.find((each) => each.id === id)
    return own && checkGear(own).length === 0 ? own : undefined
  })
  return { ...patch, gear: [...patch.gear.filter((each) => each.id !== id), gear] }
}

function withControlAt(patch: Patch, pick: number, to: number): Patch {
  const all = shelfFor(patch, shelf)
  const controls = patch.boxes.flatMap((box) =>
    gearOf(all, box.gear).controls.map((control) => ({ box, control })),
  )
  const { box, control } = controls[pick % controls.length]!
  const positions = positionsOf(control)
  const settings = { ...box.settings, [control.id]: positions[to % positions.length]! }
  return { ...patch, boxes: patch.boxes.map((each) => (each === box ? { ...each, settings } : each)) }
}

function isSound(patch: Patch, all: Shelf): boolean {
  try {
    refuseBadPatch(patch, all, patch.name)
    return true
  } catch {
    return false
  }
}

/** Where a value holds what is no number, as a path; infinities are answers (an unlimited ceiling, silence). */
export function nanIn(value: unknown, path = '', seen = new Set<unknown>()): string | undefined {
  if (typeof value === 'number') return Number.isNaN(value) ? path : undefined
  if (value === null || typeof value !== 'object' || seen.has(value)) return undefined
  seen.add(value)
  const entries = value instanceof Map ? [...value.entries()] : Object.entries(value)
  for (const [name, each] of entries) {
    const found = nanIn(each, `${path}.${String(name)}`, seen)
    if (found) return found
  }
  return undefined
}
