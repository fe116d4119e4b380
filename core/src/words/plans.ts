import { type Gear, type Shelf, shelfFor } from '../model'
import { drawbacksOf, type Planned } from '../plan'
import { capital } from './sentences'

type Way = Pick<Planned, 'through' | 'patch'>

/** Words that distinguish plans: the microphone where it differs, the boxes on the way and the attenuators. */
export function planNames(planned: readonly Way[], commonShelf: Shelf): string[] {
  const heardWith = planned.map((plan) => heardWithName(plan, commonShelf))
  return planned.map((plan, at) => {
    const way = wayName(plan, commonShelf)
    return new Set(heardWith).size === 1 ? way : `${heardWith[at]}, ${way}`
  })
}

/** Microphones of a plan, and their drawbacks. */
export function heardWithName({ patch }: Way, commonShelf: Shelf): string {
  const shelf = shelfFor(patch, commonShelf)
  const names = patch.boxes.flatMap(({ gear }) => {
    const thing = shelf.get(gear)
    return thing?.kind === 'microphone' ? [thing.name] : []
  })
  const name = [...new Set(names)].join(', ') || 'built-in microphone'
  const drawbacks = drawbacksOf(patch, commonShelf)
  return drawbacks.length ? `${name} (${drawbacks.join(', ')})` : name
}

/** The boxes on the way and the attenuators. */
export function wayName({ patch, through }: Way, commonShelf: Shelf): string {
  const shelf = shelfFor(patch, commonShelf)
  const pads = patch.links.flatMap(({ pieces }) =>
    pieces.flatMap(({ gear }) => {
      const piece = shelf.get(gear)
      return piece?.kind === 'pad' ? [piece.name] : []
    }),
  )
  const way = [...through, ...pads]
  return way.length ? `by ${way.join(', ')}` : 'straight in'
}

/** Which sources the camera's own sound lacks, and where they are; empty where it has them all. */
export const besideWords = (beside: Planned['beside']): string =>
  beside
    .map(({ source, recording, camera }) => `${capital(source)} is only on ${recording}, not on ${camera}.`)
    .join(' ')

/** The shopping list, each thing once with its number. */
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

/** The same with about how much it comes to, as far as prices are known; empty for nothing. */
export function toBuyPriced(missing: readonly Gear[]): string {
  const priced = missing.filter(({ price }) => price !== undefined)
  if (priced.length === 0) return toBuyNames(missing)
  const sum = priced.reduce((before, { price = 0 }) => before + price, 0)
  const rest = priced.length < missing.length ? ', not counting what has no price' : ''
  return `${toBuyNames(missing)}, about ${sum}${rest}`
}

/** The same as a sentence; empty for nothing. */
export const toBuyWords = (missing: readonly Gear[]): string =>
  missing.length ? `To buy: ${toBuyPriced(missing)}.` : ''
