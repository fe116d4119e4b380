import { describe, expect, it } from 'vitest'
import { matings } from './index'

describe('mating by geometry', () => {
  it('joins second ring and sleeve of a four-contact socket on a three-contact plug', () => {
    expect(matings('mini-3', 'mini-4')).toEqual([
      [
        ['tip', 'tip'],
        ['ring', 'ring'],
        ['sleeve', 'second ring'],
        ['sleeve', 'sleeve'],
      ],
    ])
  })
  it('knows that a stereo plug in a mono socket may touch by sleeve or by ring', () => {
    expect(matings('mini-3', 'mini-2')).toHaveLength(2)
    expect(matings('mini-2', 'mini-2')).toHaveLength(1)
    expect(matings('mini-3', 'jack-3')).toEqual([])
  })
  it('mates the 6.35 mm plugs as the small ones', () => {
    expect(matings('jack-2', 'jack-2')).toEqual([
      [
        ['tip', 'tip'],
        ['sleeve', 'sleeve'],
      ],
    ])
    // the long sleeve of a mono plug lies on the ring of a stereo socket
    expect(matings('jack-2', 'jack-3')[0]).toEqual([
      ['tip', 'tip'],
      ['sleeve', 'ring'],
      ['sleeve', 'sleeve'],
    ])
    expect(matings('jack-3', 'jack-2')).toHaveLength(2)
  })
})
