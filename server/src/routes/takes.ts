import { deleteTake, listTakes, putTake } from '@iron-hush/core/contract'
import { fulfil, fulfilPaged, type Route } from '../route'
import { changeTake, dropTake, takesOf } from '../store/takes'
import { refuseOtherId } from './refuse-other-id'

export const takeRoutes: Route[] = [
  fulfilPaged(listTakes, ({ db, id, page }) => takesOf(db, id, page)),
  fulfil(putTake, ({ db, id, body }) => {
    refuseOtherId(id, body.content, 'This take')
    return changeTake(db, body)
  }),
  fulfil(deleteTake, ({ db, id, query }) => dropTake(db, id, query.revision)),
]
