import type { Gear, Shelf } from '../model'
import { type HeardWith, type Planned, planScene, type Question } from './plan'
import { pluggable } from './chains'

/** What a scene could be heard with: every microphone, over a radio where one is worn and a transmitter takes it. */
export function heardWithChoices(camera: Gear, shelf: Shelf): HeardWith[] {
  const microphones = [...shelf.values()].filter(({ kind }) => kind === 'microphone')
  const transmitters = [...shelf.values()].filter(
    (gear) =>
      gear.owned > 0 &&
      gear.ports.some(({ connector, direction }) => connector === 'radio' && direction === 'out'),
  )
  const takes = (microphone: Gear) =>
    transmitters.some((each) =>
      pluggable(each, 'in').some(({ connector }) => connector === pluggable(microphone, 'out')[0]?.connector),
    )
  return [
    ...microphones.map((microphone): HeardWith => ({ microphone })),
    ...microphones
      .filter((microphone) => microphone.mount === 'worn' && takes(microphone))
      .map((microphone): HeardWith => ({ microphone, radio: true })),
    ...(camera.ports.some(({ connector }) => connector === 'air') ? ['built in' as const] : []),
  ]
}

export const isOwned = (heardWith: HeardWith): boolean =>
  heardWith === 'built in' || heardWith.microphone.owned > 0

/** The best scene with anything that is owned. Tells how far it is. */
export function suggestScene(
  question: Omit<Question, 'heardWith'>,
  shelf: Shelf,
  progress?: (share: number) => void,
): (Planned & { heardWith: HeardWith })[] {
  const choices = heardWithChoices(question.camera, shelf).filter(isOwned)
  return choices
    .flatMap((heardWith, index) => {
      const [best] = planScene({ ...question, heardWith }, shelf)
      progress?.((index + 1) / choices.length)
      return best ? [{ ...best, heardWith }] : []
    })
    .sort((one, other) => one.dead - other.dead || one.troubles - other.troubles || worth(other) - worth(one))
}

/** A voice as clear as anybody can hear, by few boxes. */
const worth = ({ worstDb, through }: Planned): number => Math.min(worstDb, 45) - 3 * through.length
