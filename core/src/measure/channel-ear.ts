import type { ChannelMeasurement, ClipFault } from '../model'
import { powerDb } from '../units'
import { ChannelFaults } from './channel-faults'
import { ChannelMeter } from './channel-meter'
import type { Excerpt } from './excerpts'
import { usualSpeechDbfs } from './level-histogram'
import { LoudnessPowers } from './loudness'
import { thirdsOf } from './spectrum'
import { toneIn } from './tone'

/** Which channel of a clip it is, from 0, and how the clip is written. */
export interface EarSettings {
  channel: number
  rateHz: number
  bits: number
  /** Length that the file promises. */
  frames: number
}

/** Intermediate results while a clip is read: its highest peak, and how many crests are cut at full scale. */
export interface SoFar {
  peakDbfs: number
  cut: number
}

/** The loudest and the quietest stretches of a clip, of one channel. */
export interface EarExcerpts {
  loudest: Excerpt[]
  quietest: Excerpt[]
}

/** All that one channel says, but for how it relates to others. */
export interface EarReport {
  measured: ChannelMeasurement
  faults: ClipFault[]
  /** Weighted powers for the loudness of the whole. */
  powers: Float32Array
}

/** Whoever listens to one channel, here or in another thread. */
export interface Ear {
  /**
   * The samples are the ear's from now on. Resolves when it can take more.
   *
   * @param highs of the samples
   */
  push: (samples: Float32Array, highs: Float32Array) => void | Promise<void>
  soFar: () => SoFar
  finish: (excerpts: EarExcerpts) => EarReport | Promise<EarReport>
}

/** Measures one channel in one pass, and looks for faults. */
export class ChannelEar implements Ear {
  private readonly meter: ChannelMeter
  private readonly faults: ChannelFaults
  private readonly powers: LoudnessPowers
  private frames = 0

  constructor(private readonly settings: EarSettings) {
    const { rateHz, bits, frames } = settings
    this.meter = new ChannelMeter(rateHz, bits, frames)
    this.faults = new ChannelFaults(rateHz)
    this.powers = new LoudnessPowers(rateHz)
  }

  push(samples: Float32Array, highs: Float32Array): void {
    this.meter.push(samples, highs)
    this.faults.push(samples, highs)
    this.powers.push(samples)
    this.frames += samples.length
  }

  soFar(): SoFar {
    return this.meter.soFar()
  }

  finish({ loudest, quietest }: EarExcerpts): EarReport {
    const { channel, rateHz } = this.settings
    const measured = this.meter.finish()
    const tone = toneIn(loudest, 0, rateHz) ?? null
    const pressed = measured.clipped.length || tone ? undefined : this.faults.pressed(loudest, 0)
    const clipped = pressed?.clipped ?? measured.clipped
    // a test tone is no fault, and hides any other
    const faults = tone
      ? []
      : this.faults.finish(channel, {
          speechDbfs: measured.speechDbfsA ?? usualSpeechDbfs,
          lengthS: this.frames / rateHz,
          clipped,
          ...this.meter.levels(),
        })
    return {
      measured: {
        ...measured,
        tone,
        noiseBands: noiseBandsOf(quietest, rateHz),
        ...(pressed && {
          clipped: pressed.clipped,
          clippedMore: pressed.more,
          ceilingDbfs: pressed.ceilingDbfs,
        }),
      },
      faults,
      powers: this.powers.finish(),
    }
  }
}

/** Spectrum of the pauses, in thirds of an octave. */
function noiseBandsOf(quietest: readonly Excerpt[], rateHz: number): ChannelMeasurement['noiseBands'] {
  const each = quietest.map(({ channels }) => thirdsOf(channels[0]!, rateHz))
  return (each[0] ?? []).map(({ hz }, band) => {
    const db = powerDb(
      each.reduce((sum, bands) => sum + 10 ** (bands[band]!.levelDbfs / 10), 0) / each.length,
    )
    return { hz: Math.round(hz), levelDbfs: Number.isFinite(db) ? Math.round(db * 10) / 10 : null }
  })
}
