import type { Run } from '../levels'
import { type Patch, type Shelf, shelfFor } from '../model'

/** What must be true before the first take, from the chain as it stands. */
export function preflightOf(patch: Patch, commonShelf: Shelf, runs: readonly Run[]): string[] {
  const has = (kind: string) => runs.some(({ points }) => points.some((point) => point.kind === kind))
  const recorders = new Set(runs.filter(({ end }) => end.kind === 'recording').map(({ end }) => end.boxName))
  const lines: [boolean, string][] = [
    [has('radio'), 'Radios linked, both on the same channel, fresh cells'],
    [has('agc'), 'Level by hand where there is a choice'],
    [hasBalancedMicrophone(patch, commonShelf), 'Phantom power as planned, muted while plugging'],
    [has('listen'), 'Headphones on, started low'],
    [recorders.size > 1, `Start ${[...recorders].join(', then ')}, then clap`],
    [true, 'Tell people that the microphone is live'],
  ]
  return lines.flatMap(([wanted, line]) => (wanted ? [line] : []))
}

/** A microphone on a balanced line: the kind that may want phantom power. */
function hasBalancedMicrophone(patch: Patch, commonShelf: Shelf): boolean {
  const shelf = shelfFor(patch, commonShelf)
  return patch.links.some(({ from }) => {
    const gear = shelf.get(patch.boxes.find(({ id }) => id === from.box)?.gear ?? '')
    return gear?.kind === 'microphone' && gear.ports.some((port) => port.id === from.port && port.balanced)
  })
}
