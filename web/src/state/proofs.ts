import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { z } from 'zod'
import { type Measurement, ProofRecord } from '@iron-hush/core/model'
import { useHistory } from './history'
import { newId } from './new-id'
import { useNotices } from './notices'
import { useOutbox } from './outbox'
import { useScene } from './scene'
import { ask } from './server'

type ProofParcel = { proof: ProofRecord } | { gone: string }

/** What was measured for the scene in hand. The clips themselves stay where they are. */
export const useProofs = defineStore('proofs', () => {
  const scene = useScene()
  const outbox = useOutbox()
  const list = ref<ProofRecord[]>([])
  const sceneId = computed(() => scene.document?.id)

  async function load(id: string): Promise<void> {
    let proofs = await ask(z.array(ProofRecord), 'GET', `/api/scenes/${id}/proofs`).catch(() => [])
    if (sceneId.value !== id) return
    for (const parcel of outbox.waitingFor(`proof:${id}`))
      proofs = after(proofs, parcel.content as ProofParcel)
    list.value = proofs
    outbox.carry('proof', {
      async send({ content }) {
        const parcel = content as ProofParcel
        if ('gone' in parcel)
          await ask(z.object({ gone: z.boolean() }), 'DELETE', `/api/proofs/${parcel.gone}`)
        else await ask(ProofRecord, 'PUT', `/api/proofs/${parcel.proof.id}`, parcel.proof)
      },
      refused: (_, { problem }) => useNotices().say(problem.detail),
    })
  }
  watch(
    sceneId,
    (id) => {
      list.value = []
      if (id) void load(id)
    },
    { immediate: true },
  )

  function post(parcel: ProofParcel): void {
    list.value = after(list.value, parcel)
    outbox.post(`proof:${sceneId.value}`, parcel)
  }
  function does(name: string, redo: ProofParcel, undo: ProofParcel): void {
    useHistory().done({ name, undo: () => post(undo), redo: () => post(redo) })
    post(redo)
  }

  function keep(measurement: Measurement, recording: string): void {
    const proof: ProofRecord = {
      id: newId(),
      scene: sceneId.value!,
      recording,
      measuredAt: new Date().toISOString(),
      measurement,
    }
    does(`measuring ${measurement.clip}`, { proof }, { gone: proof.id })
  }
  const change = (proof: ProofRecord, recording: string) =>
    does('the choice of recording', { proof: { ...proof, recording } }, { proof })
  const forget = (proof: ProofRecord) =>
    does(`forgetting ${proof.measurement.clip}`, { gone: proof.id }, { proof })

  return { list, keep, change, forget }
})

function after(proofs: readonly ProofRecord[], parcel: ProofParcel): ProofRecord[] {
  if ('gone' in parcel) return proofs.filter(({ id }) => id !== parcel.gone)
  const others = proofs.filter(({ id }) => id !== parcel.proof.id)
  return [parcel.proof, ...others].sort((one, other) => other.measuredAt.localeCompare(one.measuredAt))
}
