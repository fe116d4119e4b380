import { type Gear, type Shelf, shelfFor } from '../model'
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

/** What must be bought, each thing once with its number. */
export function toBuyNames(missing: readonly Gear[]): string {
  const counts = new Map<Gear, number>()
  for (const gear of missing) counts.set(gear, (counts.get(gear) ?? 0) + 1)
  return [...counts]
    .map(([{ name, owned }, count]) => {
      const number = count > 1 ? `${count} \u00D7 ` : ''
      // one is there, so that its name alone would read as a slip
      return owned ? `${number}another ${name}` : `${number}${name}`
    })
    .join(', ')
}

/** The same as a sentence, with about how much it comes to; empty for nothing. */
export function toBuyWords(missing: readonly Gear[]): string {
  const price = missing.reduce((sum, each) => sum + (each.price ?? 0), 0)
  return missing.length ? `To buy: ${toBuyNames(missing)}, about ${price}.` : ''
}
