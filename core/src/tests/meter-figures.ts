import { burstsIn } from '../measure/bursts'
import { ClickMeter } from '../measure/clicks'
import { CrestCounter } from '../measure/crests'
import { DropoutMeter } from '../measure/dropouts'
import { ExcerptKeeper } from '../measure/excerpts'
import { FlatTops } from '../measure/flat-tops'
import { heardIn } from '../measure/heard'
import { HumMeter } from '../measure/hum'
import { LevelHistogram } from '../measure/level-histogram'
import { loudnessOf, LoudnessPowers } from '../measure/loudness'
import { Overview } from '../measure/overview'
import { highsOf } from '../measure/highs'
import { lookAt, pressedOf } from '../measure/pressed'
import { pumpingIn } from '../measure/pumping'
import { relationOf } from '../measure/relation'
import { RustleMeter } from '../measure/rustle'
import { toneIn } from '../measure/tone'
import { toneShape } from '../measure/tone-shape'
import * as made from '../signals'
import { amplitudeFromDb } from '../units'
import { type Outline, outlineOf } from './outline'

/*
 * Meters by themselves, each with many short sounds made at random around what it decides on: strengths, lengths and
 * distances lie now on one side of a limit, now on the other.
 */

/** Chance of one sound. */
class Chance {
  private readonly uniform: () => number
  private readonly gaussian: () => number

  constructor(seed: number) {
    this.uniform = made.random(seed)
    this.gaussian = made.normal(this.uniform)
  }
  between(from: number, to: number): number {
    return from + (to - from) * this.uniform()
  }
  whole(from: number, to: number): number {
    return Math.floor(this.between(from, to + 1))
  }
  is(share = 0.5): boolean {
    return this.uniform() < share
  }
  of<T>(...all: readonly T[]): T {
    return all[this.whole(0, all.length - 1)]!
  }
  times(from: number, to: number): number[] {
    return Array.from({ length: this.whole(from, to) }, (_, index) => index)
  }
  noise(frames: number, rmsDb: number): Float32Array {
    const rms = amplitudeFromDb(rmsDb)
    return Float32Array.from({ length: frames }, () => rms * this.gaussian())
  }
  /** Something with a pitch, as voices have it. */
  hummed(frames: number, rateHz: number, levelDb: number): Float32Array {
    const [hz, second, third] = [this.between(90, 260), this.between(0, 1), this.between(0, 0.7)]
    const phases = [1, 2, 3].map(() => this.between(0, 2 * Math.PI))
    const size = amplitudeFromDb(levelDb)
    return Float32Array.from({ length: frames }, (_, index) => {
      const turn = (2 * Math.PI * hz * index) / rateHz
      // none is a loop
      const swell = size * (1 - 0.3 * Math.sin((7 * index) / frames + phases[0]!))
      return (
        swell *
        (Math.sin(turn + phases[0]!) +
          second * Math.sin(2 * turn + phases[1]!) +
          third * Math.sin(3 * turn + phases[2]!))
      )
    })
  }
}

/** Something that is pushed samples, in two blocks that end anywhere. */
function pushed<Meter extends { push: (samples: Float32Array) => unknown }>(
  meter: Meter,
  samples: Float32Array,
  chance: Chance,
): Meter {
  const at = chance.whole(1, samples.length - 1)
  meter.push(samples.subarray(0, at))
  meter.push(samples.subarray(at))
  return meter
}

const rateHz = 48_000

function clicks(chance: Chance): unknown {
  const levelDb = chance.between(-90, -45)
  const samples = chance.noise(9600, levelDb)
  let at = 300
  for (const _ of chance.times(2, 7)) {
    samples[at]! += chance.of(1, -1) * amplitudeFromDb(levelDb + chance.between(14, 32))
    if (chance.is(0.3)) samples[at + 1]! += samples[at]!
    at += chance.of(chance.whole(15, 60), chance.whole(300, 800), chance.whole(900, 2500))
    if (at > 9300) break
  }
  return pushed(new ClickMeter(rateHz), samples, chance).finish()
}

function dropouts(chance: Chance): unknown {
  const frames = 48_000
  const levelDb = chance.between(-60, -40)
  const samples = made.mixed(chance.noise(frames, levelDb))
  if (chance.is()) chance.hummed(frames / 2, rateHz, -18).forEach((each, index) => (samples[index]! += each))
  if (chance.is(0.3)) {
    const top = chance.between(0.05, 0.3)
    for (let index = 0; index < frames; index++)
      samples[index] = Math.max(-top, Math.min(top, samples[index]!))
  }
  for (const _ of chance.times(1, 3)) {
    const from = chance.whole(4000, 42_000)
    const keeps = amplitudeFromDb(-chance.between(4, 60))
    const length = chance.whole(30, 900)
    for (let index = from; index < from + length; index++) samples[index]! *= keeps
    // what is joined lies near
    if (chance.is(0.4))
      for (
        let index = from + length + chance.whole(100, 1800), end = index + length;
        index < Math.min(end, frames);
        index++
      )
        samples[index]! *= keeps
  }
  const after = chance.noise(frames, levelDb - chance.between(5, 50))
  return pushed(new DropoutMeter(rateHz), made.mixed(samples, after), chance).finish()
}

function rustle(chance: Chance): unknown {
  const rate = 12_000
  const samples = made.mixed(chance.noise(rate, chance.between(-75, -45)))
  if (chance.is())
    chance.hummed(rate, rate, chance.between(-50, -20)).forEach((each, index) => (samples[index]! += each))
  const sizeDb = chance.between(-50, -12)
  const [apart, spread, byChance] = [chance.between(15, 160), chance.between(0.2, 1), chance.is(0.8)]
  const end = chance.whole(3500, 9000)
  for (let at = 2000; at < end; at += byChance ? -Math.log(1 - chance.between(0, 1)) * apart : apart) {
    const index = Math.round(at)
    const size = amplitudeFromDb(sizeDb) * chance.between(1 - spread, 1 + spread)
    for (let by = 0; by < 6 && index + by < samples.length; by++)
      samples[index + by]! += size * chance.of(1, -1) * (1 - by / 6)
  }
  return pushed(new RustleMeter(rate), samples, chance).finish(chance.between(-40, -10))
}

function hum(chance: Chance): unknown {
  const rate = 2000
  const samples = chance.noise(5 * rate, chance.between(-85, -60))
  const mains = chance.of(50, 60) * (1 + chance.between(-0.002, 0.002))
  for (const _ of chance.times(0, 4)) {
    const hz = chance.is(0.8) ? mains * chance.whole(1, 6) : chance.between(45, 400)
    const [size, swell] = [amplitudeFromDb(chance.between(-85, -40)), chance.of(0, 0, chance.between(0, 0.9))]
    for (let index = 0; index < samples.length; index++)
      samples[index]! +=
        size * (1 + swell * Math.sin(index / 1500)) * Math.sin((2 * Math.PI * hz * index) / rate)
  }
  return pushed(new HumMeter(rate), samples, chance).finish()
}

function pumping(chance: Chance): unknown {
  const stepS = 0.01
  const [tauS, risesDb, wobbleDb] = [chance.between(0.1, 4), chance.between(1, 25), chance.between(0, 3)]
  const [spokenDb, restDb] = [chance.between(-30, -20), chance.between(-75, -40)]
  const levels: number[] = []
  for (const _ of chance.times(1, 5)) {
    for (const __ of chance.times(30, 120)) levels.push(spokenDb + chance.between(-4, 4))
    const pause = chance.is(0.8) ? chance.whole(60, 220) : chance.whole(250, 360)
    const fade = chance.of(0, 0, 8)
    for (let index = 0; index < pause; index++)
      levels.push(
        restDb +
          fade * Math.exp(-index / 10) +
          risesDb * (1 - Math.exp((-index * stepS) / tauS)) +
          wobbleDb * chance.between(-1, 1),
      )
  }
  return pumpingIn(Float32Array.from(levels), stepS)
}

function bursts(chance: Chance): unknown {
  const steps = 300
  const [deepDb, restDb] = [chance.between(-80, -45), chance.between(-60, -25)]
  const deep = Float32Array.from({ length: steps }, () => deepDb + chance.between(-3, 3))
  const rest = Float32Array.from({ length: steps }, () => restDb + chance.between(-3, 3))
  for (const _ of chance.times(1, 4)) {
    const [from, length, over] = [
      chance.whole(5, 280),
      chance.of(chance.whole(1, 12), chance.whole(10, 60)),
      chance.between(4, 45),
    ]
    for (let index = from; index < Math.min(steps, from + length); index++)
      if (chance.is(0.9)) deep[index]! += over
  }
  return burstsIn({ stepS: 0.01, deep, rest }, chance.between(-50, -15))
}

/** A voice of a kind whose tops are pressed in some way, a little or much. */
function pressedSound(chance: Chance): Float32Array {
  const sound = chance.hummed(24_000, rateHz, chance.between(-14, -6))
  const ceilingDb = chance.between(-12, -3)
  const done = chance.of(
    (samples: Float32Array) => samples,
    (samples: Float32Array) => made.cutFlat(samples, ceilingDb),
    (samples: Float32Array) => made.bend(samples, ceilingDb),
    (samples: Float32Array) => made.sag(samples, ceilingDb, 60, rateHz),
  )(sound)
  return made.mixed(done, chance.noise(done.length, chance.between(-90, -50)))
}
function pressed(chance: Chance): unknown {
  const samples = pressedSound(chance)
  const counter = pushed(new CrestCounter(rateHz), samples, chance)
  const keeper = new ExcerptKeeper(1, 4096, 4)
  keeper.push([samples])
  return {
    crests: [0, 2, 6].map((from) => counter.under(from, from + 3)),
    tops: counter.tops(1).slice(0, 5),
    look: lookAt(counter, rateHz),
    pressed: pressedOf(counter, keeper.loudest, 0, rateHz),
    excerpts: [...keeper.loudest, ...keeper.quietest].map(({ frame, size }) => ({ frame, size })),
  }
}

function flatTops(chance: Chance): unknown {
  const [bits, highest] = [chance.of(16, 24), chance.of(1, 0.999, 0.7)]
  const samples = chance.hummed(6000, rateHz, -3)
  const step = 2 ** (1 - bits)
  for (let index = 0; index < samples.length; index++) {
    const cut = Math.max(-highest, Math.min(highest * chance.of(1, 1, 1, 1 - step), 1.4 * samples[index]!))
    samples[index] = Math.round(cut / step) * step
  }
  const tops = pushed(new FlatTops(bits, rateHz), samples, chance)
  return [tops.atFullScale, tops.finish()]
}

function relation(chance: Chance): unknown {
  let value = 0
  const smooth = chance.between(0.3, 0.95)
  const sound = chance.noise(4096, -20).map((each) => (value = smooth * value + each))
  const like = chance.of(0.99, chance.between(0.3, 1), chance.between(0, 1))
  const own = chance.noise(4096, -20).map((each) => (value = smooth * value + each))
  const by = chance.of(1, -1, 0.97, 0.05) * amplitudeFromDb(chance.between(-8, 8))
  const other = made.delayed(
    sound.map((each, index) => by * (like * each + Math.sqrt(1 - like * like) * own[index]!)),
    chance.of(0, 0.4, chance.between(0, 80), chance.between(0, 900)),
  )
  const excerpts = [{ frame: 0, channels: [sound, other], size: 1 }]
  return relationOf(excerpts, 0, 1, rateHz)
}

function tone(chance: Chance): unknown {
  const [hz, sizeDb] = [chance.between(60, 9000), chance.between(-50, -3)]
  const samples = made.mixed(
    made.tone(hz, sizeDb, 0.2, rateHz),
    made.tone(2 * hz, sizeDb - chance.between(15, 60), 0.2, rateHz),
    chance.noise(9600, sizeDb - chance.between(8, 50)),
  )
  const excerpts = [0, 1, 2].map((index) => ({
    frame: 2048 * index,
    channels: [samples.subarray(2048 * index, 2048 * (index + 1))],
    size: 1,
  }))
  return toneIn(excerpts, 0, rateHz)
}
function shapes(chance: Chance): unknown {
  const hz = chance.between(200, 1200)
  const soft = made.tone(hz, -9, 0.3, rateHz)
  const ceilingDb = -9 - chance.between(0.1, 9)
  const pressedTone = chance.of(
    made.cutFlat(soft, ceilingDb),
    made.bend(soft, ceilingDb, chance.between(1.5, 6)),
    made.sag(soft, ceilingDb, chance.between(10, 90), rateHz),
  )
  return toneShape(made.mixed(pressedTone, chance.noise(soft.length, chance.between(-90, -45))), hz, rateHz)
}

function blockLevels(chance: Chance): unknown {
  const histogram = new LevelHistogram()
  const [restDb, spokenDb] = [chance.between(-90, -40), chance.between(-50, -10)]
  const [share, spread] = [chance.of(0.01, 0.03, chance.between(0, 1)), chance.between(1, 20)]
  for (const _ of chance.times(20, 150))
    histogram.add(
      10 **
        ((chance.is(share) ? spokenDb + chance.between(-spread, spread) : restDb + chance.between(-4, 9)) /
          10),
    )
  return histogram.read()
}
function loudness(chance: Chance): unknown {
  const channels = [0, 1].map(() => {
    const powers = new LoudnessPowers(8000)
    for (const _ of chance.times(3, 7))
      powers.push(chance.noise(chance.whole(2000, 9000), chance.between(-80, -10)))
    return powers.finish()
  })
  return loudnessOf(channels)
}
function drawn(chance: Chance): unknown {
  const frames = chance.whole(4000, 12_000)
  const samples = made.mixed(chance.hummed(frames, 8000, -12), chance.noise(frames, -50))
  const overview = new Overview(frames)
  const half = 64 * chance.whole(10, 50)
  for (const block of [samples.subarray(0, half), samples.subarray(half)])
    overview.push([highsOf(block)], block.length)
  return [heardIn(samples, 8000), overview.read]
}

const meters: Record<string, [of: (chance: Chance) => unknown, sounds: number]> = {
  clicks: [clicks, 50],
  dropouts: [dropouts, 16],
  rustle: [rustle, 30],
  hum: [hum, 16],
  'automatic gain': [pumping, 40],
  'wind and pops': [bursts, 60],
  'pressed tops': [pressed, 16],
  'flat tops': [flatTops, 30],
  'two channels': [relation, 40],
  tones: [tone, 40],
  'shapes of tones': [shapes, 24],
  levels: [blockLevels, 60],
  loudness: [loudness, 6],
  'what is drawn': [drawn, 4],
}

/** What each meter says of its sounds, by its name. */
export const meterFigures = new Map(
  Object.entries(meters).map(([name, [of, sounds]]): [string, () => Outline] => [
    `meter of ${name}`,
    // found or not at each place: sums over all of them would hide one behind another
    () =>
      outlineOf(
        Array.from({ length: sounds }, (_, seed) => ({ [seed % 8]: of(new Chance(seed + 1)) ?? 'nothing' })),
      ),
  ]),
)
