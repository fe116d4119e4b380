import type { SceneDocument, Stored } from '@iron-hush/core/contract'
import { measureClip } from '@iron-hush/core/measure'
import { bytesSource, wavBytes } from '@iron-hush/core/media'
import { type Gear, Refusal } from '@iron-hush/core/model'
import { nanIn } from '../../core/src/tests/odd-patches'
import { odd, oddRequest, soundRequests } from '../../server/src/tests/odd-requests'

const at = <T>(list: readonly T[], random: () => number): T => list[Math.floor(random() * list.length)]!

/** Requests with something odd in them, several at a time: how they were answered. */
export async function oddRequests(base: string, count: number, random: () => number) {
  const read = async <T>(address: string) => (await (await fetch(base + address)).json()) as T
  const [shoot] = await read<{ id: string; scenes: { id: string }[] }[]>('/api/shoots')
  const scene = await read<SceneDocument>(`/api/scenes/${shoot!.scenes[0]!.id}`)
  const [gear] = await read<Stored<Gear>[]>('/api/gear')
  const statuses = new Map<number, number>()
  const failures: string[] = []
  let left = count
  await Promise.all(
    Array.from({ length: 8 }, async () => {
      while (left-- > 0) {
        const sound = at(soundRequests({ scene, shoot: shoot!.id, gear: gear!.content }), random)
        const { method, address, body } = oddRequest(sound, random() * 0.9999, at(odd, random))
        const answer = await fetch(base + address, {
          method,
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify(body),
          signal: AbortSignal.timeout(30_000),
        }).catch((error: Error) => error)
        const status = answer instanceof Error ? 0 : answer.status
        statuses.set(status, (statuses.get(status) ?? 0) + 1)
        if (!(answer instanceof Error)) await answer.text()
        if (status === 0 || status >= 500) failures.push(`${status} ${method} ${address}`)
      }
    }),
  )
  return { statuses, failures }
}

/** Clips with bits turned, bytes cut out and ends cut off: each is measured or refused in a sentence. */
export async function oddClips(count: number, random: () => number) {
  const tone = Float32Array.from({ length: 24_000 }, (_, index) => Math.sin(index / 9) * 0.5)
  const sound = [wavBytes([tone], 48_000), wavBytes([tone, tone], 44_100)]
  const failures: string[] = []
  let refused = 0
  let slowestMs = 0
  for (let index = 0; index < count; index++) {
    const bytes = mutated(at(sound, random), random)
    const from = performance.now()
    try {
      const nan = nanIn(await measureClip(bytesSource(bytes), 'odd.wav'))
      if (nan) failures.push(`no number at ${nan}`)
    } catch (error) {
      if (error instanceof Refusal) refused++
      else failures.push(String(error))
    }
    slowestMs = Math.max(slowestMs, performance.now() - from)
  }
  return { refused, failures, slowestMs }
}

function mutated(sound: Uint8Array, random: () => number): Uint8Array {
  let bytes = sound.slice()
  for (let change = 0; change < 1 + random() * 6; change++) {
    // the head says what everything else is
    const where = Math.floor(random() < 0.7 ? random() * 60 : random() * bytes.length)
    const kind = random()
    if (kind < 0.6) bytes[where] = Math.floor(random() * 256)
    else if (kind < 0.75) bytes.fill(random() < 0.5 ? 255 : 0, where, where + 4)
    else if (kind < 0.9) bytes = bytes.slice(0, Math.max(0, where))
    else bytes = Uint8Array.from([...bytes.subarray(0, where), ...bytes.subarray(where + 2)])
  }
  return bytes
}
