import { Refusal } from '../model'
import type { ByteSource } from './byte-source'

export type SampleFormat = 'integer' | 'float'

/** What a WAV file says about itself, checked against how long it really is. */
export interface WavHeader {
  container: 'WAV' | 'RF64' | 'BW64'
  format: SampleFormat
  bits: number
  channels: number
  rateHz: number
  /** Where the samples begin, in bytes, and how many whole frames are really there. */
  dataOffset: number
  frames: number
  /** What was odd, in words for a person; empty for a clean file. */
  remarks: string[]
}

const text = (bytes: Uint8Array, offset: number) => String.fromCharCode(...bytes.subarray(offset, offset + 4))
const view = (bytes: Uint8Array) => new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)

/** Beginnings of what people mistake for WAV. By signature of the format, not by the file's name. */
const otherKinds: [string, (bytes: Uint8Array) => boolean][] = [
  [
    'an MP3',
    (bytes) => text(bytes, 0).startsWith('ID3') || (bytes[0] === 0xff && (bytes[1]! & 0xe0) === 0xe0),
  ],
  [
    'a MOV or MP4',
    (bytes) => text(bytes, 4) === 'ftyp' || text(bytes, 4) === 'moov' || text(bytes, 4) === 'mdat',
  ],
  ['an AIFF', (bytes) => text(bytes, 0) === 'FORM'],
  ['a FLAC', (bytes) => text(bytes, 0) === 'fLaC'],
  ['an Ogg', (bytes) => text(bytes, 0) === 'OggS'],
]

const sizeUnknown = 0xffffffff
const largestChannels = 64
/** More chunks than any recorder writes before its samples; a damaged header must not be followed for ever. */
const mostChunks = 200

/**
 * Reads the header of a WAV, RF64 or BW64 file (ITU-R BS.2088) without reading its samples. A data size that is
 * missing or larger than the file is replaced by what is there, with a remark. Throws a Refusal on anything that
 * is not linear PCM in WAV.
 */
export async function readWavHeader(source: ByteSource, name: string): Promise<WavHeader> {
  const refuse = (why: string) => new Refusal(`${name} was refused: ${why}`)
  if (source.size === 0) throw refuse('it is empty. Copy it from the card again.')
  const container = containerOf(await source.read(0, 12), refuse)
  let longDataSize: number | undefined
  let found: Format | undefined
  let offset = 12
  for (let chunks = 0; ; chunks++) {
    if (chunks > mostChunks) throw refuse('its header does not come to an end. The file is damaged.')
    const head = await source.read(offset, 8)
    if (head.length < 8)
      throw refuse(
        found
          ? 'it ends before any samples. Copy it from the card again.'
          : 'its header is cut off. Copy it from the card again.',
      )
    const chunk = text(head, 0)
    const size = view(head).getUint32(4, true)
    const body = offset + 8
    if (chunk === 'ds64') {
      const long = view(await source.read(body, 28))
      if (long.byteLength < 24) throw refuse('its header is cut off. Copy it from the card again.')
      longDataSize = Number(long.getBigUint64(8, true))
    } else if (chunk === 'fmt ') found = formatOf(await source.read(body, Math.min(size, 40)), refuse)
    else if (chunk === 'data') {
      if (!found) throw refuse('it has samples but does not say in what format.')
      const { bytes, remarks } = soundIn(source.size - body, size, longDataSize, found)
      const { frameBytes, ...format } = found
      const frames = Math.floor(bytes / frameBytes)
      if (frames === 0) throw refuse('it holds no sound. Copy it from the card again.')
      return { container, ...format, dataOffset: body, frames, remarks }
    }
    offset = body + size + (size % 2)
  }
}

/** What a file begins like. */
function containerOf(start: Uint8Array, refuse: (why: string) => Refusal): WavHeader['container'] {
  if (start.length < 12)
    throw refuse(`it is only ${start.length} bytes long, too short for a WAV. Copy it from the card again.`)
  const container = { RIFF: 'WAV', RF64: 'RF64', BW64: 'BW64' }[text(start, 0)] as
    | WavHeader['container']
    | undefined
  if (container && text(start, 8) === 'WAVE') return container
  const kind = otherKinds.find(([, is]) => is(start))?.[0]
  throw refuse(
    kind
      ? `in spite of its name it is ${kind} file. Convert it to WAV, or drop the WAV that the recorder wrote.`
      : 'it does not begin like a WAV file. Drop a WAV from the recorder or camera.',
  )
}

/** How much sound there is where a header promises some, is unfinished, or promises more than there is. */
function soundIn(
  there: number,
  size: number,
  longDataSize: number | undefined,
  { frameBytes, rateHz }: Format,
): { bytes: number; remarks: string[] } {
  const seconds = (bytes: number) => (bytes / frameBytes / rateHz).toFixed(1)
  const promised = size === sizeUnknown ? longDataSize : size
  if (promised === undefined || size === 0) {
    const remark = `The header was never finished, as after a power cut; ${seconds(there)} s of sound are there and were read.`
    return { bytes: there, remarks: there > 0 ? [remark] : [] }
  }
  if (promised === 0) return { bytes: there, remarks: [] }
  if (promised <= there) return { bytes: promised, remarks: [] }
  return {
    bytes: there,
    remarks: [
      `The file is cut off: the header promises ${seconds(promised)} s, ${seconds(there)} s are there and were read.`,
    ],
  }
}

type Format = Pick<WavHeader, 'format' | 'bits' | 'channels' | 'rateHz'> & { frameBytes: number }

function formatOf(bytes: Uint8Array, refuse: (why: string) => Refusal) {
  if (bytes.length < 16) throw refuse('its header is cut off. Copy it from the card again.')
  const fields = view(bytes)
  const tag = fields.getUint16(0, true)
  // WAVE_FORMAT_EXTENSIBLE keeps the real tag at the head of its sub-format
  const code = tag === 0xfffe && bytes.length >= 26 ? fields.getUint16(24, true) : tag
  const channels = fields.getUint16(2, true)
  const rateHz = fields.getUint32(4, true)
  const bits = fields.getUint16(14, true)
  if (code !== 1 && code !== 3)
    throw refuse(
      `its sound is compressed (format ${code}). Iron Hush reads linear PCM; convert it to WAV PCM first.`,
    )
  const format: SampleFormat = code === 3 ? 'float' : 'integer'
  const known =
    format === 'float' ? bits === 32 || bits === 64 : bits === 8 || bits === 16 || bits === 24 || bits === 32
  if (!known)
    throw refuse(`it says ${bits} bits per sample, which is not a word length of PCM. The header is damaged.`)
  if (channels < 1 || channels > largestChannels)
    throw refuse(`it says ${channels} channels; from 1 to ${largestChannels} can be read.`)
  if (rateHz < 4000 || rateHz > 768_000)
    throw refuse(`it says ${rateHz} samples a second, which no recorder writes. The header is damaged.`)
  return { format, bits, channels, rateHz, frameBytes: (channels * bits) / 8 }
}
