import type { ByteSource } from './byte-source'

/** A piece of a file: its name of four letters, where its contents begin, and how long it says they are. */
export interface Chunk {
  id: string
  body: number
  size: number
  /** The size is too large for 32 bits, or was never written. */
  isUnknown: boolean
}

/** More chunks than any recorder writes; a damaged header must not be followed for ever. */
const mostChunks = 200
const sizeUnknown = 0xffffffff

export const letters = (bytes: Uint8Array, offset: number, count = 4): string =>
  String.fromCharCode(...bytes.subarray(offset, offset + count))
export const viewOf = (bytes: Uint8Array): DataView =>
  new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)

/** How chunks are written: names of 4 bytes and sizes of 4, or GUIDs and sizes of 8 that count the head too (W64). */
export type ChunkStyle = 'short' | 'long'
export const firstChunkAt = { short: 12, long: 40 } as const

/** The chunks from an offset on, until the file ends. One that claims to reach past the end is the last. */
export async function* chunksFrom(
  source: ByteSource,
  offset: number,
  style: ChunkStyle,
): AsyncGenerator<Chunk> {
  for (let chunks = 0; chunks < mostChunks; chunks++) {
    const headBytes = style === 'long' ? 24 : 8
    const head = await source.read(offset, headBytes)
    if (head.length < headBytes) return
    const fields = viewOf(head)
    const size =
      style === 'long' ? Number(fields.getBigUint64(16, true)) - headBytes : fields.getUint32(4, true)
    if (size < 0) return
    const body = offset + headBytes
    yield { id: letters(head, 0), body, size, isUnknown: style === 'short' && size === sizeUnknown }
    offset = body + size
    offset += style === 'long' ? (8 - (offset % 8)) % 8 : size % 2
  }
}
