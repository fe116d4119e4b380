import type { Patch } from '@iron-hush/core/model'

/** How many states of scenes stay in memory. */
const most = 100

/** Cache of recent scene states. A revision never changes, so entries never become stale. */
export class RecentPatches {
  private readonly patches = new Map<string, Patch>()

  get(scene: string, revision: number): Patch | undefined {
    const key = `${scene} ${revision}`
    const patch = this.patches.get(key)
    if (patch) this.keep(key, patch)
    return patch
  }

  put(scene: string, revision: number, patch: Patch): void {
    this.keep(`${scene} ${revision}`, patch)
  }

  private keep(key: string, patch: Patch): void {
    this.patches.delete(key)
    this.patches.set(key, patch)
    const oldest = this.patches.keys().next()
    if (this.patches.size > most && !oldest.done) this.patches.delete(oldest.value)
  }
}
