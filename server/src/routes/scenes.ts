import { editScene, readScene } from '@iron-hush/core/contract'
import { fulfil, type Route } from '../route'
import { SceneStore } from '../store/scenes'

export function sceneRoutes(): Route[] {
  const scenes = new SceneStore()
  return [
    fulfil(readScene, ({ db, id }) => scenes.read(db, id)),
    fulfil(editScene, ({ db, id, body }) => scenes.change(db, id, body)),
  ]
}
