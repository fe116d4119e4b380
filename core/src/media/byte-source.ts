/** A source that can be read in parts: a file, a Blob, a buffer. Reading past the end returns what there is. */
export interface ByteSource {
  readonly size: number
  read(offset: number, length: number): Promise<Uint8Array>
}

/** Bytes already in memory. */
export const bytesSource = (bytes: Uint8Array): ByteSource => ({
  size: bytes.length,
  read: (offset, length) => Promise.resolve(bytes.subarray(offset, offset + length)),
})
