import type { Gear } from '../model'
import { type CameraAnswers, ownBox } from './own-box'

/** A camera of which only the manner is known. Every figure is the typical one of a camera, and says so. */
export interface UnknownCamera {
  id: string
  name: string
  note: string
  gear: Gear
}

const ordinary: CameraAnswers = {
  kind: 'camera',
  name: 'Camera',
  input: 'mini-3',
  channels: 2,
  level: { by: 'itself' },
  automaticToo: false,
  power: 'always',
  builtIn: false,
  bits: 16,
}

/** A camera from its answers, as little known as they leave it. */
const camera = (id: string, answers: Partial<CameraAnswers>, picture?: Gear['picture']): Gear => {
  const gear = ownBox({ ...ordinary, ...answers }, `unknown-${id}`)
  return {
    ...gear,
    maker: 'unknown',
    note: 'Little is known of it: every figure is typical of its kind.',
    picture: picture ?? gear.picture,
  }
}

const small = { sensor: 'action camera', focalLengthMm: 6 } as const

/** Cameras that are not on the shelf, by their manner. */
export const unknownCameras: readonly UnknownCamera[] = [
  {
    id: 'marked',
    name: 'marked levels',
    note: 'a level in dB, mini socket',
    gear: camera('marked-camera', {
      name: 'Camera with marked levels',
      level: { by: 'decibels', from: -24, to: 24, step: 1 },
    }),
  },
  {
    id: 'scale',
    name: 'unmarked scale',
    note: 'a level of 0 to 30, mini socket',
    gear: camera('scale-camera', {
      name: 'Camera with an unmarked scale',
      level: { by: 'scale', steps: 31 },
    }),
  },
  {
    id: 'automatic',
    name: 'automatic only',
    note: 'sets its level itself',
    gear: camera('automatic-camera', { name: 'Camera with automatic gain only' }),
  },
  {
    id: 'xlr',
    name: 'XLR inputs',
    note: 'two inputs with phantom',
    gear: camera(
      'xlr-camera',
      {
        name: 'Camera with XLR inputs',
        input: 'xlr-3',
        level: { by: 'decibels', from: -24, to: 24, step: 1 },
      },
      { sensor: 'one inch', focalLengthMm: 15 },
    ),
  },
  {
    id: 'phone',
    name: 'a phone',
    note: 'headset socket',
    gear: camera('phone', { name: 'Phone', input: 'mini-4', channels: 1, builtIn: true }, small),
  },
  {
    id: 'action',
    name: 'an action camera',
    note: 'one channel, automatic',
    gear: camera('action-camera', { name: 'Action camera', channels: 1, builtIn: true }, small),
  },
]
