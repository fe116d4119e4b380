/**
 * Reads of one thing that may overtake each other on their way.
 *
 * @returns runs a read; undefined where one that was begun later has come before it, and is what counts
 */
export function inOrder(): <T>(read: () => Promise<T>) => Promise<T | undefined> {
  let lastBegun = 0
  let lastCome = 0
  return async (read) => {
    const begun = ++lastBegun
    const answer = await read()
    if (begun < lastCome) return undefined
    lastCome = begun
    return answer
  }
}
