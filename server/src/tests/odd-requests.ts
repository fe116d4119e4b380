import type { SceneDocument } from '@iron-hush/core/contract'
import { type Gear, uuidv7 } from '@iron-hush/core/model'
import { measured } from './measured'

const id = () => uuidv7(Date.now(), crypto.getRandomValues(new Uint8Array(10)))

export interface SoundRequest {
  method: string
  address: string
  body: unknown
}
/** What the requests speak of. */
interface Known {
  scene: SceneDocument
  shoot: string
  gear: Gear
}

/** Sound requests, one of each kind that has a body. */
export function soundRequests({ scene, shoot, gear }: Known): SoundRequest[] {
  const take = id()
  const proof = id()
  const now = new Date().toISOString()
  const mark = { id: id(), kind: 'wind', atS: 3, channel: '', note: 'gust' }
  const content = {
    id: take,
    scene: scene.id,
    number: Math.floor(Math.random() * 9000) + 1,
    startedAt: now,
    endedAt: now,
    verdict: 'good',
    note: 'n',
    marks: [mark],
  }
  const channel = {
    peakDbfs: -3,
    peakAtS: 1,
    rmsDbfs: -20,
    speechDbfsA: -22,
    noiseDbfsA: -60,
    pauses: true,
    clipped: [],
    clippedMore: 0,
    worstPeak: [0, 0.5],
    envelope: [[-0.5, 0.5]],
  }
  const measurement = { ...measured, channels: [channel] }
  const mine = { ...gear, id: `own-${take.slice(0, 8)}${take.slice(-4)}`, name: `Own ${take}` }
  const imported = { baseRevision: 0, content: mine }
  return [
    { method: 'PUT', address: `/api/takes/${take}`, body: { baseRevision: 0, content } },
    {
      method: 'PUT',
      address: `/api/proofs/${proof}`,
      body: {
        baseRevision: 0,
        content: { id: proof, scene: scene.id, recording: '', measuredAt: now, measurement },
      },
    },
    { method: 'PUT', address: `/api/gear/${mine.id}`, body: { baseRevision: 0, content: mine } },
    { method: 'POST', address: '/api/gear/import', body: { things: [imported, imported] } },
    {
      method: 'PUT',
      address: `/api/shoots/${id()}`,
      body: { baseRevision: 0, content: { name: 'Shoot', date: '2026-11-28', place: 'a yard' } },
    },
    { method: 'PUT', address: `/api/scenes/${id()}`, body: { shoot, patch: scene.patch } },
    { method: 'PUT', address: `/api/scenes/${scene.id}/place`, body: { shoot, position: 0 } },
    {
      method: 'POST',
      address: `/api/scenes/${scene.id}/edits`,
      body: { id: id(), baseRevision: scene.revision, edits: [{ kind: 'rename', name: 'Bench' }] },
    },
  ]
}

/** What is put in place of something sound. */
export const odd: readonly unknown[] = [
  '\u0000',
  'a\u0000b',
  '\uD800',
  'x\uDFFF',
  '',
  ' ',
  '0000-01-01T00:00:00Z',
  '9999-12-31T23:59:59.9999999Z',
  '2026-02-30',
  'x'.repeat(70_000),
  '__proto__',
  2 ** 31,
  2 ** 53,
  -1,
  1e308,
  0.5,
  null,
  true,
  [],
  {},
  [[[[[]]]]],
]

/** The paths to everything inside a value. */
const pathsIn = (value: unknown, here: (string | number)[] = []): (string | number)[][] => [
  here,
  ...(value !== null && typeof value === 'object'
    ? Object.entries(value).flatMap(([name, each]) => pathsIn(each, [...here, name]))
    : []),
]
function withOdd(value: unknown, [first, ...rest]: (string | number)[], put: unknown): unknown {
  if (first === undefined) return put
  const copy = Array.isArray(value) ? [...(value as unknown[])] : { ...(value as object) }
  ;(copy as Record<string, unknown>)[first] = withOdd((value as Record<string, unknown>)[first], rest, put)
  return copy
}

/**
 * A request with something odd in it.
 * @param where from 0 to 1, somewhere in its body
 */
export function oddRequest(
  { method, address, body }: SoundRequest,
  where: number,
  put: unknown,
): SoundRequest {
  const paths = pathsIn(body)
  return { method, address, body: withOdd(body, paths[Math.floor(where * paths.length)]!, put) }
}
