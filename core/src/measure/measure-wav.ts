import { cutToName, type Measurement } from '../model'
import { type ByteSource, readWavHeader, samplesOf } from '../media'
import { ChannelMeter } from './channel-meter'

interface Watch {
  /** Told the share that is done, 0 to 1. */
  progress?: (share: number) => void
  /** Asked between blocks; when it says true, measuring ends with undefined. */
  cancelled?: () => boolean
}

/** Measures a WAV file in one pass. Throws a Refusal for what cannot be read. Undefined when cancelled. */
export async function measureWav(
  source: ByteSource,
  name: string,
  watch: Watch = {},
): Promise<Measurement | undefined> {
  const header = await readWavHeader(source, name)
  const { channels, bits, rateHz, format, container } = header
  const meters = Array.from(
    { length: channels },
    () => new ChannelMeter(rateHz, format === 'float' ? 24 : bits, header.frames),
  )
  let done = 0
  for await (const block of samplesOf(source, header)) {
    if (watch.cancelled?.()) return undefined
    block.forEach((samples, channel) => meters[channel]!.push(samples))
    done += block[0]!.length
    watch.progress?.(done / header.frames)
  }
  return {
    format: 'iron-hush/measurement',
    version: 1,
    clip: cutToName(name),
    container,
    codec: format === 'float' ? 'PCM floating point' : 'PCM',
    bits,
    rateHz,
    lengthS: done / rateHz,
    channels: meters.map((meter) => meter.finish()),
    remarks: header.remarks,
  }
}
