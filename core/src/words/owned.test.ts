import { expect, it } from 'vitest'
import { known, missingIn } from '../model'
import { scene, shelf } from '../tests/demo'
import { ownedWords } from './owned'

const patch = scene('7-three-at-the-mould')
const thing = (id: string) => known(shelf.get(id), id)

it('says of a thing whether one more is there for a scene', () => {
  // three are worn at the mould, and two are owned
  const lapel = thing('fennimore-plug-in-lapel')
  expect(ownedWords(lapel, { ...patch, boxes: [] })).toBe('yours')
  expect(ownedWords(lapel, patch)).toBe('yours, in use here')
  expect(ownedWords({ ...lapel, owned: 4 }, patch)).toBe('yours')
  expect(ownedWords({ ...lapel, owned: 0 }, patch)).toBe('not owned')
  expect(ownedWords({ ...lapel, standIn: { note: 'unknown' } } as never, patch)).toBe('until you know')
})

it('counts what a scene uses more often than it is owned', () => {
  const names = (given?: typeof patch) => missingIn(patch, shelf, given).map(({ name }) => name)
  expect(names()).toContain('Plug-in lapel')
  expect(names().filter((name) => name === 'Analogue radio transmitter')).toHaveLength(2)
  // what was there before nobody has to buy, nor cameras, nor what owns itself
  expect(names(patch)).toEqual([])
  expect(missingIn(patch, shelf).some(({ kind }) => kind === 'camera' || kind === 'desk')).toBe(false)
})
