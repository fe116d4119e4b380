import type { Levels } from '../levels'
import { type Patch, type Shelf, shelfFor } from '../model'

/** Where anyone listens, and what is heard there: "Headphones at Recorder: founder". */
export function listeningPlaces(patch: Patch, commonShelf: Shelf, { runs }: Pick<Levels, 'runs'>): string[] {
  const shelf = shelfFor(patch, commonShelf)
  const nameOf = (id: string) => {
    const box = patch.boxes.find((each) => each.id === id)
    return box?.name ?? shelf.get(box?.gear ?? '')?.name ?? id
  }
  const heard = new Map<string, Set<string>>()
  for (const { end, source } of runs)
    if (end.kind === 'listen') heard.set(end.box, (heard.get(end.box) ?? new Set()).add(source.name))
  return [...heard].map(([box, sources]) => {
    const from = patch.links.find(({ to }) => to.box === box)?.from.box
    return `${nameOf(box)}${from ? ` at ${nameOf(from)}` : ''}: ${[...sources].join(', ')}`
  })
}
