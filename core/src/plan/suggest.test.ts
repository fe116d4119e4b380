import { describe, expect, it } from 'vitest'
import type { Gear, Shelf } from '../model'
import { shelf } from '../tests/demo'
import {
  type HeardWith,
  heardWithChoices,
  isOwned,
  planScene,
  scenarios,
  suggestScene,
  type Question,
} from './index'

const named = (heardWith: HeardWith) =>
  heardWith === 'built in' ? heardWith : `${heardWith.microphone.id}${heardWith.radio ? ' by radio' : ''}`
const some = (...ids: string[]): Shelf => new Map([...shelf].filter(([id]) => ids.includes(id)))

describe('what a scene could be heard with', () => {
  const all = heardWithChoices(shelf.get('fennimore-mirrorless')!, shelf).map(named)
  it('is every microphone, and by radio what works into a transmitter that is owned', () => {
    expect(all).toContain('fennimore-plug-in-lapel')
    expect(all).toContain('fennimore-plug-in-lapel by radio')
    expect(all).not.toContain('oriel-on-camera-gun by radio')
  })
  it('by radio is also what needs power that a box has which goes on to a transmitter', () => {
    expect(all).toContain('oriel-short-gun by radio')
    const hasPower = ({ kind }: Gear) => kind === 'recorder' || kind === 'preamplifier' || kind === 'mixer'
    const without = new Map([...shelf].filter(([, gear]) => !hasPower(gear)))
    const fewer = heardWithChoices(shelf.get('fennimore-mirrorless')!, without).map(named)
    expect(fewer).not.toContain('oriel-short-gun by radio')
    expect(fewer).toContain('fennimore-plug-in-lapel by radio')
  })
  it('follows the circuit and not the shape of the plugs: a TA3 lapel works by its lead', () => {
    expect(all).toContain('fennimore-ta3-lapel by radio')
    const without = new Map([...shelf].filter(([id]) => id !== 'ta3-to-mini'))
    expect(heardWithChoices(shelf.get('fennimore-mirrorless')!, without).map(named)).not.toContain(
      'fennimore-ta3-lapel by radio',
    )
  })
  it('is what a camera has built in, where it has', () => {
    expect(all).not.toContain('built in')
    expect(heardWithChoices(shelf.get('saltmarsh-phone')!, shelf).map(named)).toContain('built in')
  })
})

describe('a suggestion', () => {
  it('is as good as the best of all that are owned, each planned by itself', () => {
    const few = some(
      'fennimore-mirrorless',
      'oriel-on-camera-gun',
      'oriel-short-gun',
      'saltmarsh-two-track',
      'xlr-cable-1m5',
      'mini-cable-0m5',
      'mini-pad-25',
    )
    const question: Omit<Question, 'heardWith'> = {
      camera: few.get('fennimore-mirrorless')!,
      scenario: scenarios[0]!,
    }
    const shares: number[] = []
    const [best] = suggestScene(question, few, (share) => shares.push(share))
    expect(shares.at(-1)).toBe(1)
    const each = heardWithChoices(question.camera, few)
      .filter(isOwned)
      .flatMap((heardWith) => planScene({ ...question, heardWith }, few).slice(0, 1))
    const alive = each.filter(({ dead, troubles }) => dead + troubles === 0)
    expect(Math.max(...alive.map(({ worstDb }) => worstDb))).toBeCloseTo(best!.worstDb, 9)
    expect(best!.patch.boxes.some(({ gear }) => gear === 'oriel-short-gun')).toBe(true)
  })
  it('holds a microphone into the picture only where nothing else comes near it', () => {
    const suggested = (film: string, scenario: string, ...ids: string[]) => {
      const leads = ['xlr-cable-1m5', 'mini-cable-0m5', 'mini-pad-25', 'mini-to-xlr', 'phantom-to-plug-in']
      const few = some(film, 'saltmarsh-hand-dynamic', 'oriel-float-recorder', ...leads, ...ids)
      const question = { camera: few.get(film)!, scenario: scenarios.find(({ id }) => id === scenario)! }
      return suggestScene(question, few)
    }
    const seen = (...ids: string[]) =>
      suggested('fennimore-mirrorless', 'seated', ...ids).map(({ drawbacks }) => drawbacks.length > 0)
    expect(seen()).toEqual([true])
    expect(seen('oriel-short-gun')).toEqual([false, true])
    // also where it alone is over what is easy to use
    const [best, other] = suggested('tarnwick-action-camera', 'walking', 'fennimore-plug-in-lapel')
    expect(best!.drawbacks).not.toContain('in the picture')
    expect(other!.drawbacks).toContain('in the picture')
    expect(other!.worstDb).toBeGreaterThan(best!.worstDb)
  })
  it('follows who walks about by radio, or from the camera', () => {
    const leads = ['mini-cable-0m5', 'mini-to-xlr', 'mini-pad-25']
    const radio = ['tarnwick-digital-transmitter', 'tarnwick-digital-receiver']
    const few = some('fennimore-mirrorless', 'fennimore-plug-in-lapel', ...leads, ...radio)
    const camera = few.get('fennimore-mirrorless')!
    const [best, other] = suggestScene(
      { camera, scenario: scenarios.find(({ id }) => id === 'walking')! },
      few,
    )
    expect([best!.drawbacks, other!.drawbacks]).toEqual([[], ['on a wire']])
    expect(best!.patch.boxes.map(({ gear }) => gear)).toContain('tarnwick-digital-transmitter')
    const [seated] = suggestScene({ camera, scenario: scenarios[0]! }, few)
    expect(seated!.drawbacks).toEqual([])
  })
})
