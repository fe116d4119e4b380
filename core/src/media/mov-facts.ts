import type { StreamFacts } from '../model'
import type { ByteSource } from './byte-source'
import { letters, viewOf } from './riff-chunks'

/** The description of a MOV or MP4 is small, even of a long one. */
const longestMoov = 64 << 20

interface Atom {
  type: string
  body: Uint8Array
}

/** Consecutive atoms in some bytes (QuickTime File Format, ISO/IEC 14496-12). */
function atomsIn(bytes: Uint8Array, from = 0): Atom[] {
  const found: Atom[] = []
  for (let at = from; at + 8 <= bytes.length;) {
    const size = viewOf(bytes).getUint32(at)
    if (size < 8) break
    found.push({ type: letters(bytes, at + 4), body: bytes.subarray(at + 8, at + size) })
    at += size
  }
  return found
}
/** The atom at the end of a path. */
function inside(bytes: Uint8Array, ...path: string[]): Uint8Array | undefined {
  let here: Uint8Array | undefined = bytes
  for (const type of path) here = here && atomsIn(here).find((atom) => atom.type === type)?.body
  return here
}

async function moovOf(source: ByteSource): Promise<Uint8Array | undefined> {
  for (let at = 0, count = 0; count < 200; count++) {
    const head = await source.read(at, 16)
    if (head.length < 8) return undefined
    const short = viewOf(head).getUint32(0)
    if (short === 1 && head.length < 16) return undefined
    const size = short === 1 ? Number(viewOf(head).getBigUint64(8)) : short
    const headBytes = short === 1 ? 16 : 8
    if (letters(head, 4) === 'moov')
      return source.read(at + headBytes, Math.min(longestMoov, (size || source.size - at) - headBytes))
    if (size < headBytes) return undefined
    at += size
  }
  return undefined
}

/** Facts of a MOV or MP4 besides its sound: time code of its first frame, and whether its channels are a stereo pair. */
export async function movFacts(
  source: ByteSource,
): Promise<Pick<StreamFacts, 'layout' | 'startS' | 'timeCode'>> {
  const moov = await moovOf(source)
  if (!moov) return {}
  const media = atomsIn(moov).flatMap(({ type, body }) => {
    const mdia = type === 'trak' ? inside(body, 'mdia') : undefined
    return mdia ? [mdia] : []
  })
  const kindOf = (mdia: Uint8Array): string => {
    const handler = inside(mdia, 'hdlr')
    return handler && handler.length >= 12 ? letters(handler, 8) : ''
  }
  const tableOf = (kind: string): Uint8Array | undefined => {
    const mdia = media.find((each) => kindOf(each) === kind)
    return mdia && inside(mdia, 'minf', 'stbl')
  }
  const [sound, timeCode] = [tableOf('soun'), tableOf('tmcd')]
  const layout = sound && layoutIn(sound)
  return { ...(layout && { layout }), ...(timeCode && (await timeCodeIn(source, timeCode))) }
}

/** Tags of channel layouts (Core Audio); the lower half is the number of channels. */
const layoutTags = {
  fromDescriptions: 0,
  byBits: 1 << 16,
  mono: 100,
  stereo: 101,
  binaural: 106,
  discrete: 147,
}

function layoutIn(table: Uint8Array): StreamFacts['layout'] {
  const [entry] = atomsIn(inside(table, 'stsd') ?? new Uint8Array(), 8)
  if (!entry || entry.body.length < 28) return undefined
  const version = viewOf(entry.body).getUint16(8)
  const channels =
    version === 2 && entry.body.length >= 64
      ? viewOf(entry.body).getUint32(40)
      : viewOf(entry.body).getUint16(16)
  if (channels === 1) return 'mono'
  if (channels > 2) return 'several channels'
  const extensions = { 0: 28, 1: 44, 2: 64 }[version] ?? entry.body.length
  const chan = atomsIn(entry.body, extensions).find(({ type }) => type === 'chan')?.body
  if (!chan || chan.length < 8) return undefined
  const tag = viewOf(chan).getUint32(4)
  if (tag >>> 16 === layoutTags.stereo || tag >>> 16 === layoutTags.binaural) return 'stereo'
  if (tag >>> 16 === layoutTags.discrete) return 'two channels'
  if (tag === layoutTags.byBits && chan.length >= 12)
    return viewOf(chan).getUint32(8) === 3 ? 'stereo' : 'two channels'
  if (tag === layoutTags.fromDescriptions && chan.length >= 12 + 2 * 20) {
    // left is 1, right is 2 in such a description
    const labels = [0, 1].map((index) => viewOf(chan).getUint32(12 + 20 * index))
    return labels[0] === 1 && labels[1] === 2 ? 'stereo' : 'two channels'
  }
  return undefined
}

const two = (value: number): string => String(value).padStart(2, '0')

async function timeCodeIn(
  source: ByteSource,
  table: Uint8Array,
): Promise<Pick<StreamFacts, 'startS' | 'timeCode'>> {
  const [entry] = atomsIn(inside(table, 'stsd') ?? new Uint8Array(), 8)
  const [short, long] = [inside(table, 'stco'), inside(table, 'co64')]
  if (entry?.type !== 'tmcd' || entry.body.length < 25) return {}
  const fields = viewOf(entry.body)
  const [flags, scale, duration, framesASecond] = [
    fields.getUint32(12),
    fields.getUint32(16),
    fields.getUint32(20),
    fields.getUint8(24),
  ]
  const offset =
    short && short.length >= 12
      ? viewOf(short).getUint32(8)
      : long && long.length >= 16
        ? Number(viewOf(long).getBigUint64(8))
        : undefined
  if (offset === undefined || !scale || !duration || !framesASecond) return {}
  const sample = await source.read(offset, 4)
  if (sample.length < 4) return {}
  const count = viewOf(sample).getUint32(0)
  const startS = (count * duration) / scale
  if (startS > 172_800) return {}
  const isDrop = (flags & 1) === 1
  const frames = isDrop ? count + dropped(count, framesASecond) : count
  const [whole, rest] = [Math.floor(frames / framesASecond), frames % framesASecond]
  const clockTime = `${two(Math.floor(whole / 3600))}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}`
  return { startS, timeCode: `${clockTime}${isDrop ? ';' : ':'}${two(rest)}` }
}

/** Numbers that drop-frame time code leaves out: two (at 60 frames four) in every minute but each tenth (SMPTE ST 12-1). */
function dropped(count: number, framesASecond: number): number {
  const each = framesASecond / 15
  const [inMinute, inTen] = [60 * framesASecond - each, 600 * framesASecond - 9 * each]
  const [tens, rest] = [Math.floor(count / inTen), count % inTen]
  return 9 * each * tens + (rest > each ? each * Math.floor((rest - each) / inMinute) : 0)
}
