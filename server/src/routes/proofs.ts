import { deleteProof, listProofs, putProof } from '@iron-hush/core/contract'
import { fulfil, type Route } from '../route'
import { changeProof, dropProof, proofsOf } from '../store/proofs'
import { refuseOtherId } from './refuse-other-id'

export const proofRoutes: Route[] = [
  fulfil(listProofs, ({ db, id }) => proofsOf(db, id)),
  fulfil(putProof, ({ db, id, body }) => {
    refuseOtherId(id, body.content, 'This measurement')
    return changeProof(db, body)
  }),
  fulfil(deleteProof, ({ db, id }) => dropProof(db, id)),
]
