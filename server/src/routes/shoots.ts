import {
  createScene,
  deleteScene,
  deleteShoot,
  listShoots,
  moveScene,
  putShoot,
  restoreDemo,
  restoreScene,
  restoreShoot,
} from '@iron-hush/core/contract'
import { insertDemo } from '../demo'
import { fulfil, fulfilPaged, type Route } from '../route'
import * as scenes from '../store/scene-places'
import * as shoots from '../store/shoots'

export const shootRoutes: Route[] = [
  fulfilPaged(listShoots, ({ db, page }) => shoots.shootsOf(db, page)),
  fulfil(putShoot, ({ db, id, body }) => shoots.putShoot(db, id, body)),
  fulfil(deleteShoot, ({ db, id }) => shoots.deleteShoot(db, id)),
  fulfil(restoreShoot, ({ db, id }) => shoots.restoreShoot(db, id)),
  fulfil(createScene, ({ db, id, body }) => scenes.createScene(db, id, body)),
  fulfil(deleteScene, ({ db, id }) => scenes.deleteScene(db, id)),
  fulfil(restoreScene, ({ db, id }) => scenes.restoreScene(db, id)),
  fulfil(moveScene, ({ db, id, body }) => scenes.moveScene(db, id, body)),
  fulfil(restoreDemo, async ({ db }) => {
    await insertDemo(db)
    return { done: true }
  }),
]
