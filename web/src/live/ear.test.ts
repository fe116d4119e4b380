import { mount } from '@vue/test-utils'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, h } from 'vue'
import { type Ear, useEar } from './ear'
import EarPanel from './EarPanel.vue'

/** A page that listens, in a browser whose microphones answer as told. */
function listener(getUserMedia: (() => Promise<MediaStream>) | undefined) {
  vi.stubGlobal('navigator', {
    mediaDevices: getUserMedia && { getUserMedia, enumerateDevices: async () => [] },
  })
  let ear: Ear | undefined
  const page = mount(
    defineComponent({
      setup() {
        const own = useEar()
        ear = own
        return () => h(EarPanel, { ear: own })
      },
    }),
  )
  return { page, ear: ear! }
}
afterEach(() => vi.unstubAllGlobals())

const track = (settings: MediaTrackSettings) => ({ getSettings: () => settings, stop: vi.fn() })
const heardBy = (settings: MediaTrackSettings) => {
  const only = track(settings)
  return { getAudioTracks: () => [only], getTracks: () => [only] } as unknown as MediaStream
}
/** As much of a browser's sound as listening needs. */
function stubSound(): void {
  vi.stubGlobal(
    'AudioContext',
    class {
      sampleRate = 48_000
      audioWorklet = { addModule: async () => undefined }
      createMediaStreamSource = () => ({ connect: () => undefined })
      resume = async () => undefined
      close = async () => undefined
    },
  )
  vi.stubGlobal(
    'AudioWorkletNode',
    class {
      port = { addEventListener: () => undefined, start: () => undefined }
    },
  )
}

describe('listening', () => {
  it('asks the browser to leave the sound alone, and warns of what it keeps on', async () => {
    stubSound()
    const asked = vi.fn(async () =>
      heardBy({ echoCancellation: false, noiseSuppression: true, autoGainControl: true }),
    )
    const { page, ear } = listener(asked)
    await ear.listen()
    expect(asked.mock.calls[0]).toMatchObject([
      { audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false } },
    ])
    expect(ear.meddling.value).toEqual(['noise suppression', 'automatic gain'])
    expect(page.get('[role=alert]').text()).toMatch(
      /keeps its own noise suppression and automatic gain on for this input: levels read here cannot be trusted/,
    )
  })
  it('says nothing where the browser obeys', async () => {
    stubSound()
    const { page, ear } = listener(async () => heardBy({ echoCancellation: false }))
    await ear.listen()
    expect(ear.listening.value).toBe(true)
    expect(page.find('[role=alert]').exists()).toBe(false)
  })
  it('says why it cannot listen, in a sentence', async () => {
    for (const [name, sentence] of [
      ['NotAllowedError', /was not allowed to listen/],
      ['NotFoundError', /No audio input is connected/],
      ['NotReadableError', /Another program is using this microphone/],
    ] as const) {
      const { page, ear } = listener(() => Promise.reject(new DOMException('', name)))
      await ear.listen()
      expect(page.get('[role=alert]').text()).toMatch(sentence)
      expect(ear.listening.value).toBe(false)
    }
    const { page, ear } = listener(undefined)
    await ear.listen()
    expect(page.get('[role=alert]').text()).toMatch(/cannot listen here: type the reading, or drop a clip/)
  })
})
