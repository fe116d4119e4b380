import {
  AudioSample,
  AudioSampleSource,
  BufferTarget,
  MovOutputFormat,
  Mp4OutputFormat,
  Output,
  type OutputFormat,
} from 'mediabunny'
import { describe, expect, it } from 'vitest'
import { measureClip } from '../measure'
import { bytesSource, openClip, wavBytes } from './index'

const rateHz = 48_000
const frames = 30_000
/** Two channels that nothing confuses: a tone, and a lower one turned over. */
const left = Float32Array.from({ length: frames }, (_, index) => 0.5 * Math.sin(index / 10))
const right = Float32Array.from({ length: frames }, (_, index) => -0.25 * Math.sin(index / 7))

type Codec = ConstructorParameters<typeof AudioSampleSource>[0]['codec']

/** A file as a camera writes it, with uncompressed sound. */
async function packed(format: OutputFormat, codec: Codec): Promise<Uint8Array> {
  const target = new BufferTarget()
  const output = new Output({ format, target })
  const sound = new AudioSampleSource({ codec })
  output.addAudioTrack(sound)
  await output.start()
  const data = new Float32Array(2 * frames)
  data.set(left)
  data.set(right, frames)
  await sound.add(
    new AudioSample({ data, format: 'f32-planar', numberOfChannels: 2, sampleRate: rateHz, timestamp: 0 }),
  )
  await output.finalize()
  return new Uint8Array(target.buffer!)
}

interface TrackOf {
  codec: Codec
  planes: Float32Array[]
  name?: string
}

/** A file with several sound tracks, as cameras with more than two channels write them. */
async function packedTracks(tracks: TrackOf[]): Promise<Uint8Array> {
  const target = new BufferTarget()
  const output = new Output({ format: new MovOutputFormat(), target })
  const sources = tracks.map(({ codec, name }) => {
    const sound = new AudioSampleSource({ codec })
    output.addAudioTrack(sound, { name })
    return sound
  })
  await output.start()
  for (const [index, { planes }] of tracks.entries()) {
    const data = Float32Array.from(planes.flatMap((plane) => [...plane]))
    const numberOfChannels = planes.length
    await sources[index]!.add(
      new AudioSample({ data, format: 'f32-planar', numberOfChannels, sampleRate: rateHz, timestamp: 0 }),
    )
  }
  await output.finalize()
  return new Uint8Array(target.buffer!)
}

/** Everything that a file holds, by channel. */
async function samplesIn(bytes: Uint8Array, name: string): Promise<number[][]> {
  const clip = await openClip(bytesSource(bytes), name)
  const all: number[][] = Array.from({ length: clip.channels }, () => [])
  for await (const block of clip.blocks()) block.forEach((samples, channel) => all[channel]!.push(...samples))
  return all
}
function expectTheSame(found: number[][], within: number): void {
  expect(found.map(({ length }) => length)).toEqual([frames, frames])
  for (const [channel, wanted] of [left, right].entries())
    for (let index = 0; index < frames; index += 7)
      expect(Math.abs(found[channel]![index]! - wanted[index]!)).toBeLessThan(within)
}

describe('MOV and MP4', () => {
  it.each([
    ['pcm-s16', 'PCM', 16, 1 / 30_000],
    ['pcm-s16be', 'PCM', 16, 1 / 30_000],
    ['pcm-s24', 'PCM', 24, 1 / 4e6],
    ['pcm-s24be', 'PCM', 24, 1 / 4e6],
    ['pcm-f32', 'PCM floating point', 32, 1e-9],
    ['pcm-f32be', 'PCM floating point', 32, 1e-9],
  ] as const)('are read with %s sound, to the sample', async (codec, spoken, bits, within) => {
    const bytes = await packed(new MovOutputFormat(), codec)
    const clip = await openClip(bytesSource(bytes), 'clip.mov')
    expect(clip).toMatchObject({ container: 'MOV', codec: spoken, bits, rateHz, channels: 2, remarks: [] })
    expect(Math.abs(clip.frames - frames)).toBeLessThanOrEqual(1)
    expectTheSame(await samplesIn(bytes, 'clip.mov'), within)
  })
  it('are read with a track for each channel, under the names of the tracks', async () => {
    const bytes = await packedTracks([
      { codec: 'pcm-s24', planes: [left], name: 'Boom' },
      { codec: 'pcm-s24', planes: [right], name: 'Lapel' },
    ])
    const clip = await openClip(bytesSource(bytes), 'two.mov')
    expect(clip).toMatchObject({ channels: 2, remarks: [] })
    expect(clip.stream).toMatchObject({ layout: 'two channels', channelNames: ['Boom', 'Lapel'] })
    expectTheSame(await samplesIn(bytes, 'two.mov'), 1 / 4e6)
    const [from, to] = [1000, 2200]
    const part: number[][] = [[], []]
    for await (const block of clip.blocks({ from, to }))
      block.forEach((samples, channel) => part[channel]!.push(...samples))
    expect(part.map(({ length }) => length)).toEqual([to - from, to - from])
    for (const [channel, wanted] of [left, right].entries())
      expect(Math.abs(part[channel]![7]! - wanted[from + 7]!)).toBeLessThan(1 / 4e6)
  })
  it('leave out a track of another kind, and say so', async () => {
    const bytes = await packedTracks([
      { codec: 'pcm-s24', planes: [left] },
      { codec: 'pcm-s24', planes: [right] },
      { codec: 'pcm-s16', planes: [left, right] },
    ])
    const clip = await openClip(bytesSource(bytes), 'mix.mov')
    expect(clip.channels).toBe(2)
    expect(clip.stream.channelNames).toBeUndefined()
    expect(clip.remarks).toEqual(['It has 3 sound tracks; the 2 that are alike were read side by side.'])
    const other = await openClip(
      bytesSource(
        await packedTracks([
          { codec: 'pcm-s24', planes: [left] },
          { codec: 'pcm-s24', planes: [right.subarray(0, frames / 2)] },
        ]),
      ),
      'short.mov',
    )
    expect(other.channels).toBe(1)
    expect(other.remarks).toEqual(['It has 2 sound tracks; the first was read.'])
  })
  it('measure as the same sound in a WAV does', async () => {
    const mov = await measureClip(bytesSource(await packed(new MovOutputFormat(), 'pcm-s24be')), 'a.mov')
    const mp4 = await measureClip(bytesSource(await packed(new Mp4OutputFormat(), 'pcm-s24')), 'a.mp4')
    const wav = await measureClip(bytesSource(wavBytes([left, right], rateHz)), 'a.wav')
    expect(mp4!.container).toBe('MP4')
    for (const packed_ of [mov!, mp4!])
      for (const [channel, { peakDbfs, rmsDbfs }] of packed_.channels.entries()) {
        expect(peakDbfs).toBeCloseTo(wav!.channels[channel]!.peakDbfs!, 2)
        expect(rmsDbfs).toBeCloseTo(wav!.channels[channel]!.rmsDbfs!, 2)
      }
  })
  it('say what is wrong with them in a sentence, wherever they are cut', async () => {
    const bytes = await packed(new MovOutputFormat(), 'pcm-s16')
    for (const share of [0.0002, 0.001, 0.3, 0.9, 0.999]) {
      const cut = bytes.subarray(0, Math.max(20, Math.floor(bytes.length * share)))
      const refused = await measureClip(bytesSource(cut), 'cut.mov').then(
        () => '',
        (error: Error) => error.message,
      )
      // what is cut behind its description can still be read
      if (refused) expect(refused).toMatch(/^cut\.mov was refused: .+\.$/)
    }
  })
  it('are refused in a sentence where they hold no sound, or something else', async () => {
    const empty = Uint8Array.from(
      Array.from('\0\0\0\x14ftypqt  \0\0\0\0qt  \0\0\0\x08free', (letter) => letter.charCodeAt(0)),
    )
    await expect(openClip(bytesSource(empty), 'empty.mov')).rejects.toThrow(/it is cut off or damaged/)
    const text = new TextEncoder().encode('a note about the sound, not the sound itself')
    await expect(openClip(bytesSource(text), 'note.mov')).rejects.toThrow(/is not a sound or video file/)
  })
})

/** An AIFF-C as its specification has it, written here by hand; without a type a plain AIFF. */
function aiff(
  type: string | undefined,
  bits: number,
  write: (view: DataView, at: number, value: number) => void,
) {
  const width = bits / 8
  const commSize = type ? 24 : 18
  const soundBytes = frames * 2 * width
  const bytes = new Uint8Array(12 + 8 + commSize + 8 + 8 + soundBytes)
  const view = new DataView(bytes.buffer)
  const letters = (at: number, text: string) =>
    Array.from(text).forEach((letter, index) => (bytes[at + index] = letter.charCodeAt(0)))
  letters(0, 'FORM')
  view.setUint32(4, bytes.length - 8)
  letters(8, type ? 'AIFC' : 'AIFF')
  letters(12, 'COMM')
  view.setUint32(16, commSize)
  view.setUint16(20, 2)
  view.setUint32(22, frames)
  view.setUint16(26, bits)
  // 48,000 in 80 bits: 1.46484375 times two to the fifteenth
  view.setUint16(28, 16383 + 15)
  view.setUint32(30, 0xbb800000)
  if (type) letters(38, type)
  const sound = 20 + commSize
  letters(sound, 'SSND')
  view.setUint32(sound + 4, 8 + soundBytes)
  for (let frame = 0; frame < frames; frame++)
    for (const [channel, samples] of [left, right].entries())
      write(view, sound + 16 + (frame * 2 + channel) * width, samples[frame]!)
  return bytes
}
const in24 = (view: DataView, at: number, value: number) => {
  const whole = Math.round(value * 8388607)
  view.setInt8(at, whole >> 16)
  view.setUint16(at + 1, whole & 0xffff)
}

describe('AIFF', () => {
  it.each([
    [
      'AIFF',
      undefined,
      16,
      (view: DataView, at: number, value: number) => view.setInt16(at, value * 32767),
      1 / 16_000,
    ],
    ['AIFF', undefined, 24, in24, 1 / 4e6],
    [
      'AIFF-C',
      'sowt',
      16,
      (view: DataView, at: number, value: number) => view.setInt16(at, value * 32767, true),
      1 / 16_000,
    ],
    ['AIFF-C', 'fl32', 32, (view: DataView, at: number, value: number) => view.setFloat32(at, value), 1e-9],
  ] as const)('is read as %s %s of %i bits', async (container, type, bits, write, within) => {
    const bytes = aiff(type, bits, write)
    expect(await openClip(bytesSource(bytes), 'a.aif')).toMatchObject({
      container,
      bits,
      rateHz,
      channels: 2,
      frames,
    })
    expectTheSame(await samplesIn(bytes, 'a.aif'), within)
  })
  it('is read as far as it goes, and what is compressed or damaged is refused in a sentence', async () => {
    const bytes = aiff(undefined, 16, (view, at, value) => view.setInt16(at, value * 32767))
    const cut = await openClip(bytesSource(bytes.subarray(0, bytes.length - 40_000)), 'cut.aif')
    expect(cut.frames).toBe(frames - 10_000)
    expect(cut.remarks[0]).toMatch(/is cut off: the header promises 0\.6 s, 0\.4 s are there/)
    const packedSound = aiff('ima4', 16, (view, at, value) => view.setInt16(at, value * 32767))
    await expect(openClip(bytesSource(packedSound), 'p.aif')).rejects.toThrow(
      /its sound is compressed \("ima4"\)/,
    )
    for (const length of [4, 11, 19, 30, 50])
      await expect(openClip(bytesSource(bytes.subarray(0, length)), 'short.aif')).rejects.toThrow(
        /^short\.aif was refused: .+\.$/,
      )
  })
})
