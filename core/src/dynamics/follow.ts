import { settledAgcGainDb, settledLimiterGainDb } from './steady'

export interface Agc {
  target: number
  minimumGainDb: number
  maximumGainDb: number
  attackMs: number
  holdMs: number
  releaseMs: number
}

export interface Limiter {
  threshold: number
  ratio: number
  attackMs: number
  releaseMs: number
}

/** Length of the detector that turns samples into a level, ms: long against a voice, short against a syllable. */
const detectorMs = 12

const stepOf = (timeMs: number, rateHz: number): number => 1 - Math.exp(-1000 / (timeMs * rateHz))

/**
 * Automatic gain on samples: the level of the last moments asks for a gain as `settledAgcGainDb` has it, and the gain
 * follows it, downwards with the attack, upwards with the release once the hold is over. A sample of amplitude 1 is
 * the peak of a sine at 0 dB in the unit of the stage.
 */
export class AgcFollower {
  private readonly detector: number
  private readonly attack: number
  private readonly release: number
  private readonly holdFrames: number
  private readonly squares: Float64Array
  private held = 0
  /** Gain now, dB. */
  gainDb: number

  constructor(
    private readonly agc: Agc,
    rateHz: number,
    channels = 1,
    /** Gain to begin with, dB; left out: as silence leaves it. */
    startDb = agc.maximumGainDb,
  ) {
    this.squares = new Float64Array(channels)
    this.detector = stepOf(detectorMs, rateHz)
    this.attack = stepOf(agc.attackMs, rateHz)
    this.release = stepOf(agc.releaseMs, rateHz)
    this.holdFrames = (agc.holdMs * rateHz) / 1000
    this.gainDb = startDb
  }

  /** Takes in a sample of one channel. */
  hear(sample: number, channel = 0): void {
    this.squares[channel]! += this.detector * (sample * sample - this.squares[channel]!)
  }

  /** Gain for this sample, as a factor. */
  next(sample: number): number {
    this.hear(sample)
    return this.turn()
  }

  /** Gain once every channel was heard: the loudest of them decides. */
  turn(): number {
    let square = this.squares[0]!
    for (let channel = 1; channel < this.squares.length; channel++)
      if (this.squares[channel]! > square) square = this.squares[channel]!
    const levelDb = 10 * Math.log10(Math.max(1e-30, 2 * square))
    const wanted = settledAgcGainDb(this.agc, levelDb)
    if (wanted < this.gainDb) {
      this.gainDb += this.attack * (wanted - this.gainDb)
      this.held = 0
    } else if (this.held < this.holdFrames) this.held++
    else this.gainDb += this.release * (wanted - this.gainDb)
    return 10 ** (this.gainDb / 20)
  }
}

/** A limiter on samples: peaks ask for a gain as `settledLimiterGainDb` has it. */
export class LimiterFollower {
  private readonly attack: number
  private readonly release: number
  private peak = 0
  gainDb = 0

  constructor(
    private readonly limiter: Limiter,
    rateHz: number,
  ) {
    this.attack = stepOf(limiter.attackMs, rateHz)
    this.release = stepOf(limiter.releaseMs, rateHz)
  }

  next(sample: number): number {
    const size = Math.abs(sample)
    this.peak = size > this.peak ? size : this.peak * (1 - this.release)
    const wanted = settledLimiterGainDb(this.limiter, 20 * Math.log10(Math.max(1e-15, this.peak)))
    this.gainDb += (wanted < this.gainDb ? this.attack : this.release) * (wanted - this.gainDb)
    return 10 ** (this.gainDb / 20)
  }
}

/**
 * Gain of automatic gain, dB, some time after the voice stopped: it stays for the hold, then closes in on what the
 * noise alone asks for with the release. Levels RMS in the unit of the stage.
 */
export function agcGainInPauseDb(agc: Agc, voiceDb: number, noiseDb: number, afterS: number): number {
  return agcGainAfterDb(agc, settledAgcGainDb(agc, voiceDb), settledAgcGainDb(agc, noiseDb), afterS)
}

/** Gain some time after the voice stopped, between what it was and what is asked for now, dB. */
export function agcGainAfterDb(
  { attackMs, holdMs, releaseMs }: Pick<Agc, 'attackMs' | 'holdMs' | 'releaseMs'>,
  fromDb: number,
  toDb: number,
  afterS: number,
): number {
  // what is louder than the voice was takes the gain down at once, what is softer lets it up after the hold
  const movingMs = toDb < fromDb ? afterS * 1000 : Math.max(0, afterS * 1000 - holdMs)
  return toDb + (fromDb - toDb) * Math.exp(-movingMs / (toDb < fromDb ? attackMs : releaseMs))
}

/** How far a strike leaves the gain down for the next sentence, dB, some time after it; 0 when it asks for none. */
export function agcLossAfterStrikeDb(agc: Agc, voiceDb: number, strikeDb: number, afterS: number): number {
  const [voice, strike] = [settledAgcGainDb(agc, voiceDb), settledAgcGainDb(agc, strikeDb)]
  const recoveringS = Math.max(0, afterS - agc.holdMs / 1000)
  return Math.max(0, voice - strike) * Math.exp((-recoveringS * 1000) / agc.releaseMs)
}
