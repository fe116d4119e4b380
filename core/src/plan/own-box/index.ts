import { Gear } from '../../model'
import type { OwnBox } from './answers'
import { cameraOf } from './camera'
import { microphoneOf } from './microphone'
import { pieceOf } from './piece'
import { receiverOf, transmitterOf } from './radio'
import { mixerOf, recorderOf } from './recorder'

export * from './answers'

const note = 'Made from a few answers: every figure that was not given is typical of its kind.'

/**
 * A thing made from a few answers. What was not asked is typical of its kind and says so, so that every plan with it
 * names what it rests on.
 */
export function ownBox(answers: OwnBox, id: string): Gear {
  const base = { id, name: answers.name, maker: 'my own', owned: 1, note }
  switch (answers.kind) {
    case 'camera':
      return Gear.parse({ ...base, ...cameraOf(answers) })
    case 'microphone':
      return Gear.parse({ ...base, ...microphoneOf(answers) })
    case 'recorder':
      return Gear.parse({ ...base, ...recorderOf(answers) })
    case 'preamplifier':
    case 'mixer':
      return Gear.parse({ ...base, ...mixerOf(answers) })
    case 'transmitter':
      return Gear.parse({ ...base, ...transmitterOf(answers) })
    case 'receiver':
      return Gear.parse({ ...base, ...receiverOf(answers) })
    case 'cable':
    case 'pad':
      return Gear.parse({ ...base, ...pieceOf(answers) })
  }
}
