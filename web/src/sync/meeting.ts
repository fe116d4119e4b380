import type { Stored } from '@iron-hush/core/contract'
import type { Refused } from './ask'
import type { DocumentKind } from './document-kind'
import { useOutbox } from './outbox'
import { idOfPlace, type Parcel, placeOf } from './parcel'

/** Changes to a page's documents where two devices meet. */
interface Page<T> {
  list: () => readonly T[]
  /** A document of the server's is shown in place of one of this page. */
  show: (theirs: T, inPlaceOf: string) => void
  put: (content: T) => void
  /** Remembers the server's version. */
  note: (stored: Stored<T>) => void
}

/**
 * What becomes of a parcel that met another device's change. All that was done here since is looked at together: what
 * waits behind the parcel was made before the answer was known, and would undo it.
 *
 * @returns whether a way on was found; if not, the parcel is the person's to decide
 */
export function meeting<T extends { id: string }>(kind: DocumentKind<T>, page: Page<T>) {
  const outbox = useOutbox()
  const read = (content: unknown): T | undefined => kind.schema.safeParse(content).data

  return function met(parcel: Parcel, refusal: Refused): boolean {
    const theirs = theirsAfter(kind, refusal)
    const isSame = theirs?.content.id === idOfPlace(parcel.place)
    if (!theirs || !(isSame ? kind.merge : kind.giveWay)) return false
    const last = outbox.takeBack(parcel.place, parcel) ?? parcel.errand
    // deleted here since: where the server has it, it is deleted there too; where it never arrived is nothing to do
    if (last.do !== 'put') {
      page.note(theirs)
      if (isSame) outbox.post(parcel.place, last)
      return true
    }
    const mine = read(last.content)
    if (!mine) return false
    page.note(theirs)
    if (isSame) page.put(merged(mine, theirs))
    else giveWay(mine, theirs)
    return true
  }

  function merged(mine: T, { content }: Stored<T>): T {
    return kind.merge ? kind.merge(mine, content) : content
  }
  /** Another document is where this one was to go: what is on its way to that one is not forgotten. */
  function giveWay(mine: T, stored: Stored<T>): void {
    const waiting = outbox.takeBack(placeOf(kind.name, stored.content.id))
    const changedHere = waiting?.do === 'put' ? read(waiting.content) : undefined
    const theirs = changedHere ? merged(changedHere, stored) : stored.content
    page.show(theirs, mine.id)
    if (changedHere) page.put(theirs)
    if (kind.giveWay) page.put(kind.giveWay(mine, theirs, page.list()))
  }
}

/** The document there, after a conflict. */
function theirsAfter<T extends { id: string }>(
  { schema }: DocumentKind<T>,
  { status, problem }: Refused,
): Stored<T> | undefined {
  const theirs = problem.theirs as Stored<unknown> | null | undefined
  if (status !== 409 || !theirs) return undefined
  const content = schema.safeParse(theirs.content)
  return content.success ? { revision: theirs.revision, content: content.data } : undefined
}
