import { describe, expect, it } from 'vitest'
import { useClipView } from './clip-view'
import { outlineOf, ticksOf } from './wave-geometry'

const seen = (view: ReturnType<typeof useClipView>) => [view.fromS.value, view.toS.value]

describe('what is in sight of a clip', () => {
  it('is all of it to begin with, and never more', () => {
    const view = useClipView(() => 10)
    view.zoom(2)
    view.pan(-1)
    expect(seen(view)).toEqual([0, 10])
    expect(view.isWhole.value).toBe(true)
  })
  it('comes closer around a place that stays where it is', () => {
    const view = useClipView(() => 10)
    view.zoom(0.5, 0.25)
    expect(seen(view)).toEqual([1.25, 6.25])
    view.zoom(0.5, 0)
    expect(seen(view)).toEqual([1.25, 3.75])
  })
  it('moves along to either end and no farther, and keeps its width', () => {
    const view = useClipView(() => 10)
    view.zoom(0.2)
    view.pan(50)
    expect(seen(view)).toEqual([8, 10])
    view.pan(-50)
    expect(seen(view)).toEqual([0, 2])
  })
  it('is a place with something around it, down to a few samples', () => {
    const view = useClipView(() => 10)
    view.show({ fromS: 5, toS: 5.01 })
    expect(view.fromS.value).toBeCloseTo(4.6)
    expect(view.toS.value).toBeCloseTo(5.41)
    for (let turn = 0; turn < 30; turn++) view.zoom(0.5)
    expect(view.toS.value - view.fromS.value).toBeCloseTo(0.002)
  })
})

describe('a wave on paper', () => {
  it('has ticks as far apart as their words need, at round moments in sight', () => {
    expect(ticksOf(0, 12, 900)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11])
    expect(ticksOf(61.3, 64.3, 300)).toEqual([62, 63, 64])
    expect(ticksOf(1.0005, 1.0025, 900).length).toBeGreaterThan(1)
  })
  it('runs through the middle of its slices, there along the tops and back along the bottoms', () => {
    const path = outlineOf(
      [
        [-1, 1],
        [-0.5, 0.5],
      ],
      { fromS: 0, toS: 2 },
      (seconds) => seconds * 10,
      (sample) => 50 - sample * 10,
    )
    expect(path).toBe('M5.0 40.0 L15.0 45.0 L15.0 55.0 L5.0 60.0 Z')
  })
})
