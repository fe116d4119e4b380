import { onScopeDispose, ref } from 'vue'
import { type Job, startHeard } from '../../workers/compute'

/** Longest stretch read at once, s. */
const longestS = 60
/** Highest peak at which any clip is played, full scale 1. */
const loudestPeak = 0.5

/** Plays a stretch of a clip, once or over and over. */
export function useClipPlayer() {
  const playing = ref(false)
  const looped = ref(false)
  /** Where it is, in seconds of the clip. */
  const atS = ref<number>()
  let context: AudioContext | undefined
  let source: AudioBufferSourceNode | undefined
  let job: Job<{ rateHz: number; channels: Float32Array[] }> | undefined
  let frame = 0

  async function play(file: Blob, name: string, fromS: number, toS: number): Promise<void> {
    stop()
    context ??= new AudioContext()
    const audio = context
    void audio.resume()
    playing.value = true
    const reading = startHeard(file, name, fromS, Math.min(toS, fromS + longestS))
    job = reading
    const { rateHz, channels } = await reading.result
    if (job !== reading || !playing.value || !channels[0]?.length) return
    const buffer = audio.createBuffer(Math.min(2, channels.length), channels[0].length, rateHz)
    let peak = 0
    channels.slice(0, 2).forEach((samples, channel) => {
      buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, channel)
      for (const sample of samples) peak = Math.max(peak, Math.abs(sample))
    })
    const gain = audio.createGain()
    gain.gain.value = Math.min(1, loudestPeak / Math.max(peak, 1e-3))
    source = audio.createBufferSource()
    source.buffer = buffer
    source.loop = looped.value
    source.connect(gain).connect(audio.destination)
    const began = audio.currentTime
    source.addEventListener('ended', stop)
    source.start()
    const follow = () => {
      if (!playing.value) return
      atS.value = fromS + ((audio.currentTime - began) % buffer.duration)
      frame = requestAnimationFrame(follow)
    }
    follow()
  }
  function stop(): void {
    cancelAnimationFrame(frame)
    source?.removeEventListener('ended', stop)
    source?.stop()
    source = undefined
    job?.cancel()
    job = undefined
    playing.value = false
    atS.value = undefined
  }
  onScopeDispose(() => {
    stop()
    void context?.close()
  })
  return { playing, looped, atS, play, stop }
}
