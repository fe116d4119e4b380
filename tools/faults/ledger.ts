import type { Stored } from '@iron-hush/core/contract'
import { type Take, uuidv7 } from '@iron-hush/core/model'

export const newId = (): string => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))

interface Scene {
  id: string
  revision: number
}

/**
 * Writes as a page does: one change after another to each place, each sent again with the same id until it is answered.
 * Remembers what was acknowledged, and looks for it at the end.
 */
export class Ledger {
  acknowledged = 0
  unavailable = 0
  refused: string[] = []
  private readonly edits: { revision: number; note: string }[] = []
  private readonly takes: { take: Take; revision: number }[] = []
  private ended = false

  constructor(
    private readonly base: string,
    private readonly scene: Scene,
  ) {}

  /** Writes until `end`. */
  async write(): Promise<void> {
    while (!this.ended) {
      await this.edit()
      await this.take()
    }
  }
  end(): void {
    this.ended = true
  }

  private async edit(): Promise<void> {
    const note = newId()
    const change = { id: newId(), baseRevision: this.scene.revision, edits: [{ kind: 'note', note }] }
    const answer = await this.sent('POST', `/api/scenes/${this.scene.id}/edits`, change)
    if (answer === undefined) return
    this.scene.revision = answer.revision
    this.edits.push({ revision: answer.revision, note })
  }

  private async take(): Promise<void> {
    const last = this.takes.at(-1)
    const changes = last !== undefined && this.takes.length % 3 === 0 && last.take.note === ''
    const take: Take = changes
      ? { ...last.take, note: newId(), marks: [mark(), ...last.take.marks] }
      : {
          id: newId(),
          scene: this.scene.id,
          number: this.takes.length + 1,
          startedAt: new Date().toISOString(),
          endedAt: new Date().toISOString(),
          verdict: 'open',
          note: '',
          marks: [mark(), mark()],
          parts: [],
        }
    const baseRevision = changes ? last.revision : 0
    const answer = await this.sent('PUT', `/api/takes/${take.id}`, { baseRevision, content: take })
    if (answer === undefined) return
    if (changes) this.takes.pop()
    this.takes.push({ take, revision: answer.revision })
  }

  /** Sends until there is an answer; undefined for one that refuses. */
  private async sent(
    method: string,
    address: string,
    body: object,
  ): Promise<{ revision: number } | undefined> {
    for (;;) {
      const answer = await fetch(this.base + address, {
        method,
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
        signal: AbortSignal.timeout(20_000),
      }).catch(() => undefined)
      if (answer?.ok) {
        this.acknowledged++
        return (await answer.json()) as { revision: number }
      }
      if (answer && answer.status < 500) {
        this.refused.push(`${answer.status} ${await answer.text()}`)
        return undefined
      }
      this.unavailable++
      if (this.ended) return undefined
      await new Promise((resolve) => setTimeout(resolve, 60))
    }
  }

  /** Acknowledged writes that the server lacks, or has twice. */
  async compare(): Promise<{ lost: number; doubled: number }> {
    const get = async <T>(address: string) => (await (await fetch(this.base + address)).json()) as T
    const scene = await get<{ revision: number; patch: { note: string } }>(`/api/scenes/${this.scene.id}`)
    const last = this.edits.at(-1)
    const lostEdits = last === undefined ? 0 : Math.max(0, last.revision - scene.revision)
    // one more may be stored whose answer was lost at the end
    const doubledEdits = last === undefined ? 0 : Math.max(0, scene.revision - last.revision - 1)
    const wrongNote = last && scene.revision === last.revision && scene.patch.note !== last.note ? 1 : 0
    const takes = await get<Stored<Take>[]>(`/api/scenes/${this.scene.id}/takes?limit=1000`)
    const lostTakes = this.takes.filter(({ take, revision }) => {
      const there = takes.find(({ content }) => content.id === take.id)
      if (!there || there.revision < revision) return true
      return there.revision === revision && there.content.marks.length !== take.marks.length
    }).length
    const doubledTakes = takes.length - new Set(takes.map(({ content }) => content.number)).size
    return { lost: lostEdits + wrongNote + lostTakes, doubled: doubledEdits + doubledTakes }
  }
}

const mark = () => ({ id: newId(), kind: 'wind' as const, atS: 1, channel: '', note: '' })
