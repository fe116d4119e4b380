import { describe, expect, it } from 'vitest'
import { recordingOfClip } from './recording-of-clip'

const channels = [
  { id: 'recorder.1', box: 'recorder', boxName: 'Recorder' },
  { id: 'camera.left', box: 'camera', boxName: 'Camera' },
  { id: 'camera.right', box: 'camera', boxName: 'Camera' },
]

describe('a clip by its name', () => {
  it('belongs to the first track of the box that it names', () => {
    expect(recordingOfClip('camera C-0042.mov', channels)).toBe('camera.left')
    expect(recordingOfClip('F-0131 RECORDER.wav', channels)).toBe('recorder.1')
  })
  it('belongs to none where it names none or two', () => {
    expect(recordingOfClip('phone P-0009.wav', channels)).toBeUndefined()
    expect(recordingOfClip('recorder after camera.wav', channels)).toBeUndefined()
  })
})
