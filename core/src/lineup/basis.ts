import { type Bench, type ToneWay } from './bench'

/** A fingerprint of what a step depends on, different for another chain (FNV-1a, 32 bits, of its JSON). */
export function basisOf(of: unknown): string {
  let hash = 0x811c9dc5
  for (const letter of JSON.stringify(of)) {
    hash ^= letter.codePointAt(0) ?? 0
    hash = Math.imul(hash, 0x01000193)
  }
  return (hash >>> 0).toString(36)
}

/** What a tone step depends on: the things between sender and recording, in order. */
export const basisOfWay = ({ patch, shelf }: Bench, { run, sender }: ToneWay): string => {
  const parts = new Set(run.points.slice(sender ?? 0).map(({ part }) => part))
  return basisOf([
    ...patch.boxes
      .filter(({ id }) => parts.has(id))
      .map(({ id, gear }) => [id, shelf.get(gear)?.copyOf ?? gear]),
    ...patch.links
      .filter(({ to }) => parts.has(to.box))
      .map(({ from, to, pieces }) => [from, to, pieces.map(({ gear }) => gear)]),
  ])
}
