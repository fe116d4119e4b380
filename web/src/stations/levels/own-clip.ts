import { Refusal } from '@iron-hush/core/model'
import { renderRateHz } from '../../workers/listening'

const longestS = 600
const shortestS = 0.5

/**
 * A user's own clip as one channel at the rate of the rendering. The browser reads it and brings it to the rate; several
 * channels are summed. Refused with a sentence when it cannot be read, is silent, or has no usable length.
 */
export async function readClip(file: File): Promise<Float32Array> {
  const context = new OfflineAudioContext(1, renderRateHz, renderRateHz)
  let buffer: AudioBuffer
  try {
    buffer = await context.decodeAudioData(await file.arrayBuffer())
  } catch {
    throw new Refusal(`${file.name} was refused: it is not sound that can be read. Use a WAV file.`)
  }
  if (buffer.duration < shortestS || buffer.duration > longestS)
    throw new Refusal(
      `${file.name} was refused: it is ${buffer.duration.toFixed(1)} s long; use between ${shortestS} and ${longestS} s.`,
    )
  const samples = new Float32Array(buffer.length)
  for (let channel = 0; channel < buffer.numberOfChannels; channel++)
    for (const [index, sample] of buffer.getChannelData(channel).entries())
      samples[index]! += sample / buffer.numberOfChannels
  if (samples.every((sample) => Math.abs(sample) < 1e-6))
    throw new Refusal(`${file.name} was refused: it is silent. Use a clip with a voice in it.`)
  return samples
}
