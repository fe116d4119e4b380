import { describe, expect, it } from 'vitest'
import { type PositionOf, graphOf } from '../chain'
import { scenes, shelf } from '../tests/demo'
import { rateHz } from '../tests/listen'
import { cases } from '../tests/form'
import { render, sineVoice, talkingVoice } from './index'

describe('radio that drops out', () => {
  it('is out for the share of the time that is asked for', { timeout: 60_000 }, () => {
    const patch = scenes.find(({ name }) => name === 'The pour')!
    const graph = graphOf(patch, shelf)
    const radio = graph.nodes.find(({ stage }) => stage?.kind === 'radio')!
    for (const share of cases([0, 0.1, 0.5, 1], [0.5])) {
      let [out, all] = [0, 0]
      for (const { tracks } of render(graph, (key) => graph.settings.get(key)!, {
        rateHz,
        frames: 30 * rateHz,
        seed: 11,
        voice: () => sineVoice(1000, 0, rateHz),
        noise: false,
        ambience: false,
        dropouts: new Map([[radio.part, share]]),
      }))
        for (const [{ box }, samples] of tracks)
          if (box !== radio.part && box === 'camera')
            for (let index = 0; index < samples.length; index += 48) {
              all++
              if (Math.abs(samples[index]!) < 1e-7 && Math.abs(samples[index + 7] ?? 0) < 1e-7) out++
            }
      expect(all).toBeGreaterThan(0)
      expect(Math.abs(out / all - share), `${share}`).toBeLessThan(share === 0 || share === 1 ? 0.02 : 0.08)
    }
  })
})

describe('a rendering', () => {
  it('writes word lengths: a 16-bit track has no step finer than its last bit', () => {
    const tuning = scenes.find(({ name }) => name === 'The tuning')!
    const graph = graphOf(tuning, shelf)
    const at: PositionOf = (key) => graph.settings.get(key)!
    const running = render(graph, at, {
      rateHz,
      frames: 4096,
      seed: 1,
      voice: (source) => talkingVoice(source, rateHz, 1),
      noise: true,
      ambience: true,
    })
    const first = running.next()
    if (first.done) throw new Error('nothing was rendered')
    for (const [{ stage }, samples] of first.value.tracks)
      if (stage.kind === 'recording' && stage.bits && !stage.floating)
        for (const sample of samples.subarray(0, 500))
          expect(
            Math.abs(sample * 2 ** (stage.bits - 1) - Math.round(sample * 2 ** (stage.bits - 1))),
          ).toBeLessThan(1e-3)
    expect(first.value.tracks.size).toBeGreaterThan(2)
  })
  it('is the same for the same seed', () => {
    const graph = graphOf(scenes[1]!, shelf)
    const at: PositionOf = (key) => graph.settings.get(key)!
    const once = () => {
      const running = render(graph, at, {
        rateHz,
        frames: 8192,
        seed: 5,
        voice: (source) => talkingVoice(source, rateHz, 5),
        noise: true,
        ambience: true,
        dropouts: new Map([['receiver', 0.2]]),
      })
      const kept: number[] = []
      for (let next = running.next(); !next.done; next = running.next())
        for (const samples of next.value.tracks.values()) kept.push(...samples.subarray(0, 50))
      return kept
    }
    expect(once()).toEqual(once())
  })
})
