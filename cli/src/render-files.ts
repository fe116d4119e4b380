import { mkdir, open, rename, rm } from 'node:fs/promises'
import path from 'node:path'
import { renderedName } from '@iron-hush/core/advice'
import { type PositionOf, type End, graphOf, asSet } from '@iron-hush/core/chain'
import { wavFrames, wavHead, type WavLayout } from '@iron-hush/core/media'
import { type Patch, Refusal, type Shelf, known, trackKey } from '@iron-hush/core/model'
import { dropoutsOf } from '@iron-hush/core/radio'
import { render, voiceOf } from '@iron-hush/core/render'

export interface RenderOptions {
  seconds: number
  out: string
  seed: number
  rateHz: number
  /** Distance between the radios, m, with a body between; left out, they never drop out. */
  radioM?: number
  /** Asked between blocks. */
  cancelled?: () => boolean
  /** Told the share that is done, 0 to 1. */
  progress?: (share: number) => void
}

/**
 * Writes what every recording of a patch would contain, one WAV each, block by block. A file has its name only once it
 * is whole: what is cancelled or fails leaves none behind.
 */
export async function renderFiles(patch: Patch, shelf: Shelf, options: RenderOptions): Promise<string[]> {
  const { seconds, out, seed, rateHz, radioM, cancelled = () => false, progress } = options
  const graph = graphOf(patch, shelf)
  const at: PositionOf = asSet(graph)
  const frames = Math.round(seconds * rateHz)
  const ends = graph.ends.filter(({ stage }) => stage.kind === 'recording')
  if (ends.length === 0) throw new Refusal('This patch records nothing: there is nothing to render.')
  await mkdir(out, { recursive: true }).catch(() => {
    throw new Refusal(`${out} was refused: it cannot be made a folder.`)
  })
  const files = await Promise.all(
    ends.map(async (end) => {
      const name = path.join(out, `${nameOf(end)}.wav`)
      const floating = end.stage.kind === 'recording' && end.stage.floating
      const layout: WavLayout = {
        channels: 1,
        rateHz,
        bits: floating ? 32 : end.stage.kind === 'recording' && end.stage.bits === 16 ? 16 : 24,
        format: floating ? 'float' : 'integer',
      }
      const handle = await open(`${name}.part`, 'w')
      await handle.write(wavHead(layout, frames))
      return { end, name, layout, handle }
    }),
  )
  let whole = false
  try {
    const running = render(graph, at, {
      rateHz,
      frames,
      seed,
      voice: (source) => voiceOf(source, rateHz, seed),
      noise: true,
      ambience: true,
      dropouts: radioM === undefined ? undefined : dropoutsOf(patch, shelf, radioM),
    })
    for (const { fromFrame, tracks } of running) {
      if (cancelled()) break
      progress?.(fromFrame / frames)
      for (const { end, layout, handle } of files)
        await handle.write(wavFrames([known(tracks.get(end), 'the samples of a track')], layout))
    }
    whole = !cancelled()
  } finally {
    for (const { name, layout, handle } of files) {
      if (whole && ((frames * layout.bits) / 8) % 2) await handle.write(new Uint8Array(1))
      await handle.close()
      await (whole ? rename(`${name}.part`, name) : rm(`${name}.part`, { force: true }))
    }
  }
  return whole ? files.map(({ name }) => name) : []
}

const nameOf = ({ box, stage }: End): string =>
  renderedName(trackKey({ box, track: stage.kind === 'recording' ? stage.track : stage.name }))
