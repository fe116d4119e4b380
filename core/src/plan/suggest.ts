import { pairPatch } from '../advice'
import { findWays } from '../circuit'
import { type Gear, type Shelf, thingsOf } from '../model'
import { pluggable } from './chains'
import { isRadio, passes } from './joining'
import { planScene } from './plan'
import type { Planned } from './planned'
import type { HeardWith, Question } from './question'
import { byWorth } from './worth'

/**
 * What a scene could be heard with: every microphone, and over a radio each that need not stand on the camera and that a
 * transmitter takes, or a box that feeds it and goes on to one; of what is owned.
 */
export function heardWithChoices(camera: Gear, shelf: Shelf): HeardWith[] {
  const microphones = thingsOf(shelf).filter(({ kind }) => kind === 'microphone')
  const owned = [...shelf.values()].filter((gear) => gear.owned > 0)
  const transmitters = owned.filter((gear) => isRadio(gear) && pluggable(gear, 'in').length > 0)
  const boxes = owned.filter(
    (gear) => passes(gear, 1) && !isRadio(gear) && transmitters.some((each) => plugsInto(gear, each, shelf)),
  )
  const isSent = (microphone: Gear) =>
    [...transmitters, ...boxes].some((each) => plugsInto(microphone, each, shelf))
  return [
    ...microphones.map((microphone): HeardWith => ({ microphone })),
    ...microphones
      .filter((microphone) => microphone.mount !== 'camera' && isSent(microphone))
      .map((microphone): HeardWith => ({ microphone, radio: true })),
    ...(camera.ports.some(({ connector }) => connector === 'air') ? ['built in' as const] : []),
  ]
}

/** Whether an output of a thing works into another, straight or by one piece, with what feeds it switched on. */
function plugsInto(thing: Gear, other: Gear, shelf: Shelf): boolean {
  const [into] = pluggable(other, 'in')
  return pluggable(thing, 'out').some((out) => {
    if (!into) return false
    const { patch, link } = pairPatch(
      { gear: thing.id, port: out.id },
      { gear: other.id, port: into.id },
      shelf,
    )
    let works = false
    findWays(patch, link, shelf, { mostPieces: 1, found: () => (works = true), cancelled: () => works })
    return works
  })
}

export const isOwned = (heardWith: HeardWith): boolean =>
  heardWith === 'built in' || heardWith.microphone.owned > 0

/** Candidates tried for a suggestion: owned ones, and over a radio only worn ones, since all others can have a lead. */
export const suggestible = (camera: Gear, shelf: Shelf): HeardWith[] =>
  heardWithChoices(camera, shelf).filter(
    (each) => isOwned(each) && (each === 'built in' || !each.radio || each.microphone.mount === 'worn'),
  )

/** The best scene with each owned thing, best first. Reports progress. */
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
