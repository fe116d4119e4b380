import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { deleteProof, listProofs, putProof } from '@iron-hush/core/contract'
import { type Measurement, ProofRecord } from '@iron-hush/core/model'
import { type DocumentKind, useDocuments } from '../sync/documents'
import { newId } from '../sync/new-id'
import { useHistory } from './history'
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

/** What was measured for the scene in hand. The clips themselves stay where they are. */
export const useProofs = defineStore('proofs', () => {
  const scene = useScene()
  const history = useHistory()
  const { list, load, put, drop } = useDocuments(proofs)
  const sceneId = computed(() => scene.document?.id)
  watch(
    sceneId,
    (id) => {
      list.value = []
      if (id) void load(id).catch(() => undefined)
    },
    { immediate: true },
  )

  function keep(measurement: Measurement, recording: string): void {
    if (!sceneId.value) return
    const proof: ProofRecord = {
      id: newId(),
      scene: sceneId.value,
      recording,
      measuredAt: new Date().toISOString(),
      measurement,
    }
    history.perform({
      name: `measuring ${measurement.clip}`,
      redo: () => put(proof),
      undo: () => drop(proof.id),
    })
  }
  const change = (proof: ProofRecord, recording: string) =>
    history.perform({
      name: 'the choice of recording',
      redo: () => put({ ...proof, recording }),
      undo: () => put(proof),
    })
  const forget = (proof: ProofRecord) =>
    history.perform({
      name: `forgetting ${proof.measurement.clip}`,
      redo: () => drop(proof.id),
      undo: () => put(proof),
    })

  return { list, keep, change, forget }
})
