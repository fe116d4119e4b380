import { AudioSample, AudioSampleSource, BufferTarget, MovOutputFormat, Output } from 'mediabunny'
import { known } from '../model'

/** Sound as a camera packs it: a MOV with uncompressed samples in either order of bytes. */
export async function movBytes(
  channels: readonly Float32Array[],
  rateHz: number,
  codec: 'pcm-s16' | 'pcm-s16be' | 'pcm-s24' = 'pcm-s16',
): Promise<Uint8Array> {
  const frames = channels[0]!.length
  const target = new BufferTarget()
  const output = new Output({ format: new MovOutputFormat(), target })
  const sound = new AudioSampleSource({ codec })
  output.addAudioTrack(sound)
  await output.start()
  const data = new Float32Array(channels.length * frames)
  channels.forEach((samples, channel) => data.set(samples, channel * frames))
  const sample = new AudioSample({
    data,
    format: 'f32-planar',
    numberOfChannels: channels.length,
    sampleRate: rateHz,
    timestamp: 0,
  })
  await sound.add(sample)
  sample.close()
  await output.finalize()
  return new Uint8Array(known(target.buffer ?? undefined, 'what was just written'))
}
