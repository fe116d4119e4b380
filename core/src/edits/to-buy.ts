import { type Gear, missingIn, type Patch, Refusal, type Shelf } from '../model'
import { applyEdits } from './apply-edits'
import type { Edit } from './edit'

/**
 * What must be bought for a change of a patch: what it uses of the patch stays in use, what it takes out is free. Nothing
 * for a change that is refused.
 */
export function toBuyFor(patch: Patch, edits: readonly Edit[], shelf: Shelf): Gear[] {
  try {
    return missingIn(applyEdits(patch, edits, shelf), shelf, patch)
  } catch (error) {
    if (error instanceof Refusal) return []
    throw error
  }
}
