import { deleteTake, listTakes, putTake } from '@iron-hush/core/contract'
import { fulfil, type Route } from '../route'
import { changeTake, dropTake, takesOf } from '../store/takes'
import { refuseOtherId } from './refuse-other-id'

export const takeRoutes: Route[] = [
  fulfil(listTakes, ({ db, id }) => takesOf(db, 'scene_id', id)),
  fulfil(putTake, ({ db, id, body }) => {
    refuseOtherId(id, body.content, 'This take')
    return changeTake(db, body)
  }),
  fulfil(deleteTake, ({ db, id }) => dropTake(db, id)),
]
