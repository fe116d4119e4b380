import { Refusal, type StreamFacts } from '../model'
import type { ByteSource } from './byte-source'
import { letters as text, viewOf as view } from './riff-chunks'
import type { PcmLayout } from './samples'

interface AiffHeader extends PcmLayout {
  container: 'AIFF' | 'AIFF-C'
  stream: StreamFacts
  remarks: string[]
}

const mostChunks = 200

/** AIFF-C compression types that are not compressed: byte orders and floating point. */
const kinds: Record<string, Pick<PcmLayout, 'format' | 'bigEndian'> & { bits?: number }> = {
  NONE: { format: 'integer', bigEndian: true },
  twos: { format: 'integer', bigEndian: true },
  in24: { format: 'integer', bigEndian: true, bits: 24 },
  in32: { format: 'integer', bigEndian: true, bits: 32 },
  sowt: { format: 'integer', bigEndian: false },
  fl32: { format: 'float', bigEndian: true, bits: 32 },
  FL32: { format: 'float', bigEndian: true, bits: 32 },
  fl64: { format: 'float', bigEndian: true, bits: 64 },
  FL64: { format: 'float', bigEndian: true, bits: 64 },
}

/**
 * Reads the header of an AIFF or AIFF-C file (Audio Interchange File Format 1.3 and AIFF-C draft of 1991) without its
 * samples. Throws a Refusal on anything that is compressed or damaged.
 */
export async function readAiffHeader(source: ByteSource, name: string): Promise<AiffHeader> {
  const refuse = (why: string) => new Refusal(`${name} was refused: ${why}`)
  const kind = text(await source.read(8, 4), 0)
  if (kind !== 'AIFF' && kind !== 'AIFC')
    throw refuse('it starts as an AIFF but does not continue as one. It is damaged.')
  let found: Omit<AiffHeader, 'dataOffset'> | undefined
  let sound: { from: number; size: number } | undefined
  let offset = 12
  for (let chunks = 0; chunks < mostChunks && !(found && sound); chunks++) {
    const head = await source.read(offset, 8)
    if (head.length < 8) break
    const size = view(head).getUint32(4)
    const body = offset + 8
    if (text(head, 0) === 'COMM')
      found = formatOf(await source.read(body, Math.min(size, 64)), kind === 'AIFC', refuse)
    else if (text(head, 0) === 'SSND') {
      const start = await source.read(body, 4)
      if (start.length < 4) throw refuse('it ends before any samples. Copy it from the card again.')
      sound = { from: body + 8 + view(start).getUint32(0), size: size - 8 }
    }
    offset = body + size + (size % 2)
  }
  if (!found || !sound) throw refuse('it ends before any samples. Copy it from the card again.')
  const frameBytes = (found.channels * found.bits) / 8
  const there = Math.floor(Math.max(0, source.size - sound.from) / frameBytes)
  const frames = Math.min(found.frames, there)
  if (frames === 0) throw refuse('it has no sound in it. Copy it from the card again.')
  const seconds = (count: number) => (count / found.rateHz).toFixed(1)
  const remarks =
    there < found.frames
      ? [
          `The file is cut off: the header promises ${seconds(found.frames)} s, ${seconds(there)} s are there and were read.`,
        ]
      : []
  return { ...found, dataOffset: sound.from, frames, remarks }
}

function formatOf(
  bytes: Uint8Array,
  isCompressible: boolean,
  refuse: (why: string) => Refusal,
): Omit<AiffHeader, 'dataOffset'> {
  if (bytes.length < (isCompressible ? 22 : 18))
    throw refuse('its header is cut off. Copy it from the card again.')
  const fields = view(bytes)
  const type = isCompressible ? text(bytes, 18) : 'NONE'
  const kind = kinds[type]
  if (!kind)
    throw refuse(
      `its sound is compressed ("${type}"). Export it as WAV, AIFF or MOV with uncompressed sound.`,
    )
  const channels = fields.getUint16(0)
  // samples are left-justified in whole bytes
  const bits = kind.bits ?? Math.ceil(fields.getUint16(6) / 8) * 8
  const rateHz = extended(fields, 8)
  if (
    ![8, 16, 24, 32, 64].includes(bits) ||
    channels < 1 ||
    channels > 64 ||
    !(rateHz >= 4000 && rateHz <= 768_000)
  )
    throw refuse(
      `it says ${channels} channels, ${bits} bits and ${rateHz} samples a second, which no recorder writes. The header is damaged.`,
    )
  return {
    container: isCompressible ? 'AIFF-C' : 'AIFF',
    format: kind.format,
    bigEndian: kind.bigEndian,
    signed: true,
    bits,
    channels,
    rateHz,
    frames: fields.getUint32(2),
    stream: {
      ...(bits > 8 && { byteOrder: kind.bigEndian ? 'big-endian' : 'little-endian' }),
      ...(channels === 1 && { layout: 'mono' as const }),
      texts: [],
    },
    remarks: [],
  }
}

/** A number of 80 bits, as the rate is written (IEEE 754 extended precision). */
function extended(fields: DataView, at: number): number {
  const exponent = (fields.getUint16(at) & 0x7fff) - 16383
  const mantissa = fields.getUint32(at + 2) * 2 ** 32 + fields.getUint32(at + 6)
  return mantissa * 2 ** (exponent - 63)
}
