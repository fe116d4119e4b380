import type { ByteSource } from './byte-source'

/** Where and how uncompressed samples lie in a file. */
export interface PcmLayout {
  format: 'integer' | 'float'
  bits: number
  channels: number
  rateHz: number
  /** The highest byte comes first; left out: the lowest. */
  bigEndian?: boolean
  /** Whether 8-bit samples are signed; left out: they are centred on 128. */
  signed?: boolean
  /** Where the samples begin, in bytes, and how many whole frames there are. */
  dataOffset: number
  frames: number
}

/** Frames read at a time: a second or so. Memory does not grow with the length of the file. */
const blockFrames = 1 << 16
/** The first are fewer: somebody waits to see that something comes. */
const firstFrames = 1 << 13

/** The samples of a file in blocks, one Float32Array per channel, full scale 1. */
export async function* samplesOf(source: ByteSource, layout: PcmLayout): AsyncGenerator<Float32Array[]> {
  const frameBytes = (layout.channels * layout.bits) / 8
  const wantedAt = (frame: number) => Math.min(frame ? blockFrames : firstFrames, layout.frames - frame)
  const readAt = (frame: number) => {
    const reading = source.read(layout.dataOffset + frame * frameBytes, wantedAt(frame) * frameBytes)
    // anyone who stops listening before waits for it no more
    reading.catch(() => undefined)
    return reading
  }
  let reading = readAt(0)
  for (let frame = 0; frame < layout.frames;) {
    const bytes = await reading
    const wanted = wantedAt(frame)
    const frames = Math.floor(bytes.length / frameBytes)
    frame += wanted
    // the next block is read while this one is worked on
    if (frames === wanted && frame < layout.frames) reading = readAt(frame)
    yield decode(bytes, frames, layout)
    if (frames < wanted) return
  }
}

function decode(bytes: Uint8Array, frames: number, layout: PcmLayout): Float32Array[] {
  const { channels, bits, format } = layout
  const width = bits / 8
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const read = reader(view, layout)
  return Array.from({ length: channels }, (_, channel) => {
    const samples = new Float32Array(frames)
    const from = channel * width
    const done = format === 'integer' && bits === 24 ? readThreeBytes(view, from, layout, samples) : 0
    for (
      let frame = done, at = from + done * channels * width;
      frame < frames;
      frame++, at += channels * width
    )
      samples[frame] = read(at)
    return samples
  })
}

/**
 * Integers of three bytes, read as four of which one is dropped. Gives the number of samples read: of the last one
 * the fourth byte may lie outside.
 */
function readThreeBytes(
  view: DataView,
  from: number,
  { channels, bigEndian }: PcmLayout,
  into: Float32Array,
): number {
  const stride = 3 * channels
  const count = Math.min(into.length, Math.max(0, Math.floor((view.byteLength - 4 - from) / stride) + 1))
  const shift = bigEndian ? 0 : 8
  for (let frame = 0, at = from; frame < count; frame++, at += stride)
    into[frame] = ((view.getInt32(at, !bigEndian) << shift) & -256) / 2147483648
  return count
}

function reader(view: DataView, { bits, format, bigEndian, signed }: PcmLayout): (offset: number) => number {
  const little = !bigEndian
  if (format === 'float')
    return bits === 32 ? (at) => view.getFloat32(at, little) : (at) => view.getFloat64(at, little)
  switch (bits) {
    case 8:
      return signed ? (at) => view.getInt8(at) / 128 : (at) => (view.getUint8(at) - 128) / 128
    case 16:
      return (at) => view.getInt16(at, little) / 32768
    case 24:
      return bigEndian
        ? (at) => ((view.getInt8(at) << 16) | view.getUint16(at + 1)) / 8388608
        : (at) => ((view.getInt8(at + 2) << 16) | view.getUint16(at, true)) / 8388608
    default:
      return (at) => view.getInt32(at, little) / 2147483648
  }
}
