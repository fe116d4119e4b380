import type { LineUpStep } from '../lineup'
import type { RecordedSound } from './device'

/** Length of a stand-in scene, s: long enough for a loud moment, a quiet one and pauses. */
const sceneS = 20

/** The sound that a step of the line-up needs. */
export function soundOfStep({ kind, box, play }: Pick<LineUpStep, 'kind' | 'box' | 'play'>): RecordedSound {
  if (kind === 'scratch') return { kind: 'microphone', microphone: box }
  if (kind === 'voice' || kind === 'trial') return { kind: 'scene', lengthS: sceneS }
  if (!play) return { kind: 'silence' }
  const { from, kind: signal, levelDbfs } = play
  return {
    kind: 'signal',
    signal: { kind: signal, levelDbfs },
    ...(from !== undefined && { from }),
  }
}
