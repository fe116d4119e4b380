import { editScene, listShoots, readScene } from '@iron-hush/core/contract'
import { fulfil, type Route } from '../route'
import { SceneStore } from '../store/scenes'
import { shootsOf } from '../store/shoots'

export function sceneRoutes(): Route[] {
  const scenes = new SceneStore()
  return [
    fulfil(listShoots, ({ db }) => shootsOf(db)),
    fulfil(readScene, ({ db, id }) => scenes.read(db, id)),
    fulfil(editScene, ({ db, id, body }) => scenes.change(db, id, body)),
  ]
}
