import type { Gear } from '../model'

/** What is owned first, then by name. */
export const byOwned = (one: Gear, other: Gear): number =>
  Number(other.owned > 0) - Number(one.owned > 0) || one.name.localeCompare(other.name)
