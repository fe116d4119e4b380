import { describe, expect, it } from 'vitest'
import { pumpingIn } from './pumping'

const stepS = 0.01
/** Words of -20 dB with pauses of two seconds, in which noise comes up by so much with a time constant. */
function levels(risesDb: number, tauS: number, wobbleDb = 0): Float32Array {
  return Float32Array.from({ length: 1500 }, (_, index) => {
    const inTurn = (index * stepS) % 3
    if (inTurn < 1) return -20
    const sincePauseS = inTurn - 1
    return -70 + risesDb * (1 - Math.exp(-sincePauseS / tauS)) + wobbleDb * Math.sin(index * 1.7)
  })
}

describe('automatic gain in the pauses', () => {
  it.each([0.4, 0.8, 1.5, 3])('has its release of %s s read off them', (tauS) => {
    const found = pumpingIn(levels(20, tauS, 0.5), stepS)
    expect(Math.abs(found!.releaseS / tauS - 1)).toBeLessThan(0.1)
    expect(found!.ranges.length).toBe(5)
  })
  it('is in every pause, from where the voice has faded to just before it speaks again', () => {
    const { ranges } = pumpingIn(levels(20, 0.8), stepS)!
    expect(ranges.map(({ fromS }) => Math.round(100 * fromS) / 100)).toEqual([1.2, 4.2, 7.2, 10.2, 13.2])
    expect(ranges.slice(0, 4).map(({ toS }) => Math.round(100 * toS) / 100)).toEqual([
      2.95, 5.95, 8.95, 11.95,
    ])
    // the last pause goes on to the end of the clip
    expect(ranges[4]!.toS).toBeCloseTo(14.95, 2)
  })
  it('takes two pauses, or one of more than two and a half seconds', () => {
    const pause = (fromS: number, seconds: number) => (index: number) => {
      const since = index * stepS - fromS
      return since >= 0 && since < seconds ? -60 + 20 * (1 - Math.exp(-since / 0.8)) : undefined
    }
    const within = (...pauses: ((index: number) => number | undefined)[]) =>
      pumpingIn(
        Float32Array.from(
          { length: 2000 },
          (_, index) => pauses.map((each) => each(index)).find(Boolean) ?? -20,
        ),
        stepS,
      )
    expect(within(pause(2, 2.5))).toBeUndefined()
    expect(within(pause(2, 3.2))!.ranges).toHaveLength(1)
    expect(within(pause(2, 1.5), pause(7, 1.5))!.ranges).toHaveLength(2)
  })
  it('is the surer, the more pauses it is heard in and the more it rises', () => {
    const sure = (risesDb: number, seconds: number) =>
      pumpingIn(levels(risesDb, 0.8).subarray(0, seconds / stepS), stepS)!.confidence
    const [few, more, many] = [sure(12, 6.5), sure(12, 9.5), sure(20, 15)]
    expect(few).toBeLessThan(0.95)
    expect(more).toBeGreaterThan(few + 0.02)
    expect(many).toBeGreaterThan(0.97)
  })
  it('rises by what a pause has time for', () => {
    const found = pumpingIn(levels(20, 0.5), stepS)
    // from 0.2 s on, where voices have faded, and over the means of a sixth at both ends
    expect(found!.risesDb).toBeGreaterThan(9)
    expect(found!.risesDb).toBeLessThan(14)
  })
  it('is none where noise holds its level, rises a little, or comes up as fast as a compressor has it', () => {
    expect(pumpingIn(levels(0, 1, 2), stepS)).toBeUndefined()
    expect(pumpingIn(levels(2, 1), stepS)).toBeUndefined()
    expect(pumpingIn(levels(20, 0.1), stepS)).toBeUndefined()
  })
})
