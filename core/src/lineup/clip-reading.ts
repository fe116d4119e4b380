import type { ByteSource } from '../media'
import { measureClip, samplesOfStretch, toneShape } from '../measure'
import { type ClipReading, cutToName, Refusal } from '../model'
import { toneHz } from '../signals'
import { automaticGainIn } from './automatic-gain'
import type { LineUpStep } from './step'

/** Longest stretch searched for bursts, s: line-up clips are short. */
const mostS = 40
/** The stretch whose shape is looked at: after what is faded in and switched on. */
const shapeS = { from: 1, to: 1.4 }

/**
 * Reads a clip that was recorded for a step.
 *
 * @param channel the channel of the clip, from 0; the last one if there are fewer
 * @throws Refusal for a file without sound
 */
export async function clipReadingOf(
  source: ByteSource,
  name: string,
  channel: number,
  { expect }: Pick<LineUpStep, 'expect'>,
): Promise<ClipReading> {
  const measured = await measureClip(source, name)
  if (!measured || measured.channels.length === 0 || measured.lengthS === 0)
    throw new Refusal(`${name} was refused: there is no sound in it. Record the step once more.`)
  const at = Math.min(channel, measured.channels.length - 1)
  const found = measured.channels[at]!
  const { tone, clipped } = found
  const atFullScale = clipped.some(({ shape }) => shape === 'flat at full scale')
  const shape = tone ? await shapeOfTone(source, name, at, tone.hz, measured.lengthS) : undefined
  const ceilingOf = clipped.find(({ shape: each }) => each !== 'flat at full scale')?.shape
  return {
    kind: 'clip',
    clip: cutToName(name),
    channel: at,
    toneDbfs: finite(tone?.levelDbfs),
    toneHz: tone && Math.abs(tone.hz / toneHz - 1) < 0.2 ? tone.hz : (tone?.hz ?? null),
    distortionDb: finite(tone?.distortionDb),
    peakDbfs: finite(found.peakDbfs),
    speechDbfsA: finite(found.speechDbfsA),
    // of a clip in which nobody speaks the whole of it is noise
    noiseDbfsA: finite(found.noiseDbfsA ?? found.speechDbfsA),
    ceilingDbfs: finite(shape?.ceilingDbfs ?? (tone ? null : found.ceilingDbfs)),
    ceilingShape:
      shape?.shape ??
      (ceilingOf === 'bent' || ceilingOf === 'sagging' ? ceilingOf : ceilingOf ? 'flat' : null),
    atFullScale,
    automatic: expect.kind === 'automatic' ? await burstsIn(source, name, at) : null,
  }
}

const finite = (value: number | null | undefined): number | null =>
  value === null || value === undefined || !Number.isFinite(value)
    ? null
    : Math.max(-200, Math.min(60, value))

async function shapeOfTone(source: ByteSource, name: string, channel: number, hz: number, lengthS: number) {
  const from = Math.min(shapeS.from, lengthS / 3)
  const stretch = await samplesOfStretch(
    source,
    name,
    from,
    Math.min(lengthS, from + shapeS.to - shapeS.from),
  )
  const samples = stretch.channels[channel]
  return samples && toneShape(samples, hz, stretch.rateHz)
}

async function burstsIn(source: ByteSource, name: string, channel: number) {
  const { channels, rateHz } = await samplesOfStretch(source, name, 0, mostS)
  const found = channels[channel] && automaticGainIn(channels[channel], rateHz)
  if (!found) return null
  const rounded = (ms: number | null) => (ms === null ? null : Math.round(ms))
  return {
    targetDbfs: finite(found.targetDbfs),
    gainFallsDb: Math.min(120, found.gainFallsDb),
    attackMs: rounded(found.attackMs),
    holdMs: rounded(found.holdMs),
    releaseMs: rounded(found.releaseMs),
  }
}
