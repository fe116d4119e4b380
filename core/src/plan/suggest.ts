import { pairPatch } from '../advice'
import { findWays } from '../circuit'
import { type Gear, type Shelf, thingsOf } from '../model'
import { pluggable } from './chains'
import { planScene } from './plan'
import type { Planned } from './planned'
import type { HeardWith, Question } from './question'
import { byWorth } from './worth'

/** What a scene could be heard with: every microphone, over a radio where one is worn and a transmitter takes it. */
export function heardWithChoices(camera: Gear, shelf: Shelf): HeardWith[] {
  const microphones = thingsOf(shelf).filter(({ kind }) => kind === 'microphone')
  const transmitters = [...shelf.values()].filter(
    (gear) =>
      gear.owned > 0 &&
      gear.ports.some(({ connector, direction }) => connector === 'radio' && direction === 'out'),
  )
  return [
    ...microphones.map((microphone): HeardWith => ({ microphone })),
    ...microphones
      .filter(
        (microphone) =>
          microphone.mount === 'worn' && transmitters.some((each) => plugsInto(microphone, each, shelf)),
      )
      .map((microphone): HeardWith => ({ microphone, radio: true })),
    ...(camera.ports.some(({ connector }) => connector === 'air') ? ['built in' as const] : []),
  ]
}

/** Whether a microphone works into a transmitter, straight or by one piece. */
function plugsInto(microphone: Gear, transmitter: Gear, shelf: Shelf): boolean {
  const [out] = pluggable(microphone, 'out')
  const [into] = pluggable(transmitter, 'in')
  if (!out || !into) return false
  const { patch, link } = pairPatch(
    { gear: microphone.id, port: out.id },
    { gear: transmitter.id, port: into.id },
    shelf,
  )
  return findWays(patch, link, shelf, { mostPieces: 1 }).length > 0
}

export const isOwned = (heardWith: HeardWith): boolean =>
  heardWith === 'built in' || heardWith.microphone.owned > 0

/** What of that is owned, and so is tried for a suggestion. */
export const suggestible = (camera: Gear, shelf: Shelf): HeardWith[] =>
  heardWithChoices(camera, shelf).filter(isOwned)

/** The best scene with each thing that is owned, the best of them first. Tells how far it is. */
export function suggestScene(
  question: Omit<Question, 'heardWith'>,
  shelf: Shelf,
  progress?: (share: number) => void,
): Planned[] {
  const choices = suggestible(question.camera, shelf)
  return choices
    .flatMap((heardWith, index) => {
      const [best] = planScene({ ...question, heardWith }, shelf)
      progress?.((index + 1) / choices.length)
      return best ? [best] : []
    })
    .sort(byWorth)
}
