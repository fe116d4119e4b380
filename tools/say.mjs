// Messages of a start or a test run to the person at the terminal.
const started = performance.now()

/**
 * Shows a line for anything that takes over two seconds, and how long it took.
 * @template T
 * @param {string} doing
 * @param {() => Promise<T>} work
 */
export async function step(doing, work) {
  const from = performance.now()
  const timer = setTimeout(() => console.log(`  ${doing} ...`), 2000)
  try {
    return await work()
  } finally {
    clearTimeout(timer)
    const seconds = (performance.now() - from) / 1000
    if (seconds > 2) console.log(`  ${doing}: ${seconds.toFixed(1)} s`)
  }
}

export const secondsSinceStart = () => ((performance.now() - started) / 1000).toFixed(1)

/** An error whose message is the whole story: printed without a stack, exit code 1. */
export class Trouble extends Error {}

/**
 * @param {unknown} error
 * @returns {never}
 */
export function endWith(error) {
  console.error(error instanceof Trouble ? error.message : error)
  process.exit(1)
}
