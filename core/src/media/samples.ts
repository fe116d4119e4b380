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
  const isBytewise = format === 'integer' && (bits === 16 || bits === 24)
  const read = reader(new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength), layout)
  return Array.from({ length: channels }, (_, channel) => {
    const samples = new Float32Array(frames)
    if (isBytewise) readBytewise(bytes, channel * width, layout, samples)
    else
      for (let frame = 0, at = channel * width; frame < frames; frame++, at += channels * width)
        samples[frame] = read(at)
    return samples
  })
}

/** Integers of two or three bytes, the usual ones: four times as fast as through a view. */
function readBytewise(
  bytes: Uint8Array,
  from: number,
  { channels, bits, bigEndian }: PcmLayout,
  into: Float32Array,
): void {
  const width = bits / 8
  const stride = channels * width
  const [high, low] = bigEndian ? [0, width - 1] : [width - 1, 0]
  // of two bytes the lower one counts twice in the same place, which changes nothing
  const middle = width === 3 ? 1 : low
  const lowest = width === 3 ? 8 : 16
  for (let frame = 0, at = from; frame < into.length; frame++, at += stride)
    into[frame] =
      ((bytes[at + high]! << 24) | (bytes[at + middle]! << 16) | (bytes[at + low]! << lowest)) / 2147483648
}

function reader(view: DataView, { bits, format, bigEndian, signed }: PcmLayout): (offset: number) => number {
  const little = !bigEndian
  if (format === 'float')
    return bits === 32 ? (at) => view.getFloat32(at, little) : (at) => view.getFloat64(at, little)
  switch (bits) {
    case 8:
      return signed ? (at) => view.getInt8(at) / 128 : (at) => (view.getUint8(at) - 128) / 128
    default:
      return (at) => view.getInt32(at, little) / 2147483648
  }
}
