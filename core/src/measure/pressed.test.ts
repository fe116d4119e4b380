import { describe, expect, it } from 'vitest'
import { bend, cutFlat, mixed, noise, sag } from '../signals'
import { CrestCounter } from './crests'
import { ExcerptKeeper } from './excerpts'
import { pressedOf } from './pressed'

const rateHz = 48_000
/** A tone that swells and dies away four times a second, to eight heights in turn: crests of one shape at every level. */
const swelling = Float32Array.from({ length: 6 * rateHz }, (_, index) => {
  const time = index / rateHz
  const height = 0.15 + 0.1 * (Math.floor(time / 0.25) % 8)
  return height * Math.sin((Math.PI * (time % 0.25)) / 0.25) * Math.sin(2 * Math.PI * 260 * time)
})
const hiss = noise(-65, 6, rateHz, 1)
function pressed(samples: Float32Array) {
  const heard = mixed(samples, hiss)
  const crests = new CrestCounter(rateHz)
  const excerpts = new ExcerptKeeper(1)
  for (let from = 0; from < heard.length; from += 5003) {
    crests.push(heard.subarray(from, from + 5003))
    excerpts.push([heard.subarray(from, from + 5003)])
  }
  return pressedOf(crests, excerpts.loudest, 0, rateHz)
}

describe('crests under noise', () => {
  it('are left alone when nothing presses them', () => {
    expect(pressed(swelling)).toBeUndefined()
  })
  it.each([-4, -8, -12])('are cut flat at %i dBFS', (ceilingDbfs) => {
    const found = pressed(cutFlat(swelling, ceilingDbfs))
    expect(found!.shape).toBe('flat below full scale')
    expect(Math.abs(found!.ceilingDbfs - ceilingDbfs)).toBeLessThan(0.1)
  })
  it.each([-8, -12])('are bent towards %i dBFS', (ceilingDbfs) => {
    const found = pressed(bend(swelling, ceilingDbfs))
    expect(found!.shape).toBe('bent')
    expect(Math.abs(found!.ceilingDbfs - ceilingDbfs)).toBeLessThan(0.5)
  })
  it.each([40, 80, 130])('sag behind a capacitor of %i Hz', (cornerHz) => {
    const found = pressed(sag(swelling, -8, cornerHz, rateHz))
    expect(found!.shape).toBe('sagging')
    expect(Math.abs(found!.ceilingDbfs + 8)).toBeLessThan(0.5)
  })
  it('are located', () => {
    const { clipped } = pressed(cutFlat(swelling, -3))!
    expect(clipped.length).toBeGreaterThan(0)
    // only the last two of eight swells are higher than that
    for (const { fromS, toS } of clipped) {
      expect(fromS % 2).toBeGreaterThan(1.5)
      expect(toS - fromS).toBeLessThan(0.5)
    }
  })
})
