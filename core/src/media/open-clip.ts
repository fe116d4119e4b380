import { floatingPcm, Refusal, type StreamFacts } from '../model'
import { readAiffHeader } from './aiff-header'
import type { ByteSource } from './byte-source'
import type { Clip, FrameRange } from './clip'
import { type PcmLayout, samplesOf } from './samples'
import { readWavHeader } from './wav-header'

/**
 * Opens a file by what it begins like, not by its name: WAV, RF64, BW64 and W64, AIFF and AIFF-C by readers of our own; MOV, MP4,
 * FLAC and what else holds sound through its container. Throws a Refusal for what cannot be read.
 */
export async function openClip(source: ByteSource, name: string): Promise<Clip> {
  if (source.size === 0) throw new Refusal(`${name} was refused: it is empty. Copy it from the card again.`)
  const start = String.fromCharCode(...(await source.read(0, 4)))
  if (start === 'FORM') return pcmClip(source, await readAiffHeader(source, name))
  if (/^(RIFF|RF64|BW64|riff)$/.test(start) || source.size < shortestContainer)
    return pcmClip(source, await readWavHeader(source, name))
  // its readers are large, and most never need them
  const { openContainer } = await import('./container')
  return openContainer(source, name)
}

/** Shortest file that can be a container, bytes. */
const shortestContainer = 16

const pcmClip = (
  source: ByteSource,
  header: PcmLayout & { container: string; stream: StreamFacts; remarks: string[] },
): Clip => ({
  ...header,
  codec: header.format === 'float' ? floatingPcm : 'PCM',
  blocks: (stretch) => samplesOf(source, stretch ? partOf(header, stretch) : header),
})

/** The same file as if it held only a stretch of its frames. */
function partOf<Layout extends PcmLayout>(layout: Layout, { from, to }: FrameRange): Layout {
  const first = Math.min(layout.frames, Math.max(0, Math.floor(from)))
  const dataOffset = layout.dataOffset + (first * layout.channels * layout.bits) / 8
  return { ...layout, dataOffset, frames: Math.max(0, Math.min(layout.frames, Math.ceil(to)) - first) }
}
