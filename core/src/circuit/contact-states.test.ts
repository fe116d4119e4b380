import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { contactsOf, gearOf, type Link, parseJson, Patch, ShelfFile, shelfOf } from '../model'
import { factsOf, contactStates, pieceOfGear, pieceStrands, pluggedLink, startAt, variantsOf } from './index'

const demo = new URL('../../../demo/', import.meta.url)
const read = (file: string) => readFileSync(new URL(file, demo), 'utf8')
const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)
const scenes = readdirSync(new URL('scenes/', demo)).map((file) =>
  parseJson(Patch, read(`scenes/${file}`), file),
)
const scene = (name: string) => scenes.find((patch) => patch.name === name)!

const solved = (patch: Patch, link: Link) => {
  const plugged = pluggedLink(patch, link, shelf)
  const found = plugged && variantsOf(plugged)
  return found && 'variants' in found
    ? { plugged, variant: found.variants[0]!, drawn: contactStates(plugged, found.variants[0]!) }
    : undefined
}
const everyLink = scenes.flatMap((patch) =>
  patch.links.flatMap((link) => {
    const found = solved(patch, link)
    return found ? [{ patch, link, ...found }] : []
  }),
)

describe('contacts of a link', () => {
  it('are the same on both sides of every touch and every bare wire', () => {
    expect(everyLink.length).toBeGreaterThan(20)
    for (const { drawn } of everyLink)
      drawn.strands.forEach((strands, index) => {
        for (const { from, to, through } of strands) {
          if (through === 'part') continue
          const [one, other] = [drawn.halves[index]!.contacts[from]!, drawn.halves[index + 1]!.contacts[to]!]
          // a wire has a fraction of an ohm in it
          expect(Math.abs(one.volts - other.volts)).toBeLessThan(0.05)
          expect(one.signals.length).toBe(other.signals.length)
          one.signals.forEach(({ db, sign }, at) => {
            expect(Math.abs(db - other.signals[at]!.db)).toBeLessThan(0.2)
            expect(sign).toBe(other.signals[at]!.sign)
          })
        }
      })
  })
  it('agree with what is read off the solution for the channels of the input', () => {
    for (const { plugged, variant, drawn } of everyLink) {
      const [input] = plugged.inputs
      for (const channel of input!.channels) {
        if (channel.cold !== undefined) continue
        const contact = drawn.halves.at(-1)!.contacts.find((each) => each.contact === channel.hot)!
        for (const reach of factsOf(plugged, variant).reaches)
          if (reach.channel === channel.id && reach.db > -60)
            expect(contact.signals.find(({ signal }) => signal === reach.signal)!.db).toBeCloseTo(reach.db, 9)
      }
    }
  })
  it('carry as much DC into the output as the supplies give, where nothing but wires lies between', () => {
    let compared = 0
    for (const { plugged, drawn } of everyLink) {
      if (
        plugged.inputs.length > 1 ||
        plugged.pieces.some(({ parts }) => parts?.some(({ kind }) => kind !== 'resistor'))
      )
        continue
      const given = drawn.halves.at(-1)!.contacts.reduce((sum, { amperes }) => sum + (amperes ?? 0), 0)
      const taken = drawn.halves[0]!.contacts.reduce((sum, { amperes }) => sum + (amperes ?? 0), 0)
      // an input that bleeds some of its own supply gives more than the output takes
      if (given === 0 || plugged.inputs[0]!.channels.some(({ cold }) => cold === undefined)) continue
      expect(taken).toBeCloseTo(given, 5)
      compared++
    }
    expect(compared).toBeGreaterThan(1)
  })
  it('name a contact by the loudest thing that travels there', () => {
    const bench = scene('The founder at the bench')
    const drawn = (id: string) =>
      solved(
        bench,
        bench.links.find((link) => link.id === id)!,
      )!.drawn
    expect(drawn('boom-cable').halves[0]!.contacts.map(({ travels }) => travels)).toEqual([
      'ground',
      'signal',
      'return',
    ])
    const radio = drawn('receiver-cable')
      .halves.at(-1)!
      .contacts.map(({ travels }) => travels)
    expect(radio).toEqual(['ground', 'signal', 'ground'])
  })
})

describe('a piece by itself', () => {
  const strandsOf = (id: string) => pieceStrands(pieceOfGear(id, shelf.get(id)!, {})!)
  it('of wires alone joins each contact to its own', () => {
    const [drawn] = strandsOf('xlr-cable-6m')
    expect(drawn!.strands[0]).toEqual([0, 1, 2].map((at) => ({ from: at, to: at, through: 'wire' })))
  })
  it('crossed, joins them crosswise', () => {
    const [{ strands }] = strandsOf('mini-crossed') as [ReturnType<typeof strandsOf>[number]]
    expect(strands[0]!.map(({ from, to }) => [from, to])).toEqual([
      [0, 1],
      [1, 0],
      [2, 2],
    ])
  })
  it('with a transformer or a capacitor says that a part lies between', () => {
    for (const id of ['isolating-transformer', 'dc-blocker', 'usb-c-microphone'])
      expect(strandsOf(id)[0]!.strands[0]!.some(({ through }) => through === 'part')).toBe(true)
  })
  it('with several ends shows each pair that is joined', () => {
    // microphone to plug, plug to headphones; nothing goes from the microphone to the headphones
    expect(strandsOf('headset-splitter').map(({ halves }) => halves.map(({ name }) => name))).toEqual([
      ['towards the source', 'other end'],
      ['other end', 'further end'],
    ])
    expect(strandsOf('mini-splitter').length).toBe(2)
  })
  it('has every contact of both its shapes', () => {
    for (const gear of shelf.values()) {
      const piece = pieceOfGear(gear.id, gear, {})
      for (const { halves } of piece ? pieceStrands(piece) : [])
        for (const half of halves)
          expect(half.contacts.map(({ contact }) => contact)).toEqual(contactsOf[half.shape])
    }
  })
})

describe('where another link begins', () => {
  const bench = scene('The founder at the bench')
  const line = { box: 'recorder', port: 'line' }
  it('at the socket itself while it is free', () => {
    const free = { ...bench, links: bench.links.filter(({ from }) => from.port !== 'line') }
    expect(startAt(free, line, shelf)).toEqual({ at: 'output' })
  })
  it('at a splitter that fits between, owned first, once it is taken', () => {
    const start = startAt(bench, line, shelf)
    expect(start).toMatchObject({ at: 'new splitter', gear: { id: 'mini-splitter' } })
    const splitter = gearOf(shelf, 'mini-splitter')
    const [bought, other] = [
      { ...splitter, owned: 0 },
      { ...splitter, id: 'other-splitter' },
    ]
    const two = shelfOf([...shelf.values()].flatMap((each) => (each === splitter ? [bought, other] : [each])))
    expect(startAt(bench, line, two)).toMatchObject({ gear: { id: 'other-splitter' } })
  })
  it('at the free end of one that is there', () => {
    const yard = scene('Words over the yard')
    const pulled = { ...yard, links: yard.links.filter(({ branch }) => !branch) }
    expect(startAt(pulled, { box: 'mixer', port: 'camera' }, shelf)).toEqual({
      at: 'splitter',
      branch: { piece: 'splitter', end: 2 },
    })
    // both ends taken: another splitter goes in front
    expect(startAt(yard, { box: 'mixer', port: 'camera' }, shelf)).toMatchObject({ at: 'new splitter' })
  })
  it('nowhere when no splitter on the shelf has such plugs', () => {
    const bare = shelfOf([...shelf.values()].filter(({ passive }) => !passive?.more))
    expect(startAt(bench, line, bare)).toBeUndefined()
  })
})
