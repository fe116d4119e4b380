import { onScopeDispose, ref, shallowRef } from 'vue'
import { joined } from '@iron-hush/core/measure'
import { powerDb } from '@iron-hush/core/units'
import earUrl from './ear.worklet.ts?worker&url'

/** A microphone or line that the browser may listen to. */
export interface EarDevice {
  id: string
  name: string
}

/** Present levels by channel, dBFS. */
export interface LiveLevel {
  peakDbfs: number
  levelDbfs: number
}

/** Processing by the browser that would falsify every reading. */
const ownDoings = {
  echoCancellation: 'echo cancelling',
  noiseSuppression: 'noise suppression',
  autoGainControl: 'automatic gain',
} as const
const shownEveryS = 0.2
const silentDbfs = -120
const usualRateHz = 48_000

/** Why listening is not possible, in a sentence. */
function refusalOf(error: unknown): string {
  const name = error instanceof DOMException ? error.name : ''
  if (name === 'NotAllowedError')
    return 'The browser was not allowed to listen. Allow the microphone for this page and try again; nothing else is lost.'
  if (name === 'NotFoundError')
    return 'No audio input is connected. Connect a recorder or camera as a USB microphone.'
  if (name === 'NotReadableError')
    return 'Another program is using this microphone. Close it there and try again.'
  return 'This browser cannot listen here: type the reading, or drop a clip.'
}

/** A stretch of what is heard, by channel. */
export interface Heard {
  channels: Float32Array[]
  rateHz: number
}

/** Levels of what is heard, reported a few times a second. */
function useLevels() {
  const levels = shallowRef<LiveLevel[]>([])
  let sums: { peak: number; square: number; frames: number }[] = []

  function hear(block: readonly Float32Array[], rateHz: number): void {
    if (sums.length !== block.length) sums = block.map(() => ({ peak: 0, square: 0, frames: 0 }))
    block.forEach((samples, channel) => {
      const sum = sums[channel]!
      for (const sample of samples) {
        sum.peak = Math.max(sum.peak, Math.abs(sample))
        sum.square += sample * sample
      }
      sum.frames += samples.length
    })
    if ((sums[0]?.frames ?? 0) < shownEveryS * rateHz) return
    levels.value = sums.map(({ peak, square, frames }) => ({
      peakDbfs: Math.max(silentDbfs, powerDb(peak * peak)),
      levelDbfs: Math.max(silentDbfs, powerDb((2 * square) / frames)),
    }))
    sums = []
  }
  const forget = () => (levels.value = [])
  return { levels, hear, forget }
}

/** Collects a number of frames on request. */
function useCollector() {
  let wanted:
    | { frames: number; parts: Float32Array[][]; got: number; done: (parts: Float32Array[][]) => void }
    | undefined

  function hear(block: Float32Array[]): void {
    if (!wanted) return
    wanted.parts.push(block)
    wanted.got += block[0]?.length ?? 0
    if (wanted.got < wanted.frames) return
    const { parts, done } = wanted
    wanted = undefined
    done(parts)
  }
  const collect = (frames: number) =>
    new Promise<Float32Array[]>((resolve) => {
      wanted = { frames, parts: [], got: 0, done: (parts) => resolve(joined(parts)) }
    })
  const forget = () => (wanted = undefined)
  return { hear, collect, forget }
}

/** The microphone or line that was asked for, without the browser's own doings where it can leave them. */
const openInput = (id: string | undefined): Promise<MediaStream> =>
  navigator.mediaDevices.getUserMedia({
    audio: {
      ...(id !== undefined && { deviceId: { exact: id } }),
      echoCancellation: false,
      noiseSuppression: false,
      autoGainControl: false,
      channelCount: { ideal: 2 },
    },
  })

/** Inputs there are. The browser tells their names once it may listen. */
async function inputs(): Promise<EarDevice[]> {
  const all = await navigator.mediaDevices.enumerateDevices()
  return all
    .filter(({ kind }) => kind === 'audioinput')
    .map(({ deviceId, label }, index) => ({ id: deviceId, name: label || `input ${index + 1}` }))
}

/** Listens to a microphone or line, shows its level, and records stretches of it. */
export function useEar() {
  const listening = ref(false)
  const devices = shallowRef<EarDevice[]>([])
  const device = ref<string>()
  /** Processing that the browser keeps doing although it was asked not to. */
  const meddling = ref<string[]>([])
  const refusal = ref('')
  const shown = useLevels()
  const collector = useCollector()
  let context: AudioContext | undefined
  let stream: MediaStream | undefined

  async function listen(id = device.value): Promise<void> {
    stop()
    refusal.value = ''
    try {
      stream = await openInput(id)
      const settings = stream.getAudioTracks()[0]?.getSettings() ?? {}
      meddling.value = Object.entries(ownDoings).flatMap(([key, name]) =>
        settings[key as keyof typeof ownDoings] === true ? [name] : [],
      )
      device.value = settings.deviceId
      context = await hearing(stream)
      devices.value = await inputs()
      listening.value = true
    } catch (error) {
      stop()
      refusal.value = refusalOf(error)
    }
  }
  async function hearing(of: MediaStream): Promise<AudioContext> {
    const audio = new AudioContext()
    await audio.audioWorklet.addModule(earUrl)
    const ear = new AudioWorkletNode(audio, 'ear', { numberOfOutputs: 0 })
    ear.port.addEventListener('message', ({ data }: MessageEvent<Float32Array[]>) => {
      collector.hear(data)
      shown.hear(data, audio.sampleRate)
    })
    ear.port.start()
    audio.createMediaStreamSource(of).connect(ear)
    await audio.resume()
    return audio
  }
  /** Records some seconds from now on. */
  async function record(lengthS: number): Promise<Heard> {
    const rateHz = context?.sampleRate ?? usualRateHz
    return { channels: await collector.collect(lengthS * rateHz), rateHz }
  }
  function stop(): void {
    for (const track of stream?.getTracks() ?? []) track.stop()
    void context?.close()
    stream = undefined
    context = undefined
    collector.forget()
    listening.value = false
    shown.forget()
  }
  onScopeDispose(stop)
  return { listening, devices, device, meddling, levels: shown.levels, refusal, listen, record, stop }
}
export type Ear = ReturnType<typeof useEar>
