import { computed, type Ref } from 'vue'
import { atLeast, type Finding, findingsOf, levelsOfPatch } from '@iron-hush/core/levels'
import {
  applyEdits,
  checkPatch,
  type Edit,
  type Gear,
  type Link,
  type Patch,
  type Shelf,
} from '@iron-hush/core/model'
import { partId } from '../../state/new-id'
import { idsOf } from '../../state/scene'
import { fittingPieces } from './layout'

/** Something that could go into a link, and what it would bring. */
export interface Offer {
  gear: Gear
  edits: Edit[]
  /** The worst that would be said of the runs through this link, or that nothing would. */
  brings: string
  severity: Finding['severity'] | 'none'
}

/** What would be new or worse after a change of the patch, in one sentence; else what it would take away. */
export function outcomeOf(
  patch: Patch,
  edits: Edit[],
  shelf: Shelf,
  before = bad(patch, shelf),
): Pick<Offer, 'brings' | 'severity'> {
  try {
    const next = applyEdits(patch, edits, shelf)
    const after = bad(next, shelf)
    const [worst] = missing(after, before)
    if (worst) return { brings: worst.what, severity: worst.severity }
    const [cured] = missing(before, after)
    return cured
      ? { brings: `cures: ${cured.what}`, severity: 'none' }
      : { brings: 'brings nothing new', severity: 'none' }
  } catch (error) {
    return { brings: error instanceof Error ? error.message : String(error), severity: 'dead' }
  }
}

/** What is at least degraded now. Compute it once for a list of outcomes. */
export function bad(patch: Patch, shelf: Shelf): Finding[] {
  if (checkPatch(patch, shelf).length) return []
  return findingsOf(levelsOfPatch(patch, shelf), patch.plan).filter(({ severity }) =>
    atLeast(severity, 'degraded'),
  )
}

/** Findings of the first list that the second does not have about the same place, or not as badly. */
const missing = (one: Finding[], other: Finding[]): Finding[] =>
  one.filter(
    (finding) =>
      !other.some(
        (each) =>
          each.run === finding.run &&
          each.about === finding.about &&
          atLeast(each.severity, finding.severity),
      ),
  )

/** Pieces that fit at the end of a link, owned first, each with the finding it would bring. */
export function useOffers(patch: Ref<Patch>, shelf: Ref<Shelf>, link: Ref<Link | undefined>) {
  return computed<Offer[]>(() => {
    const into = link.value
    if (!into) return []
    const at = into.through.length
    const before = bad(patch.value, shelf.value)
    return fittingPieces(into, at, patch.value, shelf.value).map((gear) => {
      const piece = { id: partId(gear.id, idsOf(patch.value)), gear: gear.id, settings: {}, locked: [] }
      const edits: Edit[] = [{ kind: 'insert piece', link: into.id, at, piece }]
      return { gear, edits, ...outcomeOf(patch.value, edits, shelf.value, before) }
    })
  })
}
