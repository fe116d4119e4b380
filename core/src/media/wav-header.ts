import { Refusal, type StreamFacts } from '../model'
import type { ByteSource } from './byte-source'
import { broadcastFacts, ixmlChannelNames, ixmlTexts, longestText } from './recorder-texts'
import { type Chunk, chunksFrom, firstChunkAt, letters as text, viewOf as view } from './riff-chunks'

export type SampleFormat = 'integer' | 'float'

/** The header of a WAV file, checked against its real length. */
export interface WavHeader {
  container: 'WAV' | 'RF64' | 'BW64' | 'W64'
  format: SampleFormat
  bits: number
  channels: number
  rateHz: number
  /** Where the samples begin, in bytes, and how many whole frames are really there. */
  dataOffset: number
  frames: number
  stream: StreamFacts
  /** Oddities, in words for a person; empty for a clean file. */
  remarks: string[]
}

/** Signatures of formats that people mistake for WAV. */
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

const largestChannels = 64
const shortestFormat = 16

/** Chunks that are looked into. */
interface Chunks {
  fmt?: Uint8Array
  ds64?: Uint8Array
  bext?: Uint8Array
  ixml?: Uint8Array
  data?: Chunk
}

/**
 * Reads the header of a WAV, RF64, BW64 (ITU-R BS.2088) or W64 file without reading its samples. A data size that is
 * missing or larger than the file is replaced by what is there, with a remark. Throws a Refusal on anything that
 * is not linear PCM in WAV.
 */
export async function readWavHeader(source: ByteSource, name: string): Promise<WavHeader> {
  const refuse = (why: string) => new Refusal(`${name} was refused: ${why}`)
  if (source.size === 0) throw refuse('it is empty. Copy it from the card again.')
  const container = containerOf(await source.read(0, 40), refuse)
  const { fmt, ds64, bext, ixml, data } = await chunksIn(source, container, refuse)
  if (!data)
    throw refuse(
      fmt && fmt.length >= shortestFormat
        ? 'it ends before any samples. Copy it from the card again.'
        : 'its header is cut off. Copy it from the card again.',
    )
  if (!fmt) throw refuse('it has samples but does not say in what format.')
  const found = formatOf(fmt, refuse)
  const { bytes, remarks } = soundIn(source.size - data.body, data, ds64 && longSize(ds64), found)
  const { frameBytes, layout, ...format } = found
  const frames = Math.floor(bytes / frameBytes)
  if (frames === 0) throw refuse('it has no sound in it. Copy it from the card again.')
  const broadcast = bext && broadcastFacts(bext, format.rateHz)
  const channelNames = ixml && ixmlChannelNames(ixml)
  const stream: StreamFacts = {
    ...(format.bits > 8 && { byteOrder: 'little-endian' as const }),
    ...(layout && { layout }),
    ...broadcast,
    ...(channelNames && { channelNames }),
    texts: [...(broadcast?.texts ?? []), ...(ixml ? ixmlTexts(ixml) : [])].slice(0, 40),
  }
  return { container, ...format, dataOffset: data.body, frames, stream, remarks }
}

async function chunksIn(
  source: ByteSource,
  container: WavHeader['container'],
  refuse: (why: string) => Refusal,
): Promise<Chunks> {
  const style = container === 'W64' ? 'long' : 'short'
  const found: Chunks = {}
  for await (const chunk of chunksFrom(source, firstChunkAt[style], style)) {
    const { id, body, size } = chunk
    if (id === 'ds64') found.ds64 = await source.read(body, 28)
    else if (id === 'fmt ') found.fmt ??= await source.read(body, Math.min(size, 40))
    else if (id === 'bext') found.bext ??= await source.read(body, Math.min(size, longestText))
    else if (id === 'iXML') found.ixml ??= await source.read(body, Math.min(size, longestText))
    else if (id === 'data') {
      found.data = chunk
      // chunks behind the samples can only be found if the samples' length is stated
      const isTold = !chunk.isUnknown && size > 0 && body + size < source.size
      if (!isTold) break
    }
  }
  if (found.ds64 && found.ds64.length < 24)
    throw refuse('its header is cut off. Copy it from the card again.')
  return found
}
const longSize = (ds64: Uint8Array): number => Number(view(ds64).getBigUint64(8, true))

/** The kind of file by its first bytes. */
function containerOf(start: Uint8Array, refuse: (why: string) => Refusal): WavHeader['container'] {
  if (start.length < 12)
    throw refuse(`it is only ${start.length} bytes long, too short for a WAV. Copy it from the card again.`)
  const container = { RIFF: 'WAV', RF64: 'RF64', BW64: 'BW64' }[text(start, 0)] as
    | WavHeader['container']
    | undefined
  if (container && text(start, 8) === 'WAVE') return container
  if (text(start, 0) === 'riff' && start.length >= 40 && text(start, 24) === 'wave') return 'W64'
  const kind = otherKinds.find(([, is]) => is(start))?.[0]
  throw refuse(
    kind
      ? `in spite of its name it is ${kind} file. Convert it to WAV, or drop the WAV that the recorder wrote.`
      : 'it is not a WAV file. Drop a WAV from the recorder or camera.',
  )
}

/** How much sound there is where a header promises some, is unfinished, or promises more than there is. */
function soundIn(
  there: number,
  { size, isUnknown }: Chunk,
  longDataSize: number | undefined,
  { frameBytes, rateHz }: Format,
): { bytes: number; remarks: string[] } {
  const seconds = (bytes: number) => (bytes / frameBytes / rateHz).toFixed(1)
  const promised = isUnknown ? longDataSize : size
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

type Format = Pick<WavHeader, 'format' | 'bits' | 'channels' | 'rateHz'> & {
  frameBytes: number
  layout?: StreamFacts['layout']
}

function formatOf(bytes: Uint8Array, refuse: (why: string) => Refusal): Format {
  if (bytes.length < shortestFormat) throw refuse('its header is cut off. Copy it from the card again.')
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
  const mask = tag === 0xfffe && bytes.length >= 24 ? fields.getUint32(20, true) : undefined
  return {
    format,
    bits,
    channels,
    rateHz,
    frameBytes: (channels * bits) / 8,
    layout: layoutOf(channels, mask),
  }
}

/** Two channels of a plain WAV are left and right by custom; a mask of 0 says that they are not. */
const layoutOf = (channels: number, mask: number | undefined): StreamFacts['layout'] => {
  if (channels === 1) return 'mono'
  if (channels > 2) return 'several channels'
  return mask === undefined || mask === 3 ? 'stereo' : 'two channels'
}
