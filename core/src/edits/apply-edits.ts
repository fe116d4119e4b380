import { checkPatch, type Patch, Refusal, type Shelf } from '../model'
import { applied, type Edit, kindOf } from './edit'
import { wiringRestore } from './restore-wiring'

/** Applies edits in order to an immutable patch. Throws a Refusal, and changes nothing, when the result is unsound. */
export function applyEdits(patch: Patch, edits: readonly Edit[], shelf: Shelf): Patch {
  const next = edits.reduce((each, edit) => applied(each, edit, shelf), patch)
  const [problem] = checkPatch(next, shelf)
  if (problem && !checkPatch(patch, shelf).includes(problem))
    throw new Refusal(`This change was refused: ${problem}`)
  return next
}

/** The edits that take the result of `edits` back to `patch`. */
export function inverseOf(patch: Patch, edits: readonly Edit[], shelf: Shelf): Edit[] {
  const back: Edit[] = []
  let now = patch
  for (const edit of edits) {
    const next = applied(now, edit, shelf)
    back.unshift(kindOf(edit).inverse(now, edit, next))
    now = next
  }
  return back
}

/**
 * The same edits in a form that no shelf can change the meaning of later: what is to be stored for replaying. A swap,
 * whose ports depend on the shelf of the day, becomes the change of the wiring that it made.
 */
export function settledEdits(patch: Patch, edits: readonly Edit[], shelf: Shelf): Edit[] {
  let now = patch
  return edits.map((edit) => {
    const next = applied(now, edit, shelf)
    const settled = edit.kind === 'swap' ? wiringRestore(next, now) : edit
    now = next
    return settled
  })
}

const nothingOnIt: Shelf = new Map()

/** Replays settled edits. They were checked when they were made. */
export const replayed = (patch: Patch, edits: readonly Edit[]): Patch =>
  edits.reduce((each, edit) => applied(each, edit, nothingOnIt), patch)
