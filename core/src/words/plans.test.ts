import { expect, it } from 'vitest'
import { pairOf, shelf } from '../tests/demo'
import { known } from '../model'
import { planNames, toBuyWords } from './plans'

const thing = (id: string) => known(shelf.get(id), id)
const camera = thing('fennimore-mirrorless')
const plan = (microphone: string, through: string[], pad?: string) => {
  const patch = pairOf(thing(microphone), 'out', camera, 'mic')
  const pieces = pad ? [{ id: 'pad', gear: pad, reversed: false, settings: {}, locked: [] }] : []
  return { through, patch: { ...patch, links: patch.links.map((link) => ({ ...link, pieces })) } }
}

it('tells plans apart by what is on the way, and by what hears the scene where that differs', () => {
  const straight = plan('oriel-short-gun', [])
  const recorder = plan('oriel-short-gun', ['Float recorder'], 'mini-pad-25')
  expect(planNames([straight, recorder], shelf)).toEqual([
    'straight in',
    'by Float recorder, Mini pad, 25 dB',
  ])
  const lapel = plan('fennimore-plug-in-lapel', ['Float recorder'], 'mini-pad-25')
  const builtIn = { ...straight, patch: { ...straight.patch, boxes: straight.patch.boxes.slice(1) } }
  const held = plan('saltmarsh-hand-dynamic', [])
  expect(planNames([recorder, lapel, builtIn, held], shelf)).toEqual([
    'Short gun, by Float recorder, Mini pad, 25 dB',
    'Plug-in lapel, by Float recorder, Mini pad, 25 dB',
    'built-in microphone, straight in',
    'Hand-held dynamic (in the picture), straight in',
  ])
})

it('says what must be bought, and how often', () => {
  const lapel = { ...thing('fennimore-plug-in-lapel'), owned: 0, price: 30 }
  const pad = { ...thing('mini-pad-25'), owned: 1, price: 15 }
  expect(toBuyWords([lapel, pad, lapel])).toBe(
    'To buy: 2 \u00D7 Plug-in lapel, another Mini pad, 25 dB, about 75.',
  )
  // what has no price is not added as nothing
  const { price: _, ...free } = pad
  expect(toBuyWords([free])).toBe(`To buy: another ${pad.name}.`)
  expect(toBuyWords([free, lapel])).toMatch(/about \d+, not counting what has no price\.$/)
  expect(toBuyWords([])).toBe('')
})
