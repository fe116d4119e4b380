import {
  ALL_FORMATS,
  AudioSampleSink,
  CustomSource,
  Input,
  type InputAudioTrack,
  type MetadataTags,
} from 'mediabunny'
import { cutToName, floatingPcm, Refusal, type StreamFacts } from '../model'
import type { ByteSource } from './byte-source'
import type { Clip, FrameRange } from './clip'
import './flac-decoder'
import { movFacts } from './mov-facts'
import { letters } from './riff-chunks'
import { type Blocks, sideBySide } from './side-by-side'

/** Longest text that is kept, characters. */
const longestText = 1000
/** Word lengths of sound that is not compressed, by the names of the library. */
const pcm = /^pcm-([suf])(\d+)(be)?$/
const spoken: Record<string, string> = {
  aac: 'AAC',
  mp3: 'MP3',
  opus: 'Opus',
  vorbis: 'Vorbis',
  flac: 'FLAC',
  alaw: 'A-law',
  ulaw: 'µ-law',
  ac3: 'AC-3',
  eac3: 'E-AC-3',
}

/**
 * Opens the sound of a MOV, MP4, FLAC or other container: its first track and those that are of its kind, as channels.
 * What is compressed is decoded where this machine can; a browser mostly can, a terminal cannot. Throws a Refusal for
 * what cannot be read.
 */
export async function openContainer(source: ByteSource, name: string): Promise<Clip> {
  const refuse = (why: string) => new Refusal(`${name} was refused: ${why}`)
  const damaged = () =>
    refuse(
      'it is cut off or damaged: its description of what it holds is missing. Copy it from the card again; a camera that lost power can often repair such a clip itself.',
    )
  const { input, check } = watched(source)
  // a source that cannot be read any more says so itself
  const asDamaged = (): never => {
    check()
    throw damaged()
  }
  const container = await input.getFormat().then(
    ({ name: full }) => full,
    () => undefined,
  )
  check()
  if (!container)
    throw refuse(
      'it is not a sound or video file that can be read here. Drop a WAV, AIFF, FLAC, MOV or MP4 from the recorder or camera.',
    )
  const tracks = await input.getAudioTracks().catch(asDamaged)
  check()
  if (tracks.length === 0 && (await input.getTracks()).length === 0) throw damaged()
  const [track] = tracks
  if (!track) throw refuse('it has no sound in it. Was the camera set to record it?')
  const codec = track.codec
  if (!codec || !(await track.canDecode()))
    throw refuse(
      `its sound is ${codec ? (spoken[codec] ?? codec) : 'of a kind'} that cannot be decoded here. Open it on Proof in a browser, or export it with uncompressed sound.`,
    )
  const [, kind, bits, order] = pcm.exec(codec) ?? []
  const lengthS = await track.computeDuration().catch(asDamaged)
  const { sampleRate: rateHz } = track
  const alike = await alikeTracks(tracks).catch(asDamaged)
  const channels = alike.reduce((sum, { numberOfChannels }) => sum + numberOfChannels, 0)
  return {
    container: shortName(container),
    codec: kind === 'f' ? floatingPcm : kind ? 'PCM' : (spoken[codec] ?? codec),
    bits: kind ? Number(bits) : codec === 'flac' ? await flacBits(source) : 0,
    stream: {
      ...(await streamOf(source, input, channels, kind && bits !== '8' ? (order ?? 'le') : undefined)),
      ...(alike.length > 1 && { layout: channels > 2 ? 'several channels' : 'two channels' }),
      ...namesOf(alike),
    },
    rateHz,
    channels,
    frames: Math.max(1, Math.round(lengthS * rateHz)),
    remarks: alike.length < tracks.length ? [unreadWords(tracks.length, alike.length)] : [],
    blocks: (stretch) => {
      const each = alike.map((one) => blocksOf(one, { asDamaged, check }, stretch))
      return each.length > 1 ? sideBySide(each) : each[0]!
    },
  }
}

/** Tracks whose starts or ends differ by less begin, or end, together, s. */
const togetherS = 0.1

/**
 * The first track, and those of its kind that run beside it: some cameras write a track for each channel. Others, as a
 * mix in another codec, say the same once more.
 */
async function alikeTracks([first, ...others]: readonly InputAudioTrack[]): Promise<InputAudioTrack[]> {
  const alike = [first!]
  const [startS, endS] = [await first!.getFirstTimestamp(), await first!.computeDuration()]
  for (const other of others)
    if (
      other.codec === first!.codec &&
      other.sampleRate === first!.sampleRate &&
      other.numberOfChannels === first!.numberOfChannels &&
      Math.round(((await other.getFirstTimestamp()) - startS) * first!.sampleRate) === 0 &&
      Math.abs((await other.computeDuration()) - endS) < togetherS
    )
      alike.push(other)
  return alike
}

const unreadWords = (all: number, read: number): string =>
  `It has ${all} sound tracks; ${read === 1 ? 'the first was read' : `the ${read} that are alike were read side by side`}.`

/** Names that a camera or a person gave each track, or each channel where a track has one. */
function namesOf(tracks: readonly InputAudioTrack[]): Pick<StreamFacts, 'channelNames'> {
  const names = tracks.map(({ name }) => (name ? cutToName(name, longestTrackName) : ''))
  return names.some(Boolean) && tracks.every(({ numberOfChannels }) => numberOfChannels === 1)
    ? { channelNames: names.slice(0, mostNames) }
    : {}
}
const longestTrackName = 40
const mostNames = 64

/** The word length of a FLAC file is in its first block (RFC 9639, 8.2); 0 where it is packed in something else. */
async function flacBits(source: ByteSource): Promise<number> {
  const bytes = await source.read(0, 42)
  if (bytes.length < 42 || letters(bytes, 0) !== 'fLaC') return 0
  return (((bytes[20]! & 1) << 4) | (bytes[21]! >> 4)) + 1
}

async function streamOf(
  source: ByteSource,
  input: Input,
  channels: number,
  order: string | undefined,
): Promise<StreamFacts> {
  const tags = await input.getMetadataTags().catch(() => ({}) as MetadataTags)
  const texts = [
    ['title', tags.title],
    ['description', tags.description],
    ['comment', tags.comment],
    ['written by', tags.artist],
  ].flatMap(([label, said]) => (said ? [{ label: label!, text: cutToName(said, longestText) }] : []))
  return {
    ...(order && { byteOrder: order === 'be' ? ('big-endian' as const) : ('little-endian' as const) }),
    ...(channels === 1 && { layout: 'mono' as const }),
    ...(channels > 2 && { layout: 'several channels' as const }),
    ...(tags.date && Number.isFinite(tags.date.getTime()) && { recordedAt: tags.date.toISOString() }),
    ...(await movFacts(source).catch(() => ({}))),
    texts,
  }
}

/** As people call it. */
const shortName = (full: string): string =>
  ({ 'QuickTime File Format': 'MOV', 'ISO Base Media File Format': 'MP4' })[full] ?? full.slice(0, 40)

async function* blocksOf(
  track: InputAudioTrack,
  { asDamaged, check }: { asDamaged: () => never; check: () => void },
  stretch?: FrameRange,
): Blocks {
  const { sampleRate } = track
  const sink = new AudioSampleSink(track)
  const samples = stretch ? sink.samples(stretch.from / sampleRate, stretch.to / sampleRate) : sink.samples()
  try {
    for (;;) {
      const { value, done } = await samples.next().catch(asDamaged)
      check()
      if (done || !value) return
      // decoded packets extend beyond both ends of a stretch
      const first = Math.round(value.timestamp * sampleRate)
      const from = stretch ? Math.max(0, Math.floor(stretch.from) - first) : 0
      const to = stretch
        ? Math.min(value.numberOfFrames, Math.ceil(stretch.to) - first)
        : value.numberOfFrames
      const block = Array.from({ length: value.numberOfChannels }, (_, planeIndex) => {
        const plane = new Float32Array(value.numberOfFrames)
        value.copyTo(plane, { planeIndex, format: 'f32-planar' })
        return plane.subarray(from, Math.max(from, to))
      })
      value.close()
      yield block
    }
  } finally {
    // packets decoded ahead are released when the reader stops
    await samples.return()
  }
}

/**
 * A file as the library reads it. It reads ahead, and what fails then nobody waits for: so a failure is kept, zeros stand
 * in for what is missing, and the next caller gets the error.
 */
function watched(source: ByteSource): { input: Input; check: () => void } {
  let failed: { error: unknown } | undefined
  const input = new Input({
    formats: ALL_FORMATS,
    source: new CustomSource({
      getSize: () => source.size,
      async read(start, end) {
        try {
          return await source.read(start, end - start)
        } catch (error) {
          failed ??= { error }
          return new Uint8Array(end - start)
        }
      },
      prefetchProfile: 'fileSystem',
    }),
  })
  return {
    input,
    check() {
      if (failed) throw failed.error
    },
  }
}
