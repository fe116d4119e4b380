import { type ByteSource, openClip } from '../media'

/** A stretch of a clip as it is drawn: lowest and highest sample of each slice, a row for each channel. */
export interface Drawn {
  fromS: number
  toS: number
  envelopes: [number, number][][]
}

/** Reads only one stretch of a clip, for drawing it in slices. */
export async function drawnStretch(
  source: ByteSource,
  name: string,
  fromS: number,
  toS: number,
  slices: number,
): Promise<Drawn> {
  const clip = await openClip(source, name)
  const { rateHz, channels, frames } = clip
  const from = Math.max(0, Math.floor(fromS * rateHz))
  const to = Math.max(from + 1, Math.min(frames, Math.ceil(toS * rateHz)))
  const sliceFrames = Math.max(1, (to - from) / slices)
  const count = Math.ceil((to - from) / sliceFrames)
  const lows = Array.from({ length: channels }, () => new Float32Array(count).fill(Infinity))
  const highs = Array.from({ length: channels }, () => new Float32Array(count).fill(-Infinity))
  let frame = 0
  for await (const block of clip.blocks({ from, to })) {
    block.forEach((samples, channel) => {
      const [low, high] = [lows[channel]!, highs[channel]!]
      for (let index = 0; index < samples.length; index++) {
        const slice = Math.min(count - 1, Math.floor((frame + index) / sliceFrames))
        const sample = samples[index]!
        if (sample < low[slice]!) low[slice] = sample
        if (sample > high[slice]!) high[slice] = sample
      }
    })
    frame += block[0]?.length ?? 0
  }
  return {
    fromS: from / rateHz,
    toS: to / rateHz,
    envelopes: lows.map((low, channel) =>
      Array.from(low, (value, slice): [number, number] =>
        value === Infinity ? [0, 0] : [value, highs[channel]![slice]!],
      ),
    ),
  }
}

/** The samples of a stretch of a clip, for listening to it. */
export async function samplesOfStretch(
  source: ByteSource,
  name: string,
  fromS: number,
  toS: number,
): Promise<{ rateHz: number; channels: Float32Array[] }> {
  const clip = await openClip(source, name)
  const parts: Float32Array[][] = []
  for await (const block of clip.blocks({ from: fromS * clip.rateHz, to: toS * clip.rateHz }))
    parts.push(block)
  return { rateHz: clip.rateHz, channels: joined(parts, clip.channels) }
}

/** Blocks one after another, by channel; a channel that a block has not is silent in it. */
export const joined = (
  blocks: readonly (readonly Float32Array[])[],
  channels = blocks[0]?.length ?? 0,
): Float32Array[] =>
  Array.from({ length: channels }, (_, channel) => {
    const pieces = blocks.map((block) => block[channel] ?? new Float32Array(block[0]?.length ?? 0))
    const whole = new Float32Array(pieces.reduce((sum, piece) => sum + piece.length, 0))
    let at = 0
    for (const piece of pieces) {
      whole.set(piece, at)
      at += piece.length
    }
    return whole
  })
