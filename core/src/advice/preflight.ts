import type { PreflightItem } from '../findings'
import type { Run } from '../levels'
import { type Patch, type Shelf, shelfFor } from '../model'

/** What must be true before the first take, from the chain as it stands. */
export function preflightOf(patch: Patch, commonShelf: Shelf, runs: readonly Run[]): PreflightItem[] {
  const has = (kind: string) => runs.some(({ points }) => points.some((point) => point.kind === kind))
  const recorders = [
    ...new Set(runs.filter(({ end }) => end.kind === 'recording').map(({ end }) => end.boxName)),
  ]
  const items: [wanted: boolean, item: PreflightItem][] = [
    [has('radio'), { kind: 'radios linked' }],
    [has('agc'), { kind: 'level by hand' }],
    [hasBalancedMicrophone(patch, commonShelf), { kind: 'phantom power' }],
    [has('listen'), { kind: 'headphones' }],
    [recorders.length > 1, { kind: 'start', recorders }],
    [true, { kind: 'consent' }],
  ]
  return items.flatMap(([wanted, item]) => (wanted ? [item] : []))
}

/** A microphone on a balanced line: the kind that may want phantom power. */
function hasBalancedMicrophone(patch: Patch, commonShelf: Shelf): boolean {
  const shelf = shelfFor(patch, commonShelf)
  return patch.links.some(({ from }) => {
    const gear = shelf.get(patch.boxes.find(({ id }) => id === from.box)?.gear ?? '')
    return gear?.kind === 'microphone' && gear.ports.some((port) => port.id === from.port && port.balanced)
  })
}
