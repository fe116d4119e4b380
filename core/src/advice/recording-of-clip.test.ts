import { describe, expect, it } from 'vitest'
import { recordingOfClip, renderedName } from './recording-of-clip'

const channels = [
  { id: 'recorder.1', box: 'recorder', boxName: 'Recorder', names: ['track 1', 'Boom', 'founder'] },
  { id: 'recorder.2', box: 'recorder', boxName: 'Recorder', names: ['track 2', 'Lapel', 'apprentice'] },
  { id: 'camera.left', box: 'camera', boxName: 'Camera', names: ['left', 'Boom', 'founder'] },
  { id: 'camera.right', box: 'camera', boxName: 'Camera', names: ['right', 'Lapel', 'apprentice'] },
]

describe('a clip by its name', () => {
  it('belongs to the first track of the box that it names', () => {
    expect(recordingOfClip('camera C-0042.mov', channels)).toBe('camera.left')
    expect(recordingOfClip('F-0131 RECORDER.wav', channels)).toBe('recorder.1')
  })
  it('belongs to the track that the recorder names its first channel after', () => {
    expect(recordingOfClip('recorder F-0131.wav', channels, ['LAPEL'])).toBe('recorder.2')
    expect(recordingOfClip('recorder F-0131.wav', channels, ['the apprentice, near', 'Boom'])).toBe(
      'recorder.2',
    )
    expect(recordingOfClip('recorder F-0131.wav', channels, ['spare'])).toBe('recorder.1')
  })
  it('belongs to the recording that it was rendered of, whatever the box is called', () => {
    const renamed = channels.map((each) => ({ ...each, boxName: 'Somebody’s' }))
    for (const list of [channels, renamed])
      for (const { id } of list) expect(recordingOfClip(`${renderedName(id)}.wav`, list)).toBe(id)
    expect(recordingOfClip('Camera-right.WAV', channels)).toBe('camera.right')
  })
  it('belongs to none where it names none or two', () => {
    expect(recordingOfClip('phone P-0009.wav', channels)).toBeUndefined()
    expect(recordingOfClip('recorder after camera.wav', channels)).toBeUndefined()
  })
})
