import { describe, expect, it } from 'vitest'
import { powerDb, powerFromDb } from '../units'
import { LevelHistogram } from './level-histogram'

/** What is read from so many blocks at each of these levels, dB. */
function read(...blocks: [count: number, db: number][]) {
  const histogram = new LevelHistogram()
  for (const [count, db] of blocks) for (let index = 0; index < count; index++) histogram.add(powerFromDb(db))
  return histogram.read()!
}

describe('the levels of short blocks', () => {
  it('are those of what was put in', () => {
    expect(read([90, -60], [10, -20])).toEqual({
      activeDb: expect.closeTo(-20, 9),
      pauseDb: expect.closeTo(-60, 9),
      pauses: true,
    })
  })
  it('are of a single block too, and of blocks as loud as they come; of nothing there are none', () => {
    expect(read([1, -33]).pauseDb).toBeCloseTo(-33, 9)
    expect(read([1, -33]).pauses).toBe(false)
    expect(read([9, -170], [3, 40])).toMatchObject({
      pauseDb: expect.closeTo(-170, 6),
      activeDb: expect.closeTo(40, 6),
    })
    const empty = new LevelHistogram()
    empty.add(0)
    empty.add(-1)
    expect(empty.read()).toBeUndefined()
  })
  it('count as pause up to 6 dB over the quietest', () => {
    const both = powerDb((powerFromDb(-60) + powerFromDb(-54.2)) / 2)
    expect(read([50, -60], [50, -54.2]).pauseDb).toBeCloseTo(both, 9)
    expect(read([50, -60], [50, -53.8]).pauseDb).toBeCloseTo(-60, 9)
    // in bins of 0.1 dB
    expect(read([50, -60], [50, -53.91]).pauseDb).toBeGreaterThan(-59)
  })
  it('leave one freak block in twenty out of the quietest', () => {
    expect(read([4, -90], [96, -60]).pauseDb).toBeCloseTo(-60, 0)
    expect(read([6, -90], [94, -60]).pauseDb).toBeCloseTo(-90, 9)
  })
  it('are activity from 10 dB over the pauses on', () => {
    expect(read([80, -60], [20, -50.3]).pauses).toBe(false)
    const active = read([80, -60], [20, -49.7])
    expect(active.pauses).toBe(true)
    expect(active.activeDb).toBeCloseTo(-49.7, 9)
  })
  it('are a voice when two blocks in a hundred are active, and else a click in what there is', () => {
    expect(read([978, -60], [22, -20]).pauses).toBe(true)
    const click = read([982, -60], [18, -20])
    expect(click.pauses).toBe(false)
    expect(click.activeDb).toBeCloseTo(powerDb((982 * powerFromDb(-60) + 18 * powerFromDb(-20)) / 1000), 6)
  })
  it.each([1, -1])('keep what lies within 15.9 dB of the middle of the voice, side %i', (side) => {
    const voice = (offDb: number) => read([100, -90], [60, -30], [20, -30 + side * offDb]).activeDb
    const mean = (offDb: number) =>
      powerDb((60 * powerFromDb(-30) + 20 * powerFromDb(-30 + side * offDb)) / 80)
    expect(voice(15.5)).toBeCloseTo(mean(15.5), 6)
    expect(voice(16.3)).toBeCloseTo(-30, 6)
  })
  it('have the voice begin no lower than activity does', () => {
    // 12 dB over the pause the gate would reach down into it
    const { activeDb } = read([50, -60], [20, -54.5], [30, -46])
    expect(activeDb).toBeCloseTo(-46, 6)
  })
})
