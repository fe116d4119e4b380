import { describe, expect, it } from 'vitest'
import { delayed, normal, random } from '../signals'
import { relationOf } from './relation'

const rateHz = 48_000
const noiseOf = (seed: number, size = 0.1) => {
  const next = normal(random(seed))
  // no sharper than sound is: neighbours are alike
  let value = 0
  return Float32Array.from({ length: 8192 }, () => (value = 0.7 * value + size * next()))
}
const relation = (first: Float32Array, second: Float32Array) =>
  relationOf([{ frame: 0, channels: [first, second], size: 1 }], 0, 1, rateHz)
const sound = noiseOf(1)

/** A channel of which so much is the other's, 1 being all of it, and the rest its own. */
const alike = (likeness: number) => {
  const own = noiseOf(2)
  return sound.map((sample, index) => likeness * sample + Math.sqrt(1 - likeness ** 2) * own[index]!)
}
const times = (by: number, samples: Float32Array) => samples.map((sample) => by * sample)
const db = (level: number) => 10 ** (level / 20)

describe('two channels', () => {
  it.each<[number, number, string | undefined]>([
    [0.55, -1, 'opposite'],
    [0.45, -1, undefined],
    [0.75, db(-7), 'unequal'],
    [0.75, db(7), 'unequal'],
    [0.75, db(-5), undefined],
    [0.65, db(-7), undefined],
    [1, db(-0.25), 'equal'],
    [1, db(-0.35), 'unequal'],
    [0, db(-29), 'one silent'],
    [0, db(29), 'one silent'],
    [0, db(-27), undefined],
    [0.4, db(-29), undefined],
  ])('as alike as %s, times %s: %s', (likeness, by, kind) => {
    expect(relation(sound, times(by, alike(likeness)))?.kind).toBe(kind)
  })
  it.each<[number, number, string | undefined]>([
    [0.65, 12, 'delayed'],
    [0.65, 8, undefined],
    [0.55, 12, undefined],
    [-0.6, 40, 'opposite'],
    [-0.6, 56, undefined],
  ])('as alike as %s, %s frames later: %s', (likeness, frames, kind) => {
    const later = delayed(alike(Math.abs(likeness)), frames)
    expect(relation(sound, times(Math.sign(likeness), later))?.kind).toBe(kind)
  })
  it.each([0.3, 7, 96, 528.5])('are %s frames apart, to a tenth of one', (frames) => {
    const found = relation(sound, delayed(sound, frames))
    if (frames < 10) expect(found?.kind).not.toBe('delayed')
    else expect(found!.kind).toBe('delayed')
    if (found) expect(Math.abs(found.delayFrames - frames)).toBeLessThan(0.1)
    const back = relation(delayed(sound, frames), sound)
    if (back) expect(Math.abs(back.delayFrames + frames)).toBeLessThan(0.1)
  })
  it('are equal, or unequal by so many dB', () => {
    expect(relation(sound, sound)!.kind).toBe('equal')
    const found = relation(
      sound,
      sound.map((sample) => sample / 4),
    )
    expect(found).toMatchObject({ kind: 'unequal' })
    expect(found!.differenceDb).toBeCloseTo(-12.04, 2)
  })
  it('are upside down, whole or with something of their own in each', () => {
    expect(
      relation(
        sound,
        sound.map((sample) => -sample),
      )!.kind,
    ).toBe('opposite')
    const own = noiseOf(2, 0.05)
    expect(
      relation(
        sound,
        sound.map((sample, index) => own[index]! - sample),
      )!.kind,
    ).toBe('opposite')
  })
  it('are one sound and nothing, or two sounds', () => {
    expect(relation(sound, noiseOf(3, 0.0005))!.kind).toBe('one silent')
    expect(relation(sound, noiseOf(3))).toBeUndefined()
    expect(relation(new Float32Array(8192), new Float32Array(8192))).toBeUndefined()
  })
})
