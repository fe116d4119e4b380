import type { SampleFormat } from './wav-header'

/**
 * Samples as the bytes of a WAV file. `channels` are equally long, full scale 1; integers are rounded and held at
 * full scale. For what fits into memory.
 */
export function wavBytes(
  channels: readonly Float32Array[],
  rateHz: number,
  bits: 16 | 24 | 32 = 24,
  format: SampleFormat = 'integer',
): Uint8Array {
  const frames = channels[0]?.length ?? 0
  const width = bits / 8
  const frameBytes = channels.length * width
  const dataBytes = frames * frameBytes
  const bytes = new Uint8Array(44 + dataBytes + (dataBytes % 2))
  const view = new DataView(bytes.buffer)
  const put = (offset: number, text: string) =>
    [...text].forEach((letter, index) => view.setUint8(offset + index, letter.charCodeAt(0)))
  put(0, 'RIFF')
  view.setUint32(4, bytes.length - 8, true)
  put(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, format === 'float' ? 3 : 1, true)
  view.setUint16(22, channels.length, true)
  view.setUint32(24, rateHz, true)
  view.setUint32(28, rateHz * frameBytes, true)
  view.setUint16(32, frameBytes, true)
  view.setUint16(34, bits, true)
  put(36, 'data')
  view.setUint32(40, dataBytes, true)
  const scale = 2 ** (bits - 1)
  for (let frame = 0, offset = 44; frame < frames; frame++)
    for (const channel of channels) {
      const sample = channel[frame]!
      if (format === 'float') view.setFloat32(offset, sample, true)
      else {
        const step = Math.max(-scale, Math.min(scale - 1, Math.round(sample * scale)))
        if (bits === 16) view.setInt16(offset, step, true)
        else if (bits === 32) view.setInt32(offset, step, true)
        else {
          view.setUint16(offset, step & 0xffff, true)
          view.setInt8(offset + 2, step >> 16)
        }
      }
      offset += width
    }
  return bytes
}
