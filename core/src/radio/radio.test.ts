import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import { parseJson, Patch, ShelfFile, shelfOf } from '../model'
import {
  bodyLossDb,
  clashesOf,
  dropoutsOf,
  dropoutShare,
  freeSpaceLossDb,
  intermodulation,
  marginDb,
  radioLinksOf,
} from './index'

const read = (file: string) => readFileSync(new URL(`../../../demo/${file}`, import.meta.url), 'utf8')
const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)
const scene = (file: string) => parseJson(Patch, read(`scenes/${file}.json`), file)
const mould = scene('7-three-at-the-mould')
const bench = scene('1-the-founder-at-the-bench')

describe('radio links', () => {
  it('are found with their carriers, delay and what is recorded inside', () => {
    expect(radioLinksOf(mould, shelf).map(({ matched, sender }) => [matched, sender.carrierMhz])).toEqual([
      [true, 520.1],
      [true, 520.9],
      [true, 523.2],
    ])
    const [digital] = radioLinksOf(bench, shelf)
    expect(digital).toMatchObject({ matched: true, recordsInside: ['inside, 32-bit float'] })
    expect(digital!.delayMs).toBeGreaterThan(0)
    expect(digital!.linkS).toBeGreaterThan(0)
  })
  it('do not match when one side is turned to another channel', () => {
    const turned = applyEdits(
      mould,
      [{ kind: 'set control', part: 'founder-receiver', control: 'channel', position: 'c3' }],
      shelf,
    )
    expect(radioLinksOf(turned, shelf)[0]!.matched).toBe(false)
  })
})

describe('the margin', () => {
  it('is Friis: 40.05 dB over 1 m at 2.4 GHz, 6.02 dB for every doubling', () => {
    expect(freeSpaceLossDb(1, 2400)).toBeCloseTo(40.05, 1)
    expect(freeSpaceLossDb(20, 520) - freeSpaceLossDb(10, 520)).toBeCloseTo(6.02, 2)
  })
  it('falls with distance and with a body between, more so at higher carriers', () => {
    const [link] = radioLinksOf(mould, shelf)
    expect(marginDb(link!, 10, false)!).toBeGreaterThan(marginDb(link!, 100, false)!)
    expect(marginDb(link!, 10, false)! - marginDb(link!, 10, true)!).toBeCloseTo(bodyLossDb(520.1), 6)
    expect(bodyLossDb(2440)).toBeGreaterThan(bodyLossDb(520))
  })
  it('leaves a tenth of a percent out at 30 dB, nearly a tenth at 10: the Rayleigh distribution', () => {
    expect(dropoutShare(30)).toBeCloseTo(0.001, 5)
    expect(dropoutShare(10)).toBeCloseTo(0.0952, 4)
    expect(dropoutShare(0)).toBeCloseTo(0.632, 3)
  })
  it('decides how often each receiver is out, the farther the more; unmatched it always is', () => {
    const [near, far] = [10, 300].map((metres) => dropoutsOf(mould, shelf, metres))
    expect(near!.size).toBe(new Set(radioLinksOf(mould, shelf).map(({ receiver }) => receiver.box)).size)
    for (const [box, share] of near!) expect(share).toBeLessThan(far!.get(box)!)
    const turned = applyEdits(
      mould,
      [{ kind: 'set control', part: 'founder-receiver', control: 'channel', position: 'c3' }],
      shelf,
    )
    expect(dropoutsOf(turned, shelf, 10).get('founder-receiver')).toBe(1)
  })
  it('is not known where a side does not state its figure', () => {
    const [link] = radioLinksOf(mould, shelf)
    const { powerMw: _, ...radio } = link!.sender.radio
    expect(marginDb({ ...link!, sender: { ...link!.sender, radio } }, 10, false)).toBeUndefined()
  })
})

describe('third-order products', () => {
  it('leave the scene alone until its third set is put evenly beside the others', () => {
    expect(clashesOf(radioLinksOf(mould, shelf))).toEqual([])
    const even = applyEdits(
      mould,
      ['ringer-sender', 'ringer-receiver'].map((part) => ({
        kind: 'set control' as const,
        part,
        control: 'channel',
        position: 'c3',
      })),
      shelf,
    )
    // 520.1, 520.9, 521.7: twice the middle less one end is the other end
    const hit = clashesOf(radioLinksOf(even, shelf))
    expect(hit.map(({ hits }) => hits)).toContain('Ringer\u2019s transmitter')
    expect(hit.map(({ hits }) => hits)).toContain('Founder\u2019s transmitter')
  })
  it('agree with every product written out, on carriers made at random', () => {
    const carriers = fc
      .array(fc.integer({ min: 5000, max: 5060 }), { minLength: 2, maxLength: 5 })
      .map((list) =>
        [...new Set(list)].map((tenth, index) => ({
          name: `${index}`,
          carrierMhz: tenth / 10,
          widthKhz: 100,
        })),
      )
    fc.assert(
      fc.property(carriers, (list) => {
        const hit = new Set(intermodulation(list).map(({ hits }) => hits))
        const n = list.length
        const expected = new Set<string>()
        for (let i = 0; i < n ** 3; i++) {
          const [a, b, c] = [i % n, Math.floor(i / n) % n, Math.floor(i / n / n)] as [number, number, number]
          if (c === a || c === b) continue
          const tenths = Math.round((list[a]!.carrierMhz + list[b]!.carrierMhz - list[c]!.carrierMhz) * 10)
          list.forEach((each, index) => {
            if (index !== a && index !== b && index !== c && Math.round(each.carrierMhz * 10) === tenths)
              expected.add(each.name)
          })
        }
        expect(hit).toEqual(expected)
      }),
    )
  })
  it('two sets on one carrier disturb each other', () => {
    const both = ['a', 'b'].map((name) => ({ name, carrierMhz: 520, widthKhz: 200 }))
    expect(intermodulation(both).map(({ hits }) => hits)).toEqual(['b', 'a'])
  })
})
