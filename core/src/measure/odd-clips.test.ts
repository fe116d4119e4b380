import { describe, expect, it } from 'vitest'
import { bytesSource, movBytes, openClip, wavBytes, wavHead } from '../media'
import { known, Measurement, Refusal } from '../model'
import { amplifierNoise, mixed, speech } from '../signals'
import { cases } from '../tests/form'
import { clipFindings } from './clip-findings'
import { measureClip } from './measure-clip'
import { samplesOfStretch } from './stretch'

const voice = speech({ lengthS: 3, rateHz: 48_000, seed: 2, levelDbfs: -24, pitchHz: 120 }).samples
async function measured(bytes: Uint8Array, name = 'clip.wav'): Promise<Measurement> {
  const found = known(await measureClip(bytesSource(bytes), name), 'a measurement')
  // whatever a clip holds, what is said of it can be stored
  return Measurement.parse(JSON.parse(JSON.stringify(found)))
}
const codes = (of: Measurement) => clipFindings(of).map(({ code }) => code)

describe('odd clips', () => {
  it('of 32 channels are measured, each channel by itself', async () => {
    const channels = Array.from({ length: 32 }, (_, index) =>
      voice.slice(0, 24_000).map((sample) => sample * (1 - index / 64)),
    )
    const found = await measured(wavBytes(channels, 48_000, 16))
    expect(found.channels).toHaveLength(32)
    expect(found.stream.layout).toBe('several channels')
  })
  it.each(cases([8000, 384_000], [8000]))('at %i Hz are measured like others', async (rateHz) => {
    const clip = mixed(
      speech({ lengthS: 2, rateHz, seed: 2, levelDbfs: -24, pitchHz: 120 }).samples,
      amplifierNoise({ lengthS: 2, rateHz, seed: 3, levelDbfs: -70 }),
    )
    const found = await measured(wavBytes([clip], rateHz))
    expect(codes(found)).toEqual([])
    expect(found.lengthS).toBeCloseTo(2, 3)
  })
  it('that are silent say so, and nothing else', async () => {
    expect(codes(await measured(wavBytes([new Float32Array(96_000)], 48_000)))).toEqual(['silence'])
  })
  it('that are at full scale all along are cut', async () => {
    const square = Float32Array.from({ length: 96_000 }, (_, index) => (Math.floor(index / 50) % 2 ? 1 : -1))
    const found = await measured(wavBytes([square], 48_000))
    expect(found.channels[0]!.clipped[0]!.shape).toBe('flat at full scale')
    expect(found.channels[0]!.peakDbfs).toBeCloseTo(0, 1)
  })
  it('with samples that are no numbers count those as nothing', async () => {
    const odd = voice.slice()
    for (const [at, value] of [
      [10_000, NaN],
      [20_000, Infinity],
      [30_000, -Infinity],
    ] as const)
      odd[at] = value
    const clean = await measured(wavBytes([voice], 48_000, 32, 'float'))
    const found = await measured(wavBytes([odd], 48_000, 32, 'float'))
    expect(found.channels[0]!.peakDbfs).toBe(clean.channels[0]!.peakDbfs)
    expect(
      Math.abs(
        known(found.channels[0]!.speechDbfsA ?? undefined, 'a level') - clean.channels[0]!.speechDbfsA!,
      ),
    ).toBeLessThan(0.2)
  })
  it('are known by their beginning, whatever they are called', async () => {
    expect((await measured(wavBytes([voice], 48_000), 'clip.mov')).container).toBe('WAV')
    expect((await measured(await movBytes([voice], 48_000), 'clip.wav')).container).toBe('MOV')
  })
  it('that are too short to measure anything are read', async () => {
    for (const frames of [1, 7, 480]) {
      const found = await measured(wavBytes([voice.slice(0, frames)], 48_000))
      expect(found.channels[0]!.speechDbfsA).toBeNull()
      expect(found.faults).toEqual([])
    }
  })
  it('that are cut off anywhere give what is there, or one sentence', async () => {
    const whole = [await movBytes([voice], 48_000), wavBytes([voice], 48_000)]
    for (const bytes of whole)
      for (let share = 0; share < 1; share += cases(0.13, 0.39)) {
        const answer = await measured(bytes.slice(0, Math.floor(bytes.length * share))).catch(
          (error: unknown) => error,
        )
        if (answer instanceof Error) {
          expect(answer).toBeInstanceOf(Refusal)
          expect(answer.message).toMatch(/^clip\.wav was refused: [^]+\. .+\.$/)
        } else expect((answer as Measurement).lengthS).toBeLessThanOrEqual(3.01)
      }
  })
  it('that vanish while they are read say so in the words of their source', async () => {
    const gone = new Refusal('clip cannot be read any more.')
    for (const bytes of [await movBytes([voice], 48_000), wavBytes([voice, voice, voice], 48_000)]) {
      let reads = 0
      const source = {
        size: bytes.length,
        read: (offset: number, length: number) =>
          ++reads > 3 ? Promise.reject(gone) : Promise.resolve(bytes.subarray(offset, offset + length)),
      }
      await expect(measureClip(source, 'clip')).rejects.toBe(gone)
    }
  })
  it('of six hours are opened and read at their end, without what lies before', async () => {
    const rateHz = 48_000
    const frames = 6 * 3600 * rateHz
    const [head, frameBytes] = [new Uint8Array(80), 6]
    const plain = wavHead({ channels: 2, rateHz, bits: 24, format: 'integer' }, 0)
    head.set(plain.subarray(0, 12))
    head.set(new TextEncoder().encode('RF64'))
    head.set(new TextEncoder().encode('ds64'), 12)
    const view = new DataView(head.buffer)
    view.setUint32(16, 28, true)
    view.setBigUint64(28, BigInt(frames * frameBytes), true)
    head.set(plain.subarray(12), 48)
    view.setUint32(76, 0xffffffff, true)
    // three gigabytes and more that nobody keeps
    let bytesRead = 0
    const source = {
      size: head.length + frames * frameBytes,
      read(offset: number, length: number) {
        bytesRead += length
        return Promise.resolve(
          Uint8Array.from({ length }, (_, index) => head[offset + index] ?? (offset + index) % 251),
        )
      },
    }
    expect(await openClip(source, 'long.wav')).toMatchObject({ container: 'RF64', frames, channels: 2 })
    const { channels } = await samplesOfStretch(source, 'long.wav', 21_599.5, 21_600)
    expect(channels[0]!.length).toBe(24_000)
    expect(bytesRead).toBeLessThan(1_000_000)
  })
  it('of noise alone have nothing wrong with them but that nobody speaks', async () => {
    const noise = amplifierNoise({ lengthS: 4, rateHz: 48_000, seed: 4, levelDbfs: -35 })
    expect(codes(await measured(wavBytes([noise], 48_000)))).toEqual([])
  })
})
