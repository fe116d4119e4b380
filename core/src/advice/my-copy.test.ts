import { describe, expect, it } from 'vitest'
import { gearOf } from '../model'
import { shelf } from '../tests/demo'
import { isMyCopy, myCopyOf } from './my-copy'

describe('a copy of one’s own', () => {
  const thing = gearOf(shelf, 'fennimore-mirrorless')
  it('is the same under a free name and id, owned, and says what it was copied from', () => {
    const first = myCopyOf(thing, [thing], '0198c0de-0000-7000-8000-00000000aaaa')
    const second = myCopyOf(thing, [thing, first], '0198c0de-0000-7000-8000-00000000bbbb')
    expect(first).toEqual({
      ...thing,
      id: first.id,
      name: first.name,
      owned: Math.max(1, thing.owned),
      copyOf: thing.id,
    })
    expect(new Set([thing.id, first.id, second.id]).size).toBe(3)
    // also where the first was deleted and is no longer known
    expect(myCopyOf(thing, [thing], '0198c0de-0000-7000-8000-00000000cccc').id).not.toBe(first.id)
    expect(new Set([thing.name, first.name, second.name]).size).toBe(3)
  })
  it('is known as one whatever it is called', () => {
    expect(isMyCopy(thing)).toBe(false)
    expect(isMyCopy({ ...thing, id: 'my-thing', name: 'My thing' })).toBe(false)
    expect(
      isMyCopy({ ...myCopyOf(thing, [thing], '0198c0de-0000-7000-8000-00000000aaaa'), id: 'other' }),
    ).toBe(true)
  })
})
