import { type Gear, type Patch, usesIn } from '../model'

/** Whether a thing is there to be used in a patch. */
export function ownedWords({ id, owned, standIn }: Gear, patch: Patch): string {
  if (standIn) return 'until you know'
  if (owned === 0) return 'not owned'
  return (usesIn(patch).get(id) ?? 0) < owned ? 'yours' : 'yours, in use here'
}
