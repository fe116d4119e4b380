import { textBytes } from './text-bytes'
import type { SampleFormat } from './wav-header'

/** Texts that a recorder writes beside the sound (EBU Tech 3285). */
export interface BroadcastTexts {
  description: string
  writtenBy: string
  /** As yyyy-mm-dd and hh:mm:ss. */
  date: string
  time: string
  /** Seconds from midnight of the first sample. */
  startS: number
}

/** How samples are written. */
export interface WavLayout {
  channels: number
  rateHz: number
  bits: 16 | 24 | 32
  format: SampleFormat
}

function chunk(id: string, body: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(8 + body.length + (body.length % 2))
  bytes.set(textBytes(id))
  new DataView(bytes.buffer).setUint32(4, body.length, true)
  bytes.set(body, 8)
  return bytes
}

/** A `bext` chunk, to stand in front of the samples. */
export function broadcastChunk(
  { description, writtenBy, date, time, startS }: BroadcastTexts,
  rateHz: number,
) {
  const body = new Uint8Array(602)
  const put = (offset: number, most: number, text: string) =>
    body.set(textBytes(text).subarray(0, most), offset)
  put(0, 256, description)
  put(256, 32, writtenBy)
  put(320, 10, date)
  put(330, 8, time)
  new DataView(body.buffer).setBigUint64(338, BigInt(Math.round(startS * rateHz)), true)
  body[346] = 1
  return chunk('bext', body)
}
/** An iXML chunk, of elements given as XML. */
export const ixmlChunk = (elements: string): Uint8Array =>
  chunk('iXML', textBytes(`<?xml version="1.0" encoding="UTF-8"?><BWFXML>${elements}</BWFXML>`))

/** The header in front of the samples: 44 bytes, more with further chunks. */
export function wavHead(
  { channels, rateHz, bits, format }: WavLayout,
  frames: number,
  chunks: readonly Uint8Array[] = [],
): Uint8Array {
  const frameBytes = (channels * bits) / 8
  const dataBytes = frames * frameBytes
  const between = chunks.reduce((sum, each) => sum + each.length, 0)
  const bytes = new Uint8Array(44 + between)
  const view = new DataView(bytes.buffer)
  const put = (offset: number, ascii: string) => {
    for (let index = 0; index < ascii.length; index++) view.setUint8(offset + index, ascii.charCodeAt(index))
  }
  put(0, 'RIFF')
  view.setUint32(4, 36 + between + dataBytes + (dataBytes % 2), true)
  put(8, 'WAVEfmt ')
  view.setUint32(16, 16, true)
  view.setUint16(20, format === 'float' ? 3 : 1, true)
  view.setUint16(22, channels, true)
  view.setUint32(24, rateHz, true)
  view.setUint32(28, rateHz * frameBytes, true)
  view.setUint16(32, frameBytes, true)
  view.setUint16(34, bits, true)
  let offset = 36
  for (const each of chunks) {
    bytes.set(each, offset)
    offset += each.length
  }
  put(offset, 'data')
  view.setUint32(offset + 4, dataBytes, true)
  return bytes
}

/** Samples of equally long channels as frames; full scale is 1, integers are rounded and held there. */
export function wavFrames(channels: readonly Float32Array[], { bits, format }: WavLayout): Uint8Array {
  const frames = channels[0]?.length ?? 0
  const width = bits / 8
  const bytes = new Uint8Array(frames * channels.length * width)
  const view = new DataView(bytes.buffer)
  const scale = 2 ** (bits - 1)
  for (let frame = 0, offset = 0; frame < frames; frame++)
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

/** Samples as the bytes of a WAV file. For what fits into memory. */
export function wavBytes(
  channels: readonly Float32Array[],
  rateHz: number,
  bits: 16 | 24 | 32 = 24,
  format: SampleFormat = 'integer',
  chunks: readonly Uint8Array[] = [],
): Uint8Array {
  const layout: WavLayout = { channels: channels.length, rateHz, bits, format }
  const head = wavHead(layout, channels[0]?.length ?? 0, chunks)
  const frames = wavFrames(channels, layout)
  const bytes = new Uint8Array(head.length + frames.length + (frames.length % 2))
  bytes.set(head)
  bytes.set(frames, head.length)
  return bytes
}
