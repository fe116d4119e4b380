import { backTo, movedControls, settingsNow } from '@iron-hush/core/advice'
import type { Take } from '@iron-hush/core/model'
import { movedWords } from '@iron-hush/core/words'
import { useGear } from './gear'
import { historyPlaces, useHistory } from './history'
import { useScene } from './scene'

/** Where the controls of the scene stood at its takes. */
export function useTakeSettings() {
  const scene = useScene()
  const gear = useGear()
  const history = useHistory()

  /** Where they stand now. */
  const settings = (): Take['settings'] => (scene.patch ? settingsNow(scene.patch, gear.shelf) : {})
  const movedBetween = (from: Take['settings'], to: Take['settings']) =>
    scene.patch ? movedWords(movedControls(from, to, scene.patch, gear.shelf)) : ''
  /** What was moved between two takes, in words; empty where nothing was, or it is not known. */
  const movedSince = (before: Take, take: Take) => movedBetween(before.settings, take.settings)
  /** What was moved since a take, in words. */
  const movedUntilNow = (take: Take) => movedBetween(take.settings, settings())
  /** Puts every control back to where it stood at a take. */
  function setAsIn(take: Take): void {
    if (!scene.patch) return
    history.perform(historyPlaces.takes(take.scene), {
      name: `the settings of take ${take.number}`,
      ...scene.actsOf(backTo(take.settings, scene.patch, gear.shelf)),
    })
  }
  return { settings, movedSince, movedUntilNow, setAsIn }
}
