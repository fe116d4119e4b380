import { describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import { shelfOf } from '../model'
import { pairOf, scene, shelf } from '../tests/demo'
import { cases, isLong } from '../tests/form'
import { bestHarmlessWay, findWays, harmlessWays, type Way, wiringFindings, wiringOf } from './index'

const gear = [...shelf.values()]
const bench = scene('1-the-founder-at-the-bench')

describe('the shelf', () => {
  const lapel = shelf.get('fennimore-plug-in-lapel')!
  const phone = shelf.get('saltmarsh-phone')!
  const silent = pairOf(lapel, 'out', phone, 'headset')
  it('tells why a lapel microphone is silent on a phone, and finds the adapter', () => {
    expect(wiringFindings(wiringOf(silent, shelf))[0]).toMatchObject({
      severity: 'dead',
      subject: { link: 'link' },
    })
    const [best] = findWays(silent, silent.links[0]!, shelf)
    expect(best!.pieces.map((piece) => piece.gear.id)).toEqual(['three-to-four'])
  })
  it('derives it: with the adapter wired to the other order of contacts there is no way', () => {
    const other = gear.map((thing) =>
      thing.id === 'three-to-four'
        ? {
            ...thing,
            passive: {
              ...thing.passive!,
              wires: [
                ['tip', 'ring'],
                ['sleeve', 'second ring'],
              ] as [string, string][],
            },
          }
        : thing,
    )
    const alone = shelfOf(other.filter(({ id }) => id === 'three-to-four' || !shelf.get(id)!.passive))
    expect(findWays(silent, silent.links[0]!, alone)).toEqual([])
    // on the whole shelf the other order helps only with power of its own, and turns the sound over
    const [way] = findWays(
      silent,
      silent.links[0]!,
      shelfOf(other.filter(({ id }) => id !== 'headset-splitter')),
    )
    expect(way!.pieces.map((piece) => piece.gear.id)).toEqual(['plug-in-supply', 'three-to-four-other-order'])
    expect(way!.report.findings.map((finding) => finding.code)).toContain('polarity')
  })
  it('puts what is owned before what must be bought, and the lesser loss first', () => {
    const link = bench.links.find(({ id }) => id === 'camera-feed')!
    const ways = findWays(bench, link, shelf)
    expect(ways[0]!.pieces.map((piece) => piece.gear.id)).toEqual(['mini-cable-0m5'])
    const missing = ways.map((way) => way.missing)
    expect(missing).toEqual([...missing].sort((one, other) => one - other))
    for (const { report } of ways)
      expect(report.findings.every(({ severity }) => severity === 'note')).toBe(true)
  })
  it('does not escape a load by an attenuator that takes far more', () => {
    const weak = {
      ...lapel,
      id: 'weak',
      ports: lapel.ports.map((port) => (port.id === 'out' ? { ...port, impedanceOhm: 2000 } : port)),
    }
    const recorder = shelf.get('saltmarsh-two-track')!
    const paired = pairOf(weak, 'out', recorder, 'in-1')
    const powered = { kind: 'set control', part: 'two', control: 'phantom-1', position: 'on' } as const
    const own = new Map([...shelf, [weak.id, weak]])
    const patch = applyEdits(paired, [powered], own)
    const [best] = findWays(patch, patch.links[0]!, own)
    expect(best!.pieces.map((piece) => piece.gear.id)).toEqual(['phantom-to-plug-in'])
    expect(best!.report.findings.map(({ code }) => code)).toContain('overloaded output')
  })
  const faultsFromLine = (into: string, port: string) => {
    const patch = pairOf(shelf.get('saltmarsh-two-track')!, 'line', shelf.get(into)!, port)
    const [{ pieces, report }] = findWays(patch, patch.links[0]!, shelf, { mostPieces: 3 }) as [Way]
    const faults = report.findings.filter(({ severity }) => severity !== 'note')
    return { pieces, faults: faults.map(({ code }) => code) }
  }
  it.runIf(isLong)('does not tie two signals together, though that loses less than a pad', () => {
    expect(faultsFromLine('oriel-float-recorder', 'in-1').faults).toEqual([])
  })
  it('plugs headphones straight in, though a line output is not made for them', () => {
    const { pieces, faults } = faultsFromLine('saltmarsh-closed-headphones', 'in')
    expect(pieces).toEqual([])
    expect(faults).toContain('overloaded output')
  })
  it('stops when cancelled', () => {
    expect(findWays(bench, bench.links[0]!, shelf, { cancelled: () => true })).toEqual([])
  })
  it('has nothing harmful in the wiring of its scenes, until a plug is moved', () => {
    expect(
      wiringFindings(wiringOf(bench, shelf)).filter(
        ({ severity }) => severity === 'dead' || severity === 'harmful',
      ),
    ).toEqual([])
    const unpowered = applyEdits(
      bench,
      [{ kind: 'set control', part: 'recorder', control: 'phantom-1', position: 'off' }],
      shelf,
    )
    expect(wiringFindings(wiringOf(unpowered, shelf))[0]).toMatchObject({
      code: 'supply missing',
      severity: 'dead',
      subject: { link: 'boom-cable' },
    })
    const powered = applyEdits(
      bench,
      [{ kind: 'set control', part: 'recorder', control: 'phantom-2', position: 'on' }],
      shelf,
    )
    expect(wiringFindings(wiringOf(powered, shelf)).map((finding) => finding.code)).toContain(
      'supply shorted',
    )
  })
})

describe('the best way', () => {
  const pairs: [string, string, string, string][] = [
    ['oriel-short-gun', 'out', 'saltmarsh-two-track', 'in-1'],
    ['fennimore-plug-in-lapel', 'out', 'saltmarsh-phone', 'headset'],
    ['oriel-short-gun', 'out', 'saltmarsh-phone', 'headset'],
    ['saltmarsh-two-track', 'line', 'saltmarsh-phone', 'headset'],
    ['saltmarsh-two-track', 'line', 'fennimore-mirrorless', 'mic'],
  ]
  it.each(cases(pairs, pairs.slice(0, 3)))(
    'from %s, %s, to %s, %s is the first of all, whatever is owned',
    (out, from, into, to) => {
      for (const owned of [undefined, 0]) {
        const own = new Map([...shelf].map(([id, thing]) => [id, { ...thing, owned: owned ?? thing.owned }]))
        const patch = pairOf(own.get(out)!, from, own.get(into)!, to)
        const [first] = harmlessWays(patch, patch.links[0]!, own, 2)
        const best = bestHarmlessWay(patch, patch.links[0]!, own, 2)
        const pieces = (way: Way | undefined) => way?.pieces.map((piece) => [piece.gear.id, piece.reversed])
        expect(pieces(best)).toEqual(pieces(first))
      }
    },
  )
})
