import { describe, expect, it } from 'vitest'
import { broadcastChunk, bytesSource, ixmlChunk, movBytes, openClip, wavBytes } from './index'

const rateHz = 48_000
const tone = Float32Array.from({ length: 4800 }, (_, index) => 0.5 * Math.sin(index / 7))
const streamOf = async (bytes: Uint8Array, name = 'clip') => (await openClip(bytesSource(bytes), name)).stream

const broadcast = broadcastChunk(
  {
    description: 'The tuning, take 2',
    writtenBy: 'foundry recorder',
    date: '2026-03-14',
    time: '14:03:12',
    startS: 50_592.25,
  },
  rateHz,
)
const ixml = ixmlChunk(
  '<SCENE>The tuning &amp; after</SCENE><TAKE>2</TAKE><NOTE><![CDATA[bell <3> again]]></NOTE><TRACK_LIST>' +
    '<TRACK><CHANNEL_INDEX>1</CHANNEL_INDEX><NAME>Boom</NAME></TRACK><TRACK><NAME>Lapel</NAME></TRACK></TRACK_LIST>',
)

describe('what a file says beside its sound', () => {
  it('is date, time code and texts that a recorder wrote', async () => {
    expect(await streamOf(wavBytes([tone, tone], rateHz, 24, 'integer', [broadcast, ixml]))).toEqual({
      byteOrder: 'little-endian',
      layout: 'stereo',
      startS: 50_592.25,
      timeCode: '14:03:12.250',
      recordedAt: '2026-03-14 14:03:12',
      channelNames: ['Boom', 'Lapel'],
      texts: [
        { label: 'description', text: 'The tuning, take 2' },
        { label: 'written by', text: 'foundry recorder' },
        { label: 'scene', text: 'The tuning & after' },
        { label: 'take', text: '2' },
        { label: 'note', text: 'bell <3> again' },
        { label: 'track 1', text: 'Boom' },
        { label: 'track 2', text: 'Lapel' },
      ],
    })
  })
  it('is the names of its channels in the order of the file, not of the inputs', async () => {
    const track = (name: string, index: string) =>
      `<TRACK><CHANNEL_INDEX>7</CHANNEL_INDEX><INTERLEAVE_INDEX>${index}</INTERLEAVE_INDEX><NAME>${name}</NAME></TRACK>`
    const namesOf = async (...tracks: string[]) =>
      (await streamOf(wavBytes([tone], rateHz, 24, 'integer', [ixmlChunk(tracks.join(''))]))).channelNames
    expect(await namesOf(track('Lapel', '3'), track('Boom', '1'))).toEqual(['Boom', '', 'Lapel'])
    expect(await namesOf(track('Boom', '-2'), track('Desk', 'x'), track('far', '99999'))).toEqual([
      'Boom',
      'Desk',
    ])
    expect(await namesOf(track('', '1'))).toBeUndefined()
  })
  it('is found behind the samples too', async () => {
    const plain = wavBytes([tone], rateHz)
    const bytes = new Uint8Array([...plain, ...broadcast])
    expect((await streamOf(bytes)).timeCode).toBe('14:03:12.250')
  })
  it('is passed over where it is damaged, and the sound is read', async () => {
    const cut = broadcast.slice()
    new DataView(cut.buffer).setUint32(4, 0x7fffffff, true)
    const clip = await openClip(bytesSource(new Uint8Array([...wavBytes([tone], rateHz), ...cut])), 'clip')
    expect(clip.frames).toBe(4800)
    const odd = ixmlChunk('<SCENE>never ends <TRACK><NAME>&#xFFFFFFF;&#0;<')
    expect((await streamOf(wavBytes([tone], rateHz, 24, 'integer', [odd]))).texts).toEqual([])
  })
  it('is read in UTF-8, and in Latin-1 where it is none', async () => {
    const texts = { writtenBy: '', date: '', time: '', startS: 0 }
    const described = async (chunk: Uint8Array) =>
      (await streamOf(wavBytes([tone], rateHz, 24, 'integer', [chunk]))).texts[0]!.text
    expect(await described(broadcastChunk({ ...texts, description: 'Glocke läutet ♪' }, rateHz))).toBe(
      'Glocke läutet ♪',
    )
    const old = broadcastChunk({ ...texts, description: 'Gl.cke' }, rateHz)
    old[10] = 0xf6
    expect(await described(old)).toBe('Glöcke')
  })
  it('is the order of bytes', async () => {
    expect((await streamOf(await movBytes([tone], rateHz, 'pcm-s16be'))).byteOrder).toBe('big-endian')
    expect((await streamOf(await movBytes([tone], rateHz, 'pcm-s24'))).byteOrder).toBe('little-endian')
  })
})

const ascii = (text: string) => [...new TextEncoder().encode(text)]
const u16 = (value: number) => [value >> 8, value & 255]
const u32 = (value: number) => [...u16(value >>> 16), ...u16(value & 0xffff)]
const atom = (type: string, ...body: readonly number[][]): number[] => {
  const inside = body.flat()
  return [...u32(inside.length + 8), ...ascii(type), ...inside]
}
const handler = (kind: string) => atom('hdlr', u32(0), u32(0), ascii(kind), u32(0))

/** Adds a track of time code, as a camera writes it, to a MOV; its only sample, a number of a frame, stands at the end. */
function withTimeCode(mov: Uint8Array, frame: number, flags: number, [scale, duration, number]: number[]) {
  const moovAt = String.fromCharCode(...mov).indexOf('moov') - 4
  const old = mov.slice(moovAt + 8, moovAt + new DataView(mov.buffer).getUint32(moovAt))
  const entry = atom('tmcd', [0, 0, 0, 0, 0, 0], u16(1), u32(0), u32(flags), u32(scale!), u32(duration!), [
    number!,
    0,
  ])
  const moovWith = (sampleAt: number) => {
    const offsets = atom('stco', u32(0), u32(1), u32(sampleAt))
    const table = atom('stbl', atom('stsd', u32(0), u32(1), entry), offsets)
    return atom('moov', [...old], atom('trak', atom('mdia', handler('tmcd'), atom('minf', table))))
  }
  const moov = moovWith(mov.length + moovWith(0).length)
  // the old description is passed over, the new one stands at the end
  mov.set(ascii('free'), moovAt + 4)
  return new Uint8Array([...mov, ...moov, ...u32(frame)])
}

describe('time code of a MOV', () => {
  it.each([
    [[25, 1, 25], 0, 25 * 50_592 + 5, '14:03:12:05', 50_592.2],
    [[30_000, 1001, 30], 1, 1_078_920, '10:00:00;00', 35_999.964],
    [[30_000, 1001, 30], 1, 1800, '00:01:00;02', 60.06],
    [[30_000, 1001, 30], 1, 17_982, '00:10:00;00', 599.999],
  ])('at %j, flags %i, frame %i is %s', async (rate, flags, frame, timeCode, startS) => {
    const mov = withTimeCode(await movBytes([tone], rateHz), frame, flags, rate)
    const stream = await streamOf(mov)
    expect(stream.timeCode).toBe(timeCode)
    expect(stream.startS).toBeCloseTo(startS, 2)
  })
})

describe('W64', () => {
  const guid = (start: string, rest: string) => [...ascii(start), ...Buffer.from(rest, 'hex')]
  const long = (value: number) => {
    const bytes = new Uint8Array(8)
    new DataView(bytes.buffer).setBigUint64(0, BigInt(value), true)
    return [...bytes]
  }
  it('is read like a WAV, with its long sizes', async () => {
    const plain = wavBytes([tone, tone], rateHz, 16)
    const [format, samples] = [plain.subarray(20, 36), plain.subarray(44)]
    const rest = 'f3acd3118cd100c04f8edb8a'
    const bytes = new Uint8Array([
      ...guid('riff', '2e91cf11a5d628db04c10000'),
      ...long(40 + 40 + 24 + samples.length),
      ...guid('wave', rest),
      ...guid('fmt ', rest),
      ...long(24 + 16),
      ...format,
      ...guid('data', rest),
      ...long(24 + samples.length),
      ...samples,
    ])
    const clip = await openClip(bytesSource(bytes), 'clip.w64')
    expect(clip).toMatchObject({ container: 'W64', bits: 16, channels: 2, frames: 4800 })
    for await (const [left] of clip.blocks()) expect(left![100]).toBeCloseTo(tone[100]!, 3)
  })
})
