import { backTo, changesBetween, partsAsSet } from '@iron-hush/core/advice'
import type { SetPart, Take } from '@iron-hush/core/model'
import { changeWords } from '@iron-hush/core/words'
import { useGear } from './gear'
import { historyPlaces, useHistory } from './history'
import { useScene } from './scene'

/** The chain of the scene as it was at its takes. */
export function useTakeParts() {
  const scene = useScene()
  const gear = useGear()
  const history = useHistory()

  /** The chain as it is now. */
  const parts = (): SetPart[] => (scene.patch ? partsAsSet(scene.patch, gear.shelf) : [])
  const changes = (earlier: readonly SetPart[], later: readonly SetPart[]): string[] =>
    scene.patch ? changesBetween(earlier, later, scene.patch, gear.shelf).map(changeWords) : []
  /** What changed between two takes, in words; nothing where nothing did, or it is not known. */
  const changedBetween = (before: Take, take: Take) => changes(before.parts, take.parts)
  /** What changed since a take, in words. */
  const changedSince = (take: Take) => changes(take.parts, parts())
  /** What puts the controls back to where they stood at a take. */
  const editsBackTo = (take: Take) => (scene.patch ? backTo(take.parts, scene.patch, gear.shelf) : [])
  function setAsIn(take: Take): void {
    history.perform(historyPlaces.takes(take.scene), {
      name: `the settings of take ${take.number}`,
      ...scene.actsOf(editsBackTo(take)),
    })
  }
  return { parts, changedBetween, changedSince, editsBackTo, setAsIn }
}
