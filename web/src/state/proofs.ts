import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { deleteProof, listProofs, putProof } from '@iron-hush/core/contract'
import { type ClipTake, type Measurement, ProofRecord } from '@iron-hush/core/model'
import type { DocumentKind } from '../sync/document-kind'
import { useDocuments } from '../sync/documents'
import { newId } from '../sync/new-id'
import type { Act } from './deed'
import { historyPlaces, useHistory } from './history'
import { useScene } from './scene'

const proofs: DocumentKind<ProofRecord> = {
  name: 'proof',
  schema: ProofRecord,
  list: listProofs,
  put: putProof,
  drop: deleteProof,
  scopeOf: ({ scene }) => scene,
  order: (one, other) => other.measuredAt.localeCompare(one.measuredAt),
}

/** What was measured for the open scene. The clips themselves stay where they are. */
export const useProofs = defineStore('proofs', () => {
  const scene = useScene()
  const history = useHistory()
  const { list, load, acts } = useDocuments(proofs)
  history.carry('proof', acts)
  const sceneId = computed(() => scene.document?.id)
  watch(
    sceneId,
    (id) => {
      list.value = []
      if (id) void load(id).catch(() => undefined)
    },
    { immediate: true },
  )

  const putAct = (content: ProofRecord): Act => ({ do: 'put', kind: 'proof', content })
  const dropAct = ({ id }: ProofRecord): Act => ({ do: 'drop', kind: 'proof', id })
  const perform = (of: ProofRecord, name: string, redo: Act, undo: Act) =>
    history.perform(historyPlaces.proofs(of.scene), { name, redo: [redo], undo: [undo] })
  /** Keeps what was measured, with the scene that the clip was given for. */
  function keep(measurement: Measurement, of: { recording: string; scene: string; take: ClipTake | null }) {
    const proof: ProofRecord = {
      id: newId(),
      ...of,
      measuredAt: new Date().toISOString(),
      measurement,
    }
    perform(proof, `measuring ${measurement.clip}`, putAct(proof), dropAct(proof))
    return proof
  }
  const change = (proof: ProofRecord, recording: string) =>
    perform(proof, 'the choice of recording', putAct({ ...proof, recording }), putAct(proof))
  const changeTake = (proof: ProofRecord, take: ClipTake | null) =>
    perform(proof, 'the choice of take', putAct({ ...proof, take }), putAct(proof))
  const forget = (proof: ProofRecord) =>
    perform(proof, `forgetting ${proof.measurement.clip}`, dropAct(proof), putAct(proof))

  return { list, keep, change, changeTake, forget }
})
