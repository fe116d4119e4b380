import { describe, expect, it } from 'vitest'
import { bytesSource, openClip, wavBytes } from '../media'
import { amplifierNoise, mixed, roomNoise, speech } from '../signals'
import { cases } from '../tests/form'
import { alignmentOf } from './alignment'

const clipOf = (samples: Float32Array, rateHz: number) =>
  openClip(bytesSource(wavBytes([samples], rateHz)), 'clip')
const noise = (lengthS: number, rateHz: number, levelDbfs: number, seed: number) =>
  mixed(
    amplifierNoise({ lengthS, rateHz, levelDbfs, seed }),
    roomNoise({ lengthS, rateHz, levelDbfs: levelDbfs + 6, seed: seed + 1 }),
  )
const scene = speech({ lengthS: 30, rateHz: 96_000, seed: 7, levelDbfs: -26, pitchHz: 120 }).samples
/** What one device records of a voice: from some moment on, softer, at its own rate, with its own noise. */
function recording(fromS: number, lengthS: number, rateHz: number, gain: number, seed: number) {
  const own = Float32Array.from({ length: Math.round(lengthS * rateHz) }, (_, index) => {
    const at = (fromS + index / rateHz) * 96_000
    const whole = Math.floor(at)
    return gain * ((1 - at + whole) * (scene[whole] ?? 0) + (at - whole) * (scene[whole + 1] ?? 0))
  })
  return mixed(own, noise(lengthS, rateHz, -62, seed).subarray(0, own.length))
}

const others: [how: string, fromS: number, lengthS: number, rateHz: number, gain: number][] = [
  ['began later', 2.0313, 20, 48_000, 0.3],
  ['began later and is short', 9.4017, 6, 44_100, 1.4],
  ['is upside down', 1.25, 15, 48_000, -0.7],
]

describe('two clips of one moment', () => {
  it.each(cases(others, others.slice(1, 2)))(
    'are laid beside each other where the second %s',
    async (_, fromS, lengthS, rateHz, gain) => {
      const first = await clipOf(recording(0, 25, 48_000, 0.8, 3), 48_000)
      const second = await clipOf(recording(fromS, lengthS, rateHz, gain, 11), rateHz)
      const { offsetS, isSame } = await alignmentOf(first, 0, second, 0)
      expect(isSame).toBe(true)
      expect(Math.abs(offsetS - fromS)).toBeLessThan(0.0002)
      const back = await alignmentOf(second, 0, first, 0)
      expect(Math.abs(back.offsetS + fromS)).toBeLessThan(0.0002)
    },
  )
  it('are laid beside each other to a fraction of a sample where they have much in common', async () => {
    for (const fromS of [1.00711, 0.99293]) {
      const first = await clipOf(recording(0, 6, 48_000, 0.8, 3), 48_000)
      const second = await clipOf(recording(fromS, 5.5, 48_000, 0.5, 11), 48_000)
      const { offsetS, likeness } = await alignmentOf(first, 0, second, 0)
      expect(likeness).toBeGreaterThan(0.9)
      expect(Math.abs(offsetS - fromS)).toBeLessThan(8e-6)
    }
  })
  it('are found also where one of them begins or ends without a bit of sound', async () => {
    const first = await clipOf(recording(0, 8, 48_000, 0.8, 3), 48_000)
    const muted = new Float32Array(9 * 48_000)
    muted.set(recording(1.5, 5, 48_000, 0.5, 11), 2 * 48_000)
    const { offsetS, isSame } = await alignmentOf(first, 0, await clipOf(muted, 48_000), 0)
    expect(isSame).toBe(true)
    expect(Math.abs(offsetS + 0.5)).toBeLessThan(0.0002)
  })
  it('are distinguished when they are of different moments, gated ones too', async () => {
    const other = (seed: number, lengthS: number) =>
      mixed(
        speech({ lengthS, rateHz: 48_000, seed, levelDbfs: -26, pitchHz: 190 }).samples,
        noise(lengthS, 48_000, -62, 5),
      )
    const first = await clipOf(recording(0, 10, 48_000, 1, 3), 48_000)
    for (const seed of cases([57, 59, 60, 66, 99], [57]))
      expect((await alignmentOf(first, 0, await clipOf(other(seed, 10), 48_000), 0)).isSame).toBe(false)
    // a word between silence: the rise of one is like the rise of any other
    const between = (samples: Float32Array, atS: number) => {
      // as quiet as dither, which is no digital silence
      const gated = amplifierNoise({ lengthS: 6, rateHz: 48_000, levelDbfs: -100, seed: atS })
      gated.set(samples, atS * 48_000)
      return clipOf(gated, 48_000)
    }
    const word = await between(recording(1, 2, 48_000, 1, 3), 1)
    expect((await alignmentOf(word, 0, await between(other(54, 2), 2), 0)).isSame).toBe(false)
    const again = await alignmentOf(word, 0, await between(recording(1, 2, 48_000, 0.3, 8), 2), 0)
    expect(again.isSame).toBe(true)
    expect(Math.abs(again.offsetS + 1)).toBeLessThan(0.0002)
  })
  it('are found under much noise, where levels alone are alike elsewhere too', async () => {
    const first = await clipOf(recording(0, 10, 48_000, 1, 3), 48_000)
    const noisy = mixed(
      recording(0.5, 9, 48_000, 1, 7),
      amplifierNoise({ lengthS: 9, rateHz: 48_000, levelDbfs: -34, seed: 2 }),
    )
    const { offsetS, isSame } = await alignmentOf(first, 0, await clipOf(noisy, 48_000), 0)
    expect(isSame).toBe(true)
    expect(Math.abs(offsetS - 0.5)).toBeLessThan(0.001)
  })
  it('are not the same sound when there is only noise', async () => {
    const [first, second] = await Promise.all(
      [1, 9].map((seed) => clipOf(noise(10, 48_000, -40, seed), 48_000)),
    )
    expect((await alignmentOf(first!, 0, second!, 0)).isSame).toBe(false)
  })
})
