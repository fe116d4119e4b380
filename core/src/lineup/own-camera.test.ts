import { beforeAll, describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import { bytesSource, wavBytes } from '../media'
import { known, lastOf, type Patch } from '../model'
import { normal, random } from '../signals'
import { scene, shelf } from '../tests/demo'
import { isLong } from '../tests/form'
import { benchOf, gainBetween, toneWays } from './bench'
import { clipReadingOf } from './clip-reading'
import { type LearntChange, learntOf } from './learn'
import { newReading, settingsFor } from './new-reading'
import { lineUpSteps } from './steps'
import type { LineUpStep } from './step'

/*
 * A camera of another hand: none of the renderer, 44.1 kHz and 16 bit, a soft amplifier that is not alike on both sides, a
 * tone a little off its frequency, and a law of its own.
 */
const rateHz = 44_100
const lawDb = (position: number) => -22 + 33 * (position / 25) ** 1.4
const ceilingDbu = -24
const frontNoiseDbu = -98.5
const backNoiseDbfs = -86
/** White noise up to half of 44.1 kHz, over its A-weighted level. */
const unweightedDb = 2

function recorded(inputDbu: number | undefined, position: number): Uint8Array {
  const next = normal(random(position + 1))
  const rms = (db: number) => 10 ** ((db + unweightedDb) / 20) / Math.SQRT2
  const size = inputDbu === undefined ? 0 : 10 ** (inputDbu / 20)
  const gain = 10 ** ((18 + lawDb(position) - 2) / 20)
  const samples = Float32Array.from({ length: 4 * rateHz }, (_, frame) => {
    let x = size * Math.sin((2 * Math.PI * 1000.3 * frame) / rateHz) + rms(frontNoiseDbu) * next()
    const limit = 10 ** (ceilingDbu / 20) * (x > 0 ? 1 : 0.97)
    if (Math.abs(x) > 0.8 * limit) {
      const over = (Math.abs(x) / limit - 0.8) / 0.2
      x = Math.sign(x) * limit * (0.8 + (0.2 * over) / (1 + over ** 2.5) ** 0.4)
    }
    return Math.max(-1, Math.min(1, x * gain + rms(backNoiseDbfs) * next()))
  })
  return wavBytes([samples, samples], rateHz, 16)
}

const kinds: readonly LineUpStep['kind'][] = ['tone', 'overload', 'floor']

/** The scene with one more step done on this camera. */
async function withStep(patch: Patch, step: LineUpStep, count: number): Promise<Patch> {
  const bench = benchOf(patch, shelf)
  const settings = settingsFor(bench, step.set)
  const way = known(
    toneWays(bench).find(({ run }) => run.end.box === 'camera'),
    'a way to the camera',
  )
  const { points } = known(bench.runAt(way.run.id, settings), 'the run')
  const socket = points[points.findIndex(({ part }) => part === 'camera') - 1]!
  const inputDbu = step.play && step.play.levelDbfs + gainBetween(points[way.sender!]!, socket)
  const bytes = recorded(inputDbu, Number(settings['camera.level']))
  const result = await clipReadingOf(bytesSource(bytes), `own ${count}.wav`, 0, step)
  const reading = newReading(bench, step, result, {
    id: `00000000-0000-7000-8000-0000000000${10 + count}`,
    at: new Date(Date.UTC(2026, 2, 14, 12, count)).toISOString(),
  })
  return applyEdits(patch, [{ kind: 'keep reading', id: reading.id, reading }], shelf)
}

describe.runIf(isLong)('a camera of another hand, lined up', () => {
  let changes: LearntChange[] = []
  beforeAll(async () => {
    let patch = scene('3-the-tuning')
    for (let count = 0; count < 12; count++) {
      const step = lineUpSteps(benchOf(patch, shelf)).find(
        ({ box, kind, reading }) => box === 'camera' && kinds.includes(kind) && !reading,
      )
      if (!step) break
      patch = await withStep(patch, step, count)
    }
    changes = lastOf(learntOf(benchOf(patch, shelf))).changes
  }, 60_000)
  const figure = (name: string) =>
    known(changes.find((each) => each.name.startsWith(name))?.after as { value: number } | undefined, name)
      .value

  it('shows its law within half a decibel, its ceiling and both of its floors within one', () => {
    const law = known(
      changes.find(({ kind }) => kind === 'law'),
      'a law',
    ).after as { points: [number, number][] }
    for (const [position, gainDb] of law.points.filter(([each]) => each > 0))
      expect(Math.abs(gainDb - lawDb(position)), `${position}`).toBeLessThan(0.5)
    expect(Math.abs(figure('First amplifier, ceiling') - ceilingDbu)).toBeLessThan(0.5)
    expect(Math.abs(figure('First amplifier, noise') - frontNoiseDbu)).toBeLessThan(1)
    expect(Math.abs(figure('Converter, noise') - backNoiseDbfs)).toBeLessThan(1)
  })
})
