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

/**
 * How long automatic gain listens before it trusts a level, ms: over several syllables, so that it settles on the level
 * of a voice and not on its loudest syllables.
 */
const listeningMs = 660
/** A level this far above the long-term one is acted on at once, dB: a shout, a strike. Detected as fast as pitch allows. */
const suddenDb = 9
const suddenMs = 12
/** The long-term level is recomputed once every so many frames. */
const framesAStep = 48

/** Mean square of one channel over the listening time, and of the last moment. */
class Loudness {
  private readonly steps: Float64Array
  private readonly sudden: number
  private at = 0
  private frames = 0
  private stepSquare = 0
  private sum: number
  private mean: number
  private moment: number

  /** @param square mean square that was heard before */
  constructor(rateHz: number, square: number) {
    this.steps = new Float64Array(Math.round((listeningMs * rateHz) / 1000 / framesAStep)).fill(
      square * framesAStep,
    )
    this.sum = square * framesAStep * this.steps.length
    this.mean = square
    this.moment = square
    this.sudden = stepOf(suddenMs, rateHz)
  }

  hear(sample: number): void {
    const square = sample * sample
    this.moment += this.sudden * (square - this.moment)
    this.stepSquare += square
    if (++this.frames < framesAStep) return
    this.sum += this.stepSquare - this.steps[this.at]!
    this.steps[this.at] = this.stepSquare
    this.at = (this.at + 1) % this.steps.length
    this.mean = Math.max(0, this.sum) / (this.steps.length * framesAStep)
    this.frames = 0
    this.stepSquare = 0
  }

  /** Mean square that counts now. */
  get square(): number {
    return Math.max(this.mean, this.moment * suddenShare)
  }
}
const suddenShare = 10 ** (-suddenDb / 10)

const stepOf = (timeMs: number, rateHz: number): number => 1 - Math.exp(-1000 / (timeMs * rateHz))

/**
 * Automatic gain on samples: the level of the last moments asks for a gain as `settledAgcGainDb` has it, and the gain
 * follows it, downwards with the attack, upwards with the release once the hold is over. A sample of amplitude 1 is
 * the peak of a sine at 0 dB in the unit of the stage.
 */
export class AgcFollower {
  private readonly attack: number
  private readonly release: number
  private readonly holdFrames: number
  private readonly channels: Loudness[]
  private held = 0
  /** Gain now, dB. */
  gainDb: number

  constructor(
    private readonly agc: Agc,
    rateHz: number,
    channels = 1,
    /** Initial gain, dB, as if the level before had asked for it; left out: as after silence. */
    startDb = agc.maximumGainDb,
  ) {
    const square = startDb < agc.maximumGainDb ? 10 ** ((agc.target - startDb) / 10) / 2 : 0
    this.channels = Array.from({ length: channels }, () => new Loudness(rateHz, square))
    this.attack = stepOf(agc.attackMs, rateHz)
    this.release = stepOf(agc.releaseMs, rateHz)
    this.holdFrames = (agc.holdMs * rateHz) / 1000
    this.gainDb = startDb
  }

  /** Takes in a sample of one channel. */
  hear(sample: number, channel = 0): void {
    this.channels[channel]!.hear(sample)
  }

  /** Gain for this sample, as a factor. */
  next(sample: number): number {
    this.hear(sample)
    return this.turn()
  }

  /** Gain once every channel was heard: the loudest of them decides. */
  turn(): number {
    let square = this.channels[0]!.square
    for (let channel = 1; channel < this.channels.length; channel++)
      square = Math.max(square, this.channels[channel]!.square)
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
 * Gain of a limiter at the peak of a loud moment that comes up evenly within `riseMs`, dB (0 or less): what it lacks of
 * its settled gain passes over the threshold. g' = (asked - g) / attack, solved for a level that rises with the
 * logarithm of the time.
 */
export function limiterGainAtPeakDb(
  limiter: Limiter,
  fromDb: number,
  peakDb: number,
  riseMs: number,
): number {
  const settledDb = settledLimiterGainDb(limiter, peakDb)
  const { threshold, ratio, attackMs, releaseMs } = limiter
  if (fromDb <= settledDb) return settledDb + (fromDb - settledDb) * Math.exp(-riseMs / releaseMs)
  const neper = 20 / Math.log(10)
  const over = Math.max(0, peakDb - threshold) / neper
  // anything more than a dozen attack times ago has no influence
  const first = -Math.min(over, attackMs * 12 < riseMs ? -Math.log(1 - (attackMs * 12) / riseMs) : Infinity)
  const behind = (u: number) => Math.exp((-riseMs * (1 - Math.exp(u))) / attackMs)
  const steps = 48
  const step = -first / steps
  let sum = 0
  for (let index = 0; index <= steps; index++)
    sum += (index === 0 || index === steps ? 1 : index % 2 ? 4 : 2) * behind(first + index * step)
  return settledDb + fromDb * Math.exp(-riseMs / attackMs) + neper * (1 - 1 / ratio) * ((sum * step) / 3)
}

/**
 * Gain of automatic gain at the peak of a loud moment that comes up evenly within `riseMs`, dB: it comes down only by
 * what its attack has time for. Worked out step by step; peaks as the level of the sine that has them.
 */
export function agcGainAtPeakDb(agc: Agc, fromDb: number, peakDb: number, riseMs: number): number {
  const asked = (ms: number) =>
    settledAgcGainDb(agc, peakDb - suddenDb + 10 * Math.log10(heardOfRise(ms, riseMs)))
  if (asked(riseMs) >= fromDb) return fromDb
  const steps = 24
  const stepMs = riseMs / steps
  const share = 1 - Math.exp(-stepMs / agc.attackMs)
  let gainDb = fromDb
  for (let index = 0; index < steps; index++)
    gainDb += share * Math.min(0, asked((index + 0.5) * stepMs) - gainDb)
  return gainDb
}

/** Output of the fast detector for an evenly rising tone, as a share of its peak power. */
function heardOfRise(ms: number, riseMs: number): number {
  const [time, rise] = [ms / suddenMs, riseMs / suddenMs]
  return Math.max(1e-9, (time * time - 2 * time + 2 * (1 - Math.exp(-time))) / rise ** 2)
}

/**
 * Gain of automatic gain, dB, some time after the voice stopped: once the hold is over it follows what is left of the
 * voice in the listening time with the release, towards what the noise alone asks for. Levels RMS in the unit of the
 * stage.
 */
export function agcGainInPauseDb(agc: Agc, voiceDb: number, noiseDb: number, afterS: number): number {
  return agcGainAfterDb(agc, settledAgcGainDb(agc, voiceDb), settledAgcGainDb(agc, noiseDb), afterS)
}

/** Gain some time after the voice stopped, between the earlier gain and the one asked for now, dB. */
export function agcGainAfterDb(agc: Times, fromDb: number, toDb: number, afterS: number): number {
  // anything louder than the voice brings the gain down at once; anything softer lets it rise later
  return toDb < fromDb
    ? toDb + (fromDb - toDb) * Math.exp((-afterS * 1000) / agc.attackMs)
    : fromDb + riseDb(agc, toDb - fromDb, afterS * 1000)
}

type Times = Pick<Agc, 'attackMs' | 'holdMs' | 'releaseMs'>

/** Loss of the detected level while a voice fades out of the averaging time, dB, and when it has lost that much. */
const lostDb = (afterMs: number): number =>
  afterMs < listeningMs ? -10 * Math.log10(1 - afterMs / listeningMs) : Infinity
const lostAfterMs = (db: number): number => listeningMs * (1 - 10 ** (-db / 10))

/**
 * How far the gain has risen some time after the level fell by so many dB. What is asked for rises as the voice leaves
 * the listening time, and the gain follows with the release (g' = (asked - g) / release, solved for the rise asked).
 */
function riseDb({ holdMs, releaseMs }: Times, fallDb: number, afterMs: number): number {
  if (afterMs <= holdMs) return 0
  const asked = (ms: number) => Math.min(fallDb, lostDb(ms))
  const behind = (ms: number) => Math.exp(-(afterMs - ms) / releaseMs)
  const [first, last] = [asked(holdMs), asked(afterMs)]
  // Simpson's rule over the rise: later moments lag less
  const steps = 8
  const step = (last - first) / steps
  let sum = 0
  for (let index = 0; index <= steps; index++)
    sum +=
      (index === 0 || index === steps ? 1 : index % 2 ? 4 : 2) * behind(lostAfterMs(first + index * step))
  return last - first * behind(holdMs) - (sum * step) / 3
}

/** Gain reduction left for the next sentence some time after a strike, dB; 0 if the strike needs none. */
export function agcLossAfterStrikeDb(agc: Agc, voiceDb: number, strikeDb: number, afterS: number): number {
  const loss = settledAgcGainDb(agc, voiceDb) - settledAgcGainDb(agc, strikeDb)
  return loss > 0 ? loss - riseDb(agc, loss, afterS * 1000) : 0
}
