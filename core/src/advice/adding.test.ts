import { describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import { levelsOfPatch } from '../levels'
import { lineSources, type Patch, withSource } from '../model'
import { scene, shelf } from '../tests/demo'
import { addingEdits, socketsOf } from './adding'
import { leadsIn } from './leads'

describe('adding a desk', () => {
  const bench = scene('1-the-founder-at-the-bench')
  const fed = { ...bench, brief: { ...bench.brief, ...withSource(bench.brief, 'line') } }
  const desk = shelf.get('house-desk')!
  it('gives it the line feed of the brief, which is then recorded', () => {
    const hall = scene('4-bells-in-the-town-hall')
    const pulled = hall.links.filter(({ from }) => from.box === 'desk')
    const bare = applyEdits(
      hall,
      [
        ...pulled.map(({ id }) => ({ kind: 'disconnect', link: id }) as const),
        { kind: 'remove box', box: 'desk' },
      ],
      shelf,
    )
    const target = socketsOf(bare, shelf, 'in', true).find(({ end }) => end.port === pulled[0]!.to.port)!
    const carried = (patch: Patch) =>
      levelsOfPatch(patch, shelf).runs.filter(
        ({ source, end }) => source.id === lineSources(hall)[0]!.id && end.kind === 'recording',
      )
    expect(carried(bare)).toEqual([])
    const joined = applyEdits(bare, addingEdits(bare, desk, shelf, { target }), shelf)
    expect(carried(joined)).not.toEqual([])
  })
  it('gives nothing to a second desk, nor to what cannot carry a feed', () => {
    const [first] = addingEdits(fed, desk, shelf, {})
    const one = applyEdits(fed, [first!], shelf)
    expect(one.boxes.at(-1)!.source).toBe(lineSources(fed)[0]!.id)
    expect(applyEdits(one, addingEdits(one, desk, shelf, {}), shelf).boxes.at(-1)!.source).toBeUndefined()
    const recorder = shelf.get(bench.boxes.find(({ id }) => id === 'recorder')!.gear)!
    expect(addingEdits(fed, recorder, shelf, {})[0]).toMatchObject({ box: { source: undefined } })
  })
})

describe('adding a box', () => {
  const bench = scene('1-the-founder-at-the-bench')
  it('takes the leads along that join it on both sides, and every one of them works', () => {
    const without = applyEdits(
      bench,
      bench.links
        .filter(({ to }) => to.box === 'camera')
        .map(({ id }) => ({ kind: 'disconnect', link: id }) as const),
      shelf,
    )
    const output = socketsOf(without, shelf, 'out', false).find(({ id }) => id === 'recorder.line')!
    const target = socketsOf(without, shelf, 'in', true).find(({ end }) => end.box === 'camera')!
    const edits = addingEdits(without, shelf.get('quernstone-camera-preamplifier')!, shelf, {
      source: output,
      target,
    })
    expect(leadsIn(edits, without, shelf).map(({ kind }) => kind)).toEqual(['cable', 'cable'])
    const next = applyEdits(without, edits, shelf)
    const fed = levelsOfPatch(next, shelf).runs.filter(({ end }) => end.box === 'camera')
    expect(fed.some(({ stop }) => !stop)).toBe(true)
  })
  it('plugs in what has a lead of its own, and lays a cable between XLR sockets', () => {
    const lapel = shelf.get('fennimore-plug-in-lapel')!
    const camera = shelf.get('fennimore-old-reflex')!
    const boxed = applyEdits(bench, addingEdits(bench, camera, shelf, {}), shelf)
    const target = socketsOf(boxed, shelf, 'in', true).find(({ end }) => end.box === boxed.boxes.at(-1)!.id)!
    expect(leadsIn(addingEdits(boxed, lapel, shelf, { target }), boxed, shelf)).toEqual([])
    const recorder = applyEdits(
      bench,
      addingEdits(bench, shelf.get('saltmarsh-four-track')!, shelf, {}),
      shelf,
    )
    const input = socketsOf(recorder, shelf, 'in', true).find(
      ({ end }) => end.box === recorder.boxes.at(-1)!.id,
    )!
    const gun = addingEdits(recorder, shelf.get('oriel-short-gun')!, shelf, { target: input })
    expect(leadsIn(gun, recorder, shelf).map(({ kind }) => kind)).toEqual(['cable'])
  })
})

describe('a microphone that comes into a chain', () => {
  const bench = scene('1-the-founder-at-the-bench')
  const usualPlaceFor = (patch: Patch, gear: string, asked?: string | null) => {
    const next = applyEdits(patch, addingEdits(patch, shelf.get(gear)!, shelf, { place: asked }), shelf)
    const { place } = next.boxes.at(-1)!
    return { next, place: next.brief.places.find(({ id }) => id === place) }
  }
  it('stands at once where one of its kind does: at a free place that suits it, or at a new one', () => {
    const free = { ...bench, boxes: bench.boxes.map(({ place: _, ...box }) => box) }
    const [boom, lapel] = bench.brief.places
    expect(usualPlaceFor(free, 'oriel-short-gun').place).toEqual(boom)
    expect(usualPlaceFor(free, 'fennimore-plug-in-lapel').place).toEqual(lapel)
    // both are taken: further ones get places of their own
    const further = usualPlaceFor(bench, 'oriel-short-gun')
    expect(further.next.brief.places).toHaveLength(bench.brief.places.length + 1)
    expect(further.place!.hears).toEqual([{ source: 'founder', distanceM: 0.45, angleDeg: 10 }])
    const onCamera = usualPlaceFor(bench, 'oriel-on-camera-gun')
    expect(onCamera.place!.hears[0]!.distanceM).toBeCloseTo(35 / 13.2, 3)
    // and the next one on the camera shares it
    expect(usualPlaceFor(onCamera.next, 'oriel-on-camera-gun').place!.id).toBe(onCamera.place!.id)
  })
  it('stands where it is put, or nowhere; what hears no room stands nowhere', () => {
    expect(usualPlaceFor(bench, 'oriel-short-gun', bench.brief.places[1]!.id).place).toEqual(
      bench.brief.places[1],
    )
    expect(usualPlaceFor(bench, 'oriel-short-gun', null).place).toBeUndefined()
    expect(usualPlaceFor(bench, 'saltmarsh-four-track').next.boxes.at(-1)!.place).toBeUndefined()
  })
})
