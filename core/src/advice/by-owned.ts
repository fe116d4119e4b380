import type { Gear } from '../model'

/** Sorts owned gear first and placeholders last, then by name. */
export const byOwned = (one: Gear, other: Gear): number =>
  Number(one.standIn ?? false) - Number(other.standIn ?? false) ||
  Number(other.owned > 0) - Number(one.owned > 0) ||
  one.name.localeCompare(other.name)
