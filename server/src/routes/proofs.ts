import { deleteProof, listProofs, putProof } from '@iron-hush/core/contract'
import { fulfil, fulfilPaged, type Route } from '../route'
import { changeProof, dropProof, proofsOf } from '../store/proofs'
import { refuseOtherId } from './refuse-other-id'

export const proofRoutes: Route[] = [
  fulfilPaged(listProofs, ({ db, id, page }) => proofsOf(db, id, page)),
  fulfil(putProof, ({ db, id, body }) => {
    refuseOtherId(id, body.content, 'This measurement')
    return changeProof(db, body)
  }),
  fulfil(deleteProof, ({ db, id, query }) => dropProof(db, id, query.revision)),
]
