import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { bytesSource, readWavHeader, samplesOf, wavBytes } from './index'

const ramp = (length: number) => Float32Array.from({ length }, (_, index) => Math.sin(index / 7) * 0.9)

async function allOf(bytes: Uint8Array) {
  const source = bytesSource(bytes)
  const header = await readWavHeader(source, 'clip.wav')
  const channels: number[][] = Array.from({ length: header.channels }, () => [])
  for await (const block of samplesOf(source, header))
    block.forEach((each, index) => channels[index]!.push(...each))
  return { header, channels }
}

describe('WAV', () => {
  it.each([
    [16, 'integer'],
    [24, 'integer'],
    [32, 'integer'],
    [32, 'float'],
  ] as const)('comes back from %i bits %s within half a step', async (bits, format) => {
    const written = [ramp(1000), ramp(1000).map((sample) => -sample)]
    const { header, channels } = await allOf(wavBytes(written, 48000, bits, format))
    expect(header).toMatchObject({
      container: 'WAV',
      bits,
      format,
      channels: 2,
      rateHz: 48000,
      frames: 1000,
      remarks: [],
    })
    const step = format === 'float' ? 1e-9 : 2 ** -bits + 1e-7
    channels.forEach((channel, index) =>
      channel.forEach((sample, frame) =>
        expect(Math.abs(sample - written[index]![frame]!)).toBeLessThanOrEqual(step),
      ),
    )
  })
  it('reads across block borders', async () => {
    const { channels } = await allOf(wavBytes([ramp(150_000)], 48000, 16))
    expect(channels[0]).toHaveLength(150_000)
    expect(channels[0]![65536]).toBeCloseTo(ramp(150_000)[65536]!, 4)
  })
  it('reads an RF64 file whose size stands in ds64', async () => {
    const plain = wavBytes([ramp(100)], 48000, 16)
    const long = new Uint8Array(plain.length + 36)
    long.set(plain.subarray(0, 12))
    long.set(new TextEncoder().encode('RF64'), 0)
    const view = new DataView(long.buffer)
    long.set(new TextEncoder().encode('ds64'), 12)
    view.setUint32(16, 28, true)
    view.setBigUint64(28, 200n, true)
    long.set(plain.subarray(12), 48)
    view.setUint32(36 + 40, 0xffffffff, true)
    const { header } = await allOf(long)
    expect(header).toMatchObject({ container: 'RF64', frames: 100, remarks: [] })
  })
  it('reads what is there of a file that was cut off, and says so', async () => {
    const { header } = await allOf(wavBytes([ramp(48000)], 48000, 16).slice(0, 44 + 48000))
    expect(header.frames).toBe(24000)
    expect(header.remarks[0]).toMatch(/promises 1\.0 s, 0\.5 s are there/)
  })
  it('reads a file whose header was never finished', async () => {
    const bytes = wavBytes([ramp(4800)], 48000, 16)
    new DataView(bytes.buffer).setUint32(40, 0, true)
    expect((await allOf(bytes)).header).toMatchObject({
      frames: 4800,
      remarks: [expect.stringMatching(/never finished/)],
    })
  })
})

describe('what is not WAV', () => {
  const refusal = (bytes: Uint8Array) =>
    readWavHeader(bytesSource(bytes), 'clip.wav').then(
      () => 'read',
      (error: Error) => error.message,
    )
  it('is refused in one sentence that says why and what to do', async () => {
    expect(await refusal(new Uint8Array())).toMatch(/empty.*again/)
    expect(await refusal(new Uint8Array(5))).toMatch(/only 5 bytes/)
    expect(await refusal(new TextEncoder().encode('ID3 and then some'))).toMatch(/it is an MP3 file. Convert/)
    expect(await refusal(new TextEncoder().encode('....ftypqt  ....'))).toMatch(/MOV or MP4/)
    expect(await refusal(new TextEncoder().encode('hello hello hello'))).toMatch(/is not a WAV/)
    expect(await refusal(wavBytes([ramp(10)], 48000).slice(0, 30))).toMatch(/cut off/)
    expect(await refusal(wavBytes([new Float32Array(0)], 48000))).toMatch(/no sound/)
    const compressed = wavBytes([ramp(10)], 48000)
    new DataView(compressed.buffer).setUint16(20, 0x55, true)
    expect(await refusal(compressed)).toMatch(/compressed/)
  })
  it('never breaks on damage: every damaged file is read or refused', async () => {
    const whole = wavBytes([ramp(64)], 48000, 16)
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255)), { maxLength: 6 }),
        fc.nat(whole.length),
        async (damage, length) => {
          const bytes = whole.slice(0, length)
          for (const [at, value] of damage) if (at < bytes.length) bytes[at] = value
          const said = await allOf(bytes).then(
            ({ header }) => header.frames > 0,
            (error: Error) => error.name === 'Refusal',
          )
          expect(said).toBe(true)
        },
      ),
      { numRuns: 500 },
    )
  })
})
