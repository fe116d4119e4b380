import { cutToName, type Measurement } from '../model'
import { type ByteSource, openClip } from '../media'
import { ClipMeter, type ClipSoFar } from './clip-meter'
import type { Helper } from './remote-ear'

interface Watch {
  /** Called with the share done, 0 to 1, and intermediate results. */
  progress?: (share: number, soFar: ClipSoFar) => void
  /** Asked between blocks; when it says true, measuring ends with undefined. */
  cancelled?: () => boolean
  /** Begins another thread, for clips that are worth it: it takes a share of the channels. */
  helper?: () => Helper
}

/** Samples from which other threads save more time than they take to start, and how many there are at most. */
const worthHelp = 8_000_000
const mostHelpers = 2

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
  const isWorthHelp = channels > 1 && channels * frames > worthHelp
  const helpers: Helper[] = []
  try {
    // this thread only reads: with half of the channels of its own it would be the last to finish
    if (watch.helper && isWorthHelp) while (helpers.length < mostHelpers) helpers.push(watch.helper())
    const meter = new ClipMeter({ channels, rateHz, bits: isWhole ? bits : 0, frames, isWhole }, helpers)
    let done = 0
    for await (const block of clip.blocks()) {
      if (watch.cancelled?.()) return undefined
      done += block[0]!.length
      await meter.push(block)
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
      ...(await meter.finish()),
      remarks: clip.remarks,
    }
  } finally {
    for (const helper of helpers) helper.end()
  }
}
