import { describe, expect, it } from 'vitest'
import { normal, random } from '../signals'
import { toneShape } from './tone-shape'

const hz = 997
/** Ceilings by arithmetic of this test's own, none of the renderer's. */
const shapes: Record<'flat' | 'bent' | 'sagging', (sample: number, state: { since: number }) => number> = {
  flat: (sample) => Math.max(-1, Math.min(1, sample)),
  // straight to 0.8, then towards 1 as a hyperbola does
  bent: (sample) => {
    const size = Math.abs(sample)
    if (size < 0.8) return sample
    const over = (size - 0.8) / 0.2
    return Math.sign(sample) * (0.8 + (0.2 * over) / (1 + over ** 3) ** (1 / 3))
  },
  sagging: (sample, state) => {
    if (Math.abs(sample) < 1) {
      state.since = 0
      return sample
    }
    state.since++
    return Math.sign(sample) * Math.exp(-state.since / 180)
  },
}
function clip(shape: keyof typeof shapes, overDb: number, rateHz: number, noiseDbfs: number): Float32Array {
  const next = normal(random(4))
  const state = { since: 0 }
  const ceiling = 10 ** (-12 / 20)
  return Float32Array.from({ length: 16_384 }, (_, frame) => {
    const sample = 10 ** (overDb / 20) * Math.sin((2 * Math.PI * hz * frame) / rateHz)
    return ceiling * shapes[shape](sample, state) + 10 ** (noiseDbfs / 20) * next()
  })
}

describe('the shape of a tone', () => {
  it('is recognised, with the ceiling, at several strengths, rates and floors', () => {
    for (const shape of ['flat', 'bent', 'sagging'] as const)
      for (const overDb of [3, 5, 8])
        for (const rateHz of [44_100, 48_000])
          for (const noiseDbfs of [-80, -58]) {
            const found = toneShape(clip(shape, overDb, rateHz, noiseDbfs), hz, rateHz)
            expect(found?.shape, `${shape} ${overDb} ${rateHz} ${noiseDbfs}`).toBe(shape)
            expect(Math.abs(found!.ceilingDbfs + 12), `${shape} ${overDb}`).toBeLessThan(0.5)
          }
  })
  it('is that of a sine where nothing presses', () => {
    for (const rateHz of [44_100, 48_000]) {
      const sine = Float32Array.from(
        { length: 16_384 },
        (_, frame) => 0.3 * Math.sin((2 * Math.PI * hz * frame) / rateHz),
      )
      expect(toneShape(sine, hz, rateHz)).toBeUndefined()
    }
  })
})
