import { describe, expect, it } from 'vitest'
import { bytesSource, openClip } from './index'

/** Bits one after another, highest first. */
class Bits {
  private readonly bits: number[] = []
  put(value: number, count: number): this {
    for (let bit = count - 1; bit >= 0; bit--) this.bits.push(Math.floor(value / 2 ** bit) % 2)
    return this
  }
  bytes(): number[] {
    while (this.bits.length % 8) this.bits.push(0)
    return Array.from({ length: this.bits.length / 8 }, (_, at) =>
      this.bits.slice(8 * at, 8 * at + 8).reduce((all, bit) => 2 * all + bit, 0),
    )
  }
}
/** Cyclic redundancy check with a polynomial, highest bit first. */
const check = (bytes: readonly number[], polynomial: number, width: number): number =>
  bytes.reduce((crc, byte) => {
    let next = crc ^ (byte << (width - 8))
    for (let bit = 0; bit < 8; bit++)
      next = (next & (1 << (width - 1)) ? (next << 1) ^ polynomial : next << 1) & (2 ** width - 1)
    return next
  }, 0)

const [rateHz, blockFrames] = [48_000, 4096]
/** A FLAC of samples as they are, without any prediction (RFC 9639, verbatim subframes). */
function flac(channels: readonly Int32Array[], bits: 16 | 24): Uint8Array {
  const frames = channels[0]!.length
  const info = new Bits()
    .put(blockFrames, 16)
    .put(blockFrames, 16)
    .put(0, 24)
    .put(0, 24)
    .put(rateHz, 20)
    .put(channels.length - 1, 3)
    .put(bits - 1, 5)
    .put(frames, 36)
  for (let part = 0; part < 4; part++) info.put(0, 32)
  const file = [0x66, 0x4c, 0x61, 0x43, 0x80, 0, 0, 34, ...info.bytes()]
  for (let block = 0; block * blockFrames < frames; block++) {
    const count = Math.min(blockFrames, frames - block * blockFrames)
    const head = new Bits()
      .put(0b1111_1111_1111_1000, 16)
      .put(7, 4)
      .put(10, 4)
      .put(channels.length - 1, 4)
      .put(bits === 16 ? 4 : 6, 3)
      .put(0, 1)
      .put(block, 8)
      .put(count - 1, 16)
      .bytes()
    const body = new Bits()
    for (const samples of channels) {
      body.put(1, 7).put(0, 1)
      for (const sample of samples.subarray(block * blockFrames, block * blockFrames + count))
        body.put(sample < 0 ? sample + 2 ** bits : sample, bits)
    }
    const frame = [...head, check(head, 0x07, 8), ...body.bytes()]
    const crc = check(frame, 0x8005, 16)
    file.push(...frame, crc >> 8, crc & 255)
  }
  return Uint8Array.from(file)
}

describe('FLAC', () => {
  it.each([16, 24] as const)('of %i bits is read to the last sample, without a browser', async (bits) => {
    const most = 2 ** (bits - 1)
    const written = [0.9, -0.4].map((height) =>
      Int32Array.from({ length: 10_000 }, (_, index) =>
        Math.round(height * (most - 1) * Math.sin(index / 9)),
      ),
    )
    const clip = await openClip(bytesSource(flac(written, bits)), 'clip.flac')
    expect(clip).toMatchObject({
      container: 'FLAC',
      codec: 'FLAC',
      bits,
      rateHz,
      channels: 2,
      frames: 10_000,
    })
    const read: number[][] = [[], []]
    for await (const block of clip.blocks())
      block.forEach((samples, channel) =>
        read[channel]!.push(...Array.from(samples, (sample) => sample * most)),
      )
    // single precision holds 24 bits to a step
    read.forEach((samples, channel) => {
      const off = samples.map((sample, index) => Math.abs(sample - written[channel]![index]!))
      expect(Math.max(...off)).toBeLessThan(bits === 16 ? 0.01 : 1.01)
      expect(samples).toHaveLength(10_000)
    })
  })
  it('that is cut off gives what is there, or a sentence', async () => {
    const bytes = flac([new Int32Array(10_000).fill(1000)], 16)
    let frames = 0
    const reading = (async () => {
      const clip = await openClip(bytesSource(bytes.slice(0, bytes.length - 3000)), 'clip.flac')
      for await (const [samples] of clip.blocks()) frames += samples!.length
    })()
    await reading.catch((error: unknown) => expect(String(error)).toMatch(/cut off or damaged/))
    expect(frames).toBeGreaterThanOrEqual(blockFrames)
  })
})
