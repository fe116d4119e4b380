import { cutToName, type Measurement } from '../model'
import { type ByteSource, openClip } from '../media'
import { ClipMeter, type SoFar } from './clip-meter'

interface Watch {
  /** Told the share that is done, 0 to 1, and what is known by then. */
  progress?: (share: number, soFar: SoFar) => void
  /** Asked between blocks; when it says true, measuring ends with undefined. */
  cancelled?: () => boolean
}

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
  const meter = new ClipMeter(channels, rateHz, isWhole ? bits : 0, frames, isWhole)
  let done = 0
  for await (const block of clip.blocks()) {
    if (watch.cancelled?.()) return undefined
    meter.push(block)
    done += block[0]!.length
    watch.progress?.(Math.min(1, done / frames), meter.soFar())
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
    stream: clip.stream,
    ...meter.finish(),
    remarks: clip.remarks,
  }
}
