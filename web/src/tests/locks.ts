/** Locks as a browser holds them for its tabs: each has one holder, and the others wait in order. */
export class Locks {
  private readonly waiting = new Map<string, (() => void)[]>()

  /** @param held names of locks that other tabs hold */
  constructor(held: readonly string[]) {
    for (const name of held) this.waiting.set(name, [])
  }

  async request<T>(
    name: string,
    ...rest: [((lock: unknown) => Promise<T>)?] | [{ ifAvailable: boolean }, (lock: unknown) => Promise<T>]
  ): Promise<T> {
    const act = rest.at(-1) as (lock: unknown) => Promise<T>
    const others = this.waiting.get(name)
    if (others && rest.length === 2) return act(null)
    if (others) await new Promise<void>((resolve) => others.push(resolve))
    else this.waiting.set(name, [])
    return act({ name }).finally(() => this.release(name))
  }
  /** The tab that holds it goes. */
  release(name: string): void {
    const next = this.waiting.get(name)?.shift()
    if (next) next()
    else this.waiting.delete(name)
  }
}
