import type { Position, KeyedControl } from '@iron-hush/core/model'
import { useScene } from '../../state/scene'

/** Turns a control of the scene, unless it is locked; steps of one movement are undone together. */
export function useTurnControl(): (control: KeyedControl, position: Position) => void {
  const scene = useScene()
  return ({ locked, part, control, key }, position) => {
    if (!locked)
      scene.change(
        [{ kind: 'set control', part, control: control.id, position }],
        control.name,
        `turn ${key}`,
      )
  }
}

/** Locks a control of the scene, so that nothing but a hand on the lock moves it; or unlocks it. */
export function useLockControl(): (control: KeyedControl) => void {
  const scene = useScene()
  return ({ locked, part, control }) =>
    void scene.change(
      [{ kind: 'lock control', part, control: control.id, locked: !locked }],
      locked ? 'unlocking' : 'locking',
    )
}
