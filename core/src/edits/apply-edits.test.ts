import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { z } from 'zod'
import { lineSources, parse, Patch } from '../model'
import { scene, shelf } from '../tests/demo'
import { applyEdits, inverseOf, replayed, settledEdits } from './apply-edits'
import { Edit } from './edit'
import { placeRemoved, sourceRemoved } from './out-of-brief'

const bench = scene('1-the-founder-at-the-bench')
const refusal = (attempt: () => unknown): string => {
  try {
    attempt()
  } catch (error) {
    return (error as Error).message
  }
  return ''
}

const readingId = '00000000-0000-7000-8000-000000000001'
const keep: Edit = {
  kind: 'keep reading',
  id: readingId,
  reading: {
    id: readingId,
    at: '2026-03-14T12:00:00.000Z',
    step: 'settle boom',
    basis: 'x',
    result: { kind: 'seen' },
    gear: {},
    settings: {},
    playedDbfs: null,
  },
}

describe('edits', () => {
  const edits: Edit[] = [
    keep,
    { kind: 'set control', part: 'recorder', control: 'gain-1', position: 41 },
    { kind: 'lock control', part: 'camera', control: 'level', locked: true },
    { kind: 'change brief', to: { wind: 'gusts' } },
    {
      kind: 'change plan',
      to: { peakTarget: 'full', counts: 'camera only', marginDb: 6, backupsMayClip: true },
    },
    { kind: 'rename', name: 'The bench' },
    { kind: 'note', note: 'closed the window' },
    {
      kind: 'insert piece',
      link: 'camera-feed',
      at: 1,
      piece: { id: 'pad', gear: 'mini-pad-25', settings: {}, locked: [] },
    },
    { kind: 'remove piece', piece: 'camera-lead' },
    { kind: 'swap', part: 'camera', gear: 'fennimore-old-reflex' },
    { kind: 'place box', box: 'boom', place: 'lapel' },
    { kind: 'cover box', box: 'boom', cover: 'fur' },
    { kind: 'disconnect', link: 'ears' },
    { kind: 'remove box', box: 'phones' },
    {
      kind: 'add box',
      box: { id: 'spare', gear: 'saltmarsh-hand-dynamic', place: 'boom', settings: {}, locked: [] },
    },
  ]
  it('is undone by its inverse, in any order and number', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(edits), (chosen) => {
        let after: Patch
        try {
          after = applyEdits(bench, chosen, shelf)
        } catch (error) {
          expect((error as Error).name).toBe('Refusal')
          return
        }
        const back = applyEdits(after, inverseOf(bench, chosen, shelf), shelf)
        expect(parse(Patch, back, 'back')).toEqual(bench)
      }),
    )
  })
  it('leaves standing what was done to something else meanwhile', () => {
    const set = (part: string, control: string, position: number): Edit => ({
      kind: 'set control',
      part,
      control,
      position,
    })
    const others: Edit[] = [
      set('recorder', 'gain-1', 41),
      set('transmitter', 'gain', 12),
      {
        kind: 'add box',
        box: { id: 'spare', gear: 'saltmarsh-hand-dynamic', place: 'boom', settings: {}, locked: [] },
      },
      { kind: 'lock control', part: 'recorder', control: 'gain-2', locked: true },
      { kind: 'disconnect', link: 'ears' },
      { kind: 'change plan', to: { ...bench.plan, marginDb: 6 } },
      keep,
    ]
    const mine: Edit[] = [
      { kind: 'swap', part: 'camera', gear: 'fennimore-old-reflex' },
      { kind: 'remove piece', piece: 'camera-lead' },
      { kind: 'cover box', box: 'boom', cover: 'fur' },
      set('camera', 'level', 3),
    ]
    let tried = 0
    for (const edit of mine)
      for (const other of others) {
        const both = applyEdits(applyEdits(bench, [edit], shelf), [other], shelf)
        const back = parse(
          z.array(Edit),
          JSON.parse(JSON.stringify(inverseOf(bench, [edit], shelf))),
          'edits',
        )
        expect(parse(Patch, applyEdits(both, back, shelf), 'back')).toEqual(
          parse(Patch, applyEdits(bench, [other], shelf), 'alone'),
        )
        tried++
      }
    expect(tried).toBe(28)
  })
  it('is replayed as it was meant, whatever the shelf holds by then', () => {
    fc.assert(
      fc.property(fc.shuffledSubarray(edits), (chosen) => {
        let after: Patch
        try {
          after = applyEdits(bench, chosen, shelf)
        } catch {
          return
        }
        const stored = JSON.parse(JSON.stringify(settledEdits(bench, chosen, shelf))) as unknown
        const read = parse(z.array(Edit), stored, 'stored edits')
        expect(parse(Patch, replayed(bench, read), 'replayed')).toEqual(parse(Patch, after, 'after'))
      }),
    )
  })
  it('says nothing of what it leaves out, also after the way over the network', () => {
    const edit: Edit = { kind: 'change brief', to: { wind: 'gusts' } }
    expect(parse(Edit, JSON.parse(JSON.stringify(edit)), 'the edit')).toEqual(edit)
  })
  it('changes nothing when it is refused', () => {
    const before = structuredClone(bench)
    expect(
      refusal(() =>
        applyEdits(
          bench,
          [{ kind: 'set control', part: 'recorder', control: 'gain-1', position: 400 }],
          shelf,
        ),
      ),
    ).toMatch(/cannot be set to/)
    expect(refusal(() => applyEdits(bench, [{ kind: 'remove box', box: 'camera' }], shelf))).toMatch(
      /missing/,
    )
    expect(
      refusal(() =>
        applyEdits(bench, [{ kind: 'set control', part: 'ghost', control: 'x', position: 1 }], shelf),
      ),
    ).toMatch(/no longer in the chain/)
    expect(bench).toEqual(before)
  })
  it('say what a desk carries, and let go of it when that leaves the brief', () => {
    const hall = scene('4-bells-in-the-town-hall')
    const [line] = lineSources(hall)
    const carried = (patch: Patch) => patch.boxes.find(({ id }) => id === 'desk')!.source
    expect(carried(hall)).toBe(line!.id)
    const removal = sourceRemoved(hall, line!.id)
    const without = applyEdits(hall, removal, shelf)
    expect(carried(without)).toBeUndefined()
    expect(lineSources(without)).toEqual([])
    const back = applyEdits(without, inverseOf(hall, removal, shelf), shelf)
    expect(parse(Patch, back, 'back')).toEqual(hall)
    const spoken = hall.brief.sources.find(({ kind }) => kind !== 'line')!
    expect(
      refusal(() => applyEdits(hall, [{ kind: 'feed box', box: 'desk', source: spoken.id }], shelf)),
    ).toMatch(/is no line feed/)
  })
  it('leave a microphone standing nowhere when its place leaves the brief', () => {
    const without = applyEdits(bench, placeRemoved(bench, 'boom'), shelf)
    expect(without.boxes.find(({ id }) => id === 'boom')!.place).toBeUndefined()
    expect(without.brief.places.map(({ id }) => id)).toEqual(['lapel'])
  })
  it('swaps a box and keeps cables in matching sockets and settings that fit', () => {
    const swapped = applyEdits(
      bench,
      [{ kind: 'swap', part: 'recorder', gear: 'oriel-float-recorder' }],
      shelf,
    )
    expect(swapped.boxes.find(({ id }) => id === 'recorder')).toMatchObject({
      gear: 'oriel-float-recorder',
      settings: { output: -28, phones: -30 },
    })
    expect(swapped.links.map(({ from, to }) => [from.port, to.port])).toEqual(
      bench.links.map(({ from, to }) => [from.port, to.port]),
    )
  })
})
