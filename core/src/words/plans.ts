import { type Shelf, shelfFor } from '../model'
import type { Planned } from '../plan'

/** What tells plans apart: what hears the scene where that differs, the boxes on the way and the attenuators. */
export function planNames(
  planned: readonly Pick<Planned, 'through' | 'patch'>[],
  commonShelf: Shelf,
): string[] {
  const plans = planned.map(({ through, patch }) => {
    const shelf = shelfFor(patch, commonShelf)
    const namesOf = (gear: readonly { gear: string }[], kind: 'microphone' | 'pad') =>
      gear.flatMap(({ gear: id }) => {
        const thing = shelf.get(id)
        return thing?.kind === kind ? [`${thing.name}${thing.mount === 'hand' ? ' in the picture' : ''}`] : []
      })
    const pads = namesOf(
      patch.links.flatMap(({ pieces }) => pieces),
      'pad',
    )
    const way = [...through, ...pads]
    return {
      heardWith: [...new Set(namesOf(patch.boxes, 'microphone'))].join(', ') || 'built-in microphone',
      way: way.length ? `by ${way.join(', ')}` : 'straight in',
    }
  })
  const isOneKit = new Set(plans.map(({ heardWith }) => heardWith)).size === 1
  return plans.map(({ heardWith, way }) => (isOneKit ? way : `${heardWith}, ${way}`))
}
