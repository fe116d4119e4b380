import type { ByteSource } from './byte-source'
import type { WavHeader } from './wav-header'

/** Frames read at a time: a second or so. Memory does not grow with the length of the file. */
const blockFrames = 1 << 16

/** The samples of a file in blocks, one Float32Array per channel, full scale 1. */
export async function* samplesOf(source: ByteSource, header: WavHeader): AsyncGenerator<Float32Array[]> {
  const frameBytes = (header.channels * header.bits) / 8
  for (let frame = 0; frame < header.frames; frame += blockFrames) {
    const wanted = Math.min(blockFrames, header.frames - frame)
    const bytes = await source.read(header.dataOffset + frame * frameBytes, wanted * frameBytes)
    const frames = Math.floor(bytes.length / frameBytes)
    yield decode(bytes, frames, header)
    if (frames < wanted) return
  }
}

function decode(bytes: Uint8Array, frames: number, { channels, bits, format }: WavHeader): Float32Array[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
  const width = bits / 8
  const out = Array.from({ length: channels }, () => new Float32Array(frames))
  const read = reader(view, bits, format)
  for (let frame = 0, offset = 0; frame < frames; frame++)
    for (let channel = 0; channel < channels; channel++, offset += width) out[channel]![frame] = read(offset)
  return out
}

function reader(view: DataView, bits: number, format: WavHeader['format']): (offset: number) => number {
  if (format === 'float')
    return bits === 32 ? (at) => view.getFloat32(at, true) : (at) => view.getFloat64(at, true)
  switch (bits) {
    case 8:
      return (at) => (view.getUint8(at) - 128) / 128
    case 16:
      return (at) => view.getInt16(at, true) / 32768
    case 24:
      return (at) => ((view.getInt8(at + 2) << 16) | view.getUint16(at, true)) / 8388608
    default:
      return (at) => view.getInt32(at, true) / 2147483648
  }
}
