import { cutToName, type Measurement } from '../model'
import { type ByteSource, openClip } from '../media'
import { ChannelMeter } from './channel-meter'

interface Watch {
  /** Told the share that is done, 0 to 1. */
  progress?: (share: number) => void
  /** Asked between blocks; when it says true, measuring ends with undefined. */
  cancelled?: () => boolean
}

/** Of sound without a word length the meters look as finely as at this one. */
const finestBits = 24

/**
 * Measures the sound of a file in one pass, whatever container it is in. Throws a Refusal for what cannot be read.
 * Undefined when cancelled.
 */
export async function measureClip(
  source: ByteSource,
  name: string,
  watch: Watch = {},
): Promise<Measurement | undefined> {
  const clip = await openClip(source, name)
  const { channels, bits, rateHz, frames, container, codec } = clip
  const isWhole = codec === 'PCM' && bits > 0
  const meters = Array.from(
    { length: channels },
    () => new ChannelMeter(rateHz, isWhole ? bits : finestBits, frames),
  )
  let done = 0
  for await (const block of clip.blocks()) {
    if (watch.cancelled?.()) return undefined
    block.forEach((samples, channel) => meters[channel]!.push(samples))
    done += block[0]!.length
    watch.progress?.(Math.min(1, done / frames))
  }
  return {
    format: 'iron-hush/measurement',
    version: 1,
    clip: cutToName(name),
    container,
    codec,
    bits,
    rateHz,
    lengthS: done / rateHz,
    channels: meters.map((meter) => meter.finish()),
    remarks: clip.remarks,
  }
}
