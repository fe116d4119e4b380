import { describe, expect, it } from 'vitest'
import { gearOf, type Patch, type Source, withFeedLevel } from '../model'
import { type HeardWith, planScene, scenarios } from '../plan'
import { scene, shelf } from '../tests/demo'
import { feedWords } from '../words'
import { type FeedRoom, feedRooms } from './feed-rooms'
import { levelsOfPatch } from './levels'

type Feed = Extract<Source, { kind: 'line' }>
const feedOf = (patch: Patch): Feed => patch.brief.sources.find((source) => source.kind === 'line')!
const louder = (patch: Patch, moreDb: number): Patch => {
  const feed = feedOf(patch)
  const { quietest, typical, loudest } = feed.levelsDbu
  const to = { quietest: quietest + moreDb, typical: typical + moreDb, loudest: loudest + moreDb }
  return { ...patch, brief: { ...patch.brief, ...withFeedLevel(patch.brief, feed, to) } }
}
const roomsOf = (patch: Patch) => feedRooms(patch, shelf, feedOf(patch))
const headroomOf = (patch: Patch, { box, tracks }: FeedRoom) =>
  levelsOfPatch(patch, shelf).runs.find(
    ({ source, end }) => source.kind === 'line' && end.box === box && end.name === tracks[0],
  )!.tightest!.ceiling.headroomDb
const hall = scene('4-bells-in-the-town-hall')

describe('room for a line feed', () => {
  it('is that of every recording, those alike together, the least first', () => {
    const rooms = roomsOf(hall)
    expect(rooms.map(({ boxName, tracks }) => [boxName, ...tracks])).toEqual([
      ['Backup recorder', 'track 1', 'safety of 1'],
      ['Camcorder', 'channel 2', 'channel 3'],
    ])
    // 6 dBu and a crest of 14 dB, as the peak of a sine, and an output of 21 dBu
    expect(rooms[0]!.ceiling).toMatchObject({ place: 'House desk, record output', isSender: true })
    expect(rooms[0]!.ceiling!.spareDb).toBeCloseTo(21 - (6 + 14 - 3.0103), 1)
  })
  it('is used up by just so much more of it, also behind automatic gain that gives way', () => {
    const heardWith: HeardWith = { microphone: gearOf(shelf, 'oriel-room-omni'), radio: false }
    const scenario = scenarios.find(({ id }) => id === 'stage')!
    const reflex = planScene(
      { camera: gearOf(shelf, 'fennimore-old-reflex'), scenario, heardWith },
      shelf,
    )[0]!
    for (const patch of [hall, louder(hall, 9), reflex.patch, louder(reflex.patch, 22)])
      for (const room of roomsOf(patch)) {
        const { spareDb } = room.ceiling!
        expect(Math.abs(headroomOf(louder(patch, spareDb), room)), patch.name).toBeLessThan(0.05)
      }
    // the headroom of what is far too hot is no measure of it there
    const [hot] = roomsOf(louder(reflex.patch, 22))
    expect(hot!.ceiling!.spareDb).toBeLessThan(headroomOf(louder(reflex.patch, 22), hot!) - 0.2)
  })
  it('is said with the level that its sender is to keep under', () => {
    expect(feedWords(roomsOf(hall))).toBe(
      'Its peaks may reach 21.0 dBu, 4.0 dB more than given here, before House desk, record output is overloaded. Tell whoever sends it.',
    )
    expect(feedWords(roomsOf(louder(hall, 7)))).toBe(
      'It is 3.0 dB too hot for House desk, record output: ask for that much less.',
    )
    expect(feedWords([])).toMatch(/Nothing records it yet/)
  })
  it('offers an attenuator only where one can be put before it', () => {
    const [room] = roomsOf(hall)
    const at = (isSender: boolean, spareDb = -6): FeedRoom[] => [
      { ...room!, ceiling: { ...room!.ceiling!, spareDb, isSender } },
    ]
    expect(feedWords(at(true))).not.toMatch(/attenuat/)
    expect(feedWords(at(false))).toMatch(/put an attenuator before it on Patch\.$/)
    expect(feedWords(at(false, -Infinity))).toMatch(/something else is too hot there/)
  })
  it('has the noise where the verdict has it', () => {
    const run = levelsOfPatch(hall, shelf).runs.find(({ end }) => end.boxName === 'Backup recorder')!
    expect(roomsOf(hall)[0]!.noiseDbu).toBeCloseTo(run.atSource.typical - run.speechToNoiseDb, 9)
  })
})
