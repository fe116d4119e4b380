import type { Stored } from '@iron-hush/core/contract'

/** The server's last known version of a document; `null` if it was deleted there. */
interface Arrived<T> {
  revision: number
  content: T | null
}

/**
 * Lists on their way from the server, and what reached it meanwhile: a list may have been read before that, and would
 * then take from sight what is stored.
 */
export function overtaking<T extends { id: string }>(scopeOf: (content: T) => string) {
  const underWay = new Set<Map<string, Arrived<T>>>()

  /** Notes that a document reached the server, or that it was deleted there. */
  function arrived(id: string, document: Arrived<T>): void {
    for (const list of underWay) list.set(id, document)
  }
  /** The list under a scope as it is with all that reached the server since it was asked for. */
  async function listed(scope: string, read: () => Promise<Stored<T>[]>): Promise<Stored<T>[]> {
    const since = new Map<string, Arrived<T>>()
    underWay.add(since)
    try {
      const list = await read()
      const later = ({ revision, content }: Stored<T>) => revision > (since.get(content.id)?.revision ?? -1)
      const current = list.filter(later)
      const listedIds = new Set(current.map(({ content }) => content.id))
      for (const [id, { revision, content }] of since)
        if (content && scopeOf(content) === scope && !listedIds.has(id)) current.push({ revision, content })
      return current
    } finally {
      underWay.delete(since)
    }
  }
  return { arrived, listed }
}
