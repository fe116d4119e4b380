import { onScopeDispose, ref, watch } from 'vue'
import type { TestSignal } from '@iron-hush/core/signals'
import { amplitudeFromDb } from '@iron-hush/core/units'
import { download } from '../../state/download'
import { startSignal, startSignalFile } from '../../workers/compute'

/** Initial volume, dB: low, and how long it takes to fade in, s. */
const startVolumeDb = -40
const comesUpS = 1.5

/** Plays a test signal over and over, from a low start, and writes it as a file. */
export function useSignalPlayer() {
  const playing = ref(false)
  const volumeDb = ref(startVolumeDb)
  let context: AudioContext | undefined
  let source: AudioBufferSourceNode | undefined
  let gain: GainNode | undefined

  async function play(signal: TestSignal): Promise<void> {
    stop()
    context ??= new AudioContext()
    const audio = context
    void audio.resume()
    playing.value = true
    const samples = await startSignal(signal, audio.sampleRate).result
    if (!playing.value) return
    const buffer = audio.createBuffer(1, samples.length, audio.sampleRate)
    buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, 0)
    source = audio.createBufferSource()
    source.buffer = buffer
    source.loop = true
    gain = audio.createGain()
    gain.gain.setValueAtTime(0, audio.currentTime)
    gain.gain.linearRampToValueAtTime(amplitudeFromDb(volumeDb.value), audio.currentTime + comesUpS)
    source.connect(gain).connect(audio.destination)
    source.start()
  }
  function stop(): void {
    source?.stop()
    source = undefined
    playing.value = false
  }
  watch(volumeDb, (db) => {
    if (!context || !gain) return
    gain.gain.cancelScheduledValues(context.currentTime)
    gain.gain.setTargetAtTime(amplitudeFromDb(db), context.currentTime, 0.05)
  })
  async function write(signal: TestSignal): Promise<void> {
    const bytes = await startSignalFile(signal).result
    const level = `${Math.abs(signal.levelDbfs)}`
    download(
      bytes as Uint8Array<ArrayBuffer>,
      `${signal.kind.replaceAll(' ', '-')} minus ${level} dBFS.wav`,
      'audio/wav',
    )
  }
  onScopeDispose(() => {
    stop()
    void context?.close()
  })
  return { playing, volumeDb, play, stop, write }
}
