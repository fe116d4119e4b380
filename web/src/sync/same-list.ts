/** Whether two lists hold the same objects in the same order. */
export const isSameList = <T>(one: readonly T[], other: readonly T[]): boolean =>
  one.length === other.length && one.every((each, at) => each === other[at])
