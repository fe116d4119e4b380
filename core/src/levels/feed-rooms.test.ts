import { describe, expect, it } from 'vitest'
import { type Patch, withFeedLevel } from '../model'
import { scene, shelf } from '../tests/demo'
import { feedWords } from '../words'
import { feedRooms } from './feed-rooms'
import { levelsOfPatch } from './levels'

const hall = scene('4-bells-in-the-town-hall')
const feed = hall.brief.sources.find((source) => source.kind === 'line')!
const withLoudest = (loudest: number): Patch => ({
  ...hall,
  brief: { ...hall.brief, ...withFeedLevel(hall.brief, feed, { loudest }) },
})
const roomsOf = (patch: Patch) => feedRooms(levelsOfPatch(patch, shelf).runs, feed.id)

describe('room for a line feed', () => {
  it('is that of every recording, those alike together, the least first', () => {
    const rooms = roomsOf(hall)
    expect(rooms.map(({ boxName, tracks }) => [boxName, ...tracks])).toEqual([
      ['Backup recorder', 'track 1', 'safety of 1'],
      ['Camcorder', 'channel 2', 'channel 3'],
    ])
    expect(rooms[0]!.ceiling).toMatchObject({ place: 'House desk, record output' })
    expect(feedRooms(levelsOfPatch(hall, shelf).runs, 'nobody')).toEqual([])
  })
  it('is used up by just so much more of it, and no less', () => {
    const { peakDbu, headroomDb } = roomsOf(hall)[0]!.ceiling!
    const louder = roomsOf(withLoudest(feed.levelsDbu.loudest + headroomDb))[0]!.ceiling!
    expect(Math.abs(louder.headroomDb)).toBeLessThan(0.05)
    expect(Math.abs(louder.peakDbu - peakDbu)).toBeLessThan(0.05)
    expect(feedWords(roomsOf(withLoudest(feed.levelsDbu.loudest + headroomDb + 3)))).toMatch(
      /^Its peaks pass House desk, record output by 3\.0 dB: ask for so much less\.$/,
    )
  })
  it('asks for less where the sender itself is passed, and else offers to attenuate', () => {
    const [room] = roomsOf(hall)
    const at = (isSender: boolean) => ({
      ...room!,
      ceiling: { ...room!.ceiling!, headroomDb: -6, isSender },
    })
    expect(feedWords([at(true)])).not.toMatch(/attenuate/)
    expect(feedWords([at(false)])).toMatch(/attenuate it before that on Patch\.$/)
  })
  it('is said with the level that its sender is to keep under', () => {
    // the output carries 21 dBu at most (its figure on the shelf)
    expect(feedWords(roomsOf(hall))).toMatch(
      /^Its peaks may reach \+?21\.0 dBu, 4\.0 dB more than said here: then House desk, record output is passed\./,
    )
    expect(feedWords([])).toMatch(/arrives on no recording yet/)
  })
  it('has the noise where the verdict has it', () => {
    const patch = hall
    const [run] = levelsOfPatch(patch, shelf).runs.filter(({ source }) => source.id === feed.id)
    for (const { noiseDbu } of roomsOf(patch))
      expect(noiseDbu).toBeCloseTo(run!.atSource.typical - run!.speechToNoiseDb, 0)
  })
})
