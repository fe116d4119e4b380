import { ref } from 'vue'
import type { Rendered } from '../workers/listening'

/** Level that the softest sound is raised to for listening, before the volume control, dBFS(A). */
const listeningDbfsA = -20
const fadeS = 0.01

/** Plays several sounds in step, as loops of equal loudness, of which one is heard at a time. */
export function usePlayer() {
  const playing = ref(false)
  let context: AudioContext | undefined
  let voices: { source: AudioBufferSourceNode; gain: GainNode }[] = []

  /** @param equalGains factors that bring the sounds to one loudness */
  function play(sounds: readonly Rendered[], equalGains: readonly number[]): void {
    stop()
    if (sounds.length === 0) return
    context ??= new AudioContext()
    const audio = context
    void audio.resume()
    const startAt = audio.currentTime + 0.05
    voices = sounds.map(({ samples, rateHz }, index) => {
      const buffer = audio.createBuffer(1, samples.length, rateHz)
      buffer.copyToChannel(samples as Float32Array<ArrayBuffer>, 0)
      const source = audio.createBufferSource()
      source.buffer = buffer
      source.loop = true
      const [level, gain] = [audio.createGain(), audio.createGain()]
      level.gain.value = equalGains[index]! * listeningGain(sounds)
      gain.gain.value = 0
      source.connect(level).connect(gain).connect(audio.destination)
      source.start(startAt)
      return { source, gain }
    })
    playing.value = true
  }

  /** Lets one of them be heard. */
  function mix(heard: number, volumeDb: number): void {
    for (const [index, { gain }] of voices.entries())
      gain.gain.setTargetAtTime(index === heard ? 10 ** (volumeDb / 20) : 0, gain.context.currentTime, fadeS)
  }

  function stop(): void {
    for (const { source } of voices) source.stop()
    voices = []
    playing.value = false
  }

  return { playing, play, mix, stop, close: () => void context?.close() }
}

function listeningGain(sounds: readonly Rendered[]): number {
  const levels = sounds.map(({ heard }) => heard.levelDbfsA).filter(Number.isFinite)
  return levels.length ? 10 ** ((listeningDbfsA - Math.min(...levels)) / 20) : 1
}
