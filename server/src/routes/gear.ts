import {
  deleteGear,
  importGear,
  listGear,
  listGearUses,
  listSceneGear,
  putGear,
} from '@iron-hush/core/contract'
import { fulfil, fulfilPaged, type Route } from '../route'
import { allGear, changeGear, dropGear, gearOfScene, gearUses, takeInGear } from '../store/gear'
import { refuseOtherId } from './refuse-other-id'

export const gearRoutes: Route[] = [
  fulfilPaged(listGear, ({ db, page }) => allGear(db, page)),
  fulfil(listSceneGear, ({ db, id }) => gearOfScene(db, id)),
  fulfil(putGear, ({ db, id, body }) => {
    refuseOtherId(id, body.content, 'This change')
    return changeGear(db, body)
  }),
  fulfil(importGear, ({ db, body }) => takeInGear(db, body.things)),
  fulfil(listGearUses, ({ db, id }) => gearUses(db, id)),
  fulfil(deleteGear, ({ db, id, query }) => dropGear(db, id, query.revision)),
]
