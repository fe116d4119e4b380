import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { channelsOf, levelsOfPatch, monoLosses } from '../levels'
import { applyEdits, type Edit } from '../edits'
import {
  type Box,
  checkPatch,
  type Gear,
  type Link,
  parseJson,
  Patch,
  Refusal,
  type Shelf,
  ShelfFile,
  shelfOf,
} from '../model'
import { findWays, joinAt, pluggedLink, reportOf, wayTo, wiringFindings, wiringOf } from './index'
import { circuitWords } from '../words'
import type { CircuitFinding } from '../findings'

const read = (file: string) => readFileSync(new URL(`../../../demo/${file}`, import.meta.url), 'utf8')
const shelf: Shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)
const scene = (file: string) => parseJson(Patch, read(`scenes/${file}.json`), file)
const bench = scene('1-the-founder-at-the-bench')

type Through = string | { id: string; gear: string; reversed?: boolean }
const box = (id: string, gear: string, more: Partial<Box> = {}): Box => ({
  id,
  gear,
  settings: {},
  locked: [],
  ...more,
})
const end = (text: string) => {
  const [at, port] = text.split('.') as [string, string]
  return { box: at, port }
}
const link = (
  id: string,
  from: string,
  to: string,
  pieces: Through[] = [],
  more: Partial<Link> = {},
): Link => ({
  id,
  from: end(from),
  to: end(to),
  pieces: pieces.map((each) => ({
    settings: {},
    locked: [],
    ...(typeof each === 'string' ? { id: `${id}-${each}`, gear: each } : each),
  })),
  ...more,
})
const patchOf = (boxes: Box[], links: Link[]): Patch => ({ ...bench, boxes, links })
const found = (patch: Patch, code: CircuitFinding['code'], on: Shelf = shelf) =>
  wiringFindings(wiringOf(patch, on)).filter((finding) => finding.code === code)
const worst = (patch: Patch, on: Shelf = shelf) => wiringFindings(wiringOf(patch, on))[0]
const bad = (patch: Patch, on: Shelf = shelf) =>
  wiringFindings(wiringOf(patch, on)).filter(({ severity }) => severity === 'dead' || severity === 'harmful')
const changed = (id: string, change: (gear: Gear) => Gear): Shelf =>
  shelfOf([...shelf.values()].map((gear) => (gear.id === id ? change(gear) : gear)))

describe('splitters', () => {
  const boom = box('boom', 'oriel-short-gun', { place: 'boom' })
  const recorder = box('recorder', 'saltmarsh-two-track', { settings: { 'phantom-1': 'on' } })
  const camera = box('camera', 'fennimore-mirrorless')
  const phones = box('phones', 'saltmarsh-studio-headphones')
  const feed = link('feed', 'recorder.line', 'camera.mic', [
    { id: 'splitter', gear: 'mini-splitter' },
    'mini-cable-0m5',
  ])
  const boomCable = link('boom-cable', 'boom.out', 'recorder.in-1', ['xlr-cable-6m'])
  const alone = patchOf([boom, recorder, camera, phones], [boomCable, feed])
  const ears = link('ears', 'recorder.line', 'phones.in', [], { branch: { piece: 'splitter', end: 2 } })
  const both = { ...alone, links: [...alone.links, ears] }
  const arriving = (patch: Patch, channel = 'left') =>
    wiringOf(patch, shelf)
      .find((wired) => wired.link === 'feed')!
      .report.variants[0]!.facts.reaches.find(
        (reach) => reach.channel === channel && reach.signal === channel,
      )!.db

  it('headphones on the splitter pull the feed down by the divider they make with the output', () => {
    const ohm = (gear: string, port: string) => {
      const value = shelf.get(gear)!.ports.find(({ id }) => id === port)!.impedanceOhm
      return typeof value === 'object' ? value.value : Number(value)
    }
    const source = ohm('saltmarsh-two-track', 'line')
    const input = ohm('fennimore-mirrorless', 'mic')
    const beside = (input * 32) / (input + 32)
    const expected = 20 * Math.log10(beside / (source + beside) / (input / (source + input)))
    expect(arriving(both) - arriving(alone)).toBeCloseTo(expected, 1)
    expect(expected).toBeLessThan(-6)
    const [loaded] = found(both, 'overloaded output')
    expect(circuitWords(loaded!).why).toMatch(/Closed headphones, 32 ohm.*takes 9\d %/)
    expect(found(alone, 'overloaded output')).toEqual([])
  })
  it('levels follow: the recording falls as much as the circuit says', () => {
    const typical = (patch: Patch) =>
      levelsOfPatch(patch, shelf).runs.find(({ end: at }) => at.box === 'camera')!.typicalDb
    expect(typical(both) - typical(alone)).toBeCloseTo(arriving(both) - arriving(alone), 6)
  })
  it('adding a load never raises a level', () => {
    for (const gear of ['saltmarsh-in-ear', 'saltmarsh-closed-headphones', 'saltmarsh-studio-headphones'])
      expect(
        arriving({
          ...both,
          boxes: both.boxes.map((each) => (each.id === 'phones' ? { ...each, gear } : each)),
        }),
      ).toBeLessThan(arriving(alone))
  })
  it('two plugs want one socket when there is no splitter', () => {
    const crowded = patchOf(alone.boxes, [
      link('feed', 'recorder.line', 'camera.mic', ['mini-cable-0m5']),
      link('ears', 'recorder.line', 'phones.in'),
    ])
    expect(worst(crowded)).toMatchObject({ code: 'two plugs', severity: 'dead' })
  })
  it('names what is wrong with a branch, and keeps it out', () => {
    const refused = (branch: Link['branch']) =>
      checkPatch({ ...alone, links: [...alone.links, { ...ears, branch }] }, shelf)[0]
    expect(refused({ piece: 'nowhere', end: 2 })).toMatch(/lies in no other link/)
    expect(refused({ piece: 'splitter', end: 3 })).toMatch(/no end 3/)
    expect(refused({ piece: 'boom-cable-xlr-cable-6m', end: 2 })).toMatch(/no end 2/)
    const twice = { ...both, links: [...both.links, { ...ears, id: 'more', to: end('camera.mic') }] }
    expect(checkPatch(twice, shelf).join(' ')).toMatch(/end 2 is taken/)
  })
  it('pulling the first plug leaves the other with the splitter; taking the splitter out leaves two plugs', () => {
    const pulled = applyEdits(both, [{ kind: 'disconnect', link: 'feed' }], shelf)
    const left = pulled.links.find(({ id }) => id === 'ears')!
    expect(left.branch).toBeUndefined()
    expect(left.pieces.map(({ gear }) => gear)).toEqual(['mini-splitter'])
    const out = applyEdits(both, [{ kind: 'remove piece', piece: 'splitter' }], shelf)
    expect(out.links.find(({ id }) => id === 'ears')!.branch).toBeUndefined()
    expect(worst(out)).toMatchObject({ code: 'two plugs' })
  })
  it('with a transformer in it keeps the ground and the phantom power of the second end away', () => {
    const twoRecorders = (splitter: string) =>
      patchOf(
        [
          box('mic', 'saltmarsh-hand-dynamic', { place: 'boom' }),
          box('recorder', 'saltmarsh-two-track'),
          box('second', 'oriel-float-recorder', { settings: { 'phantom-1': 'on' } }),
        ],
        [
          link('one', 'mic.out', 'recorder.in-1', [{ id: 'split', gear: splitter }]),
          link('two', 'mic.out', 'second.in-1', [], { branch: { piece: 'split', end: 2 } }),
        ],
      )
    const volts = (patch: Patch) =>
      Math.max(
        ...wiringOf(patch, shelf)
          .find((wired) => wired.link === 'one')!
          .report.variants[0]!.facts.inputDc.map((each) => Math.abs(each.volts)),
      )
    expect(volts(twoRecorders('xlr-splitter'))).toBeGreaterThan(30)
    expect(volts(twoRecorders('xlr-splitter-transformer'))).toBeLessThan(0.01)
    expect(
      found(twoRecorders('xlr-splitter'), 'foreign supply')
        .map(({ subject }) => subject.where)
        .join(),
    ).toMatch(/Two-track recorder/)
  })
})

describe('one socket for both ways', () => {
  const lapel = box('lapel', 'fennimore-plug-in-lapel', { place: 'lapel' })
  const phone = box('phone', 'saltmarsh-phone')
  const ears = box('ears', 'saltmarsh-in-ear')
  const patch = patchOf(
    [lapel, phone, ears],
    [
      link('voice', 'lapel.out', 'phone.headset', [{ id: 'split', gear: 'headset-splitter' }]),
      link('listening', 'phone.phones', 'ears.in', [], { branch: { piece: 'split', end: 2 } }),
    ],
  )
  it('a headset splitter takes a microphone in and headphones out', () => {
    expect(checkPatch(patch, shelf)).toEqual([])
    expect(bad(patch)).toEqual([])
    const reaches = wiringOf(patch, shelf).find((wired) => wired.link === 'listening')!.report.variants[0]!
      .facts.reaches
    expect(reaches.filter(({ db }) => db > -20)).toHaveLength(2)
  })
  it('without it two plugs want the socket', () => {
    const bare = { ...patch, links: [patch.links[0]!, { ...patch.links[1]!, branch: undefined }] }
    expect(found(bare, 'two plugs')).not.toEqual([])
  })
})

describe('two microphones into one stereo socket', () => {
  const patch = patchOf(
    [
      box('one', 'fennimore-plug-in-lapel', { name: 'First lapel', place: 'lapel' }),
      box('two', 'fennimore-plug-in-lapel', { name: 'Second lapel', place: 'lapel' }),
      box('camera', 'fennimore-mirrorless', { settings: { power: 'on', 'plug-in': 'on' } }),
    ],
    [
      link('left', 'one.out', 'camera.mic', [{ id: 'lead', gear: 'two-into-one' }]),
      link('right', 'two.out', 'camera.mic', [], { joins: { piece: 'lead', end: 2 } }),
    ],
  )
  const camera = shelf.get('fennimore-mirrorless')!
  const control = camera.ports.find(({ id }) => id === 'mic')!.supplies![0]!.when!
  const powered = {
    ...patch,
    boxes: patch.boxes.map((each) =>
      each.id === 'camera' ? { ...each, settings: { [control.control]: control.is[0]! } } : each,
    ),
  }
  it('each lands on a channel of its own', () => {
    expect(checkPatch(powered, shelf)).toEqual([])
    const channels = channelsOf(levelsOfPatch(powered, shelf))
    expect(channels.map(({ track, holds }) => [track, holds.map(({ by }) => by)])).toEqual([
      ['left', ['First lapel']],
      ['right', ['Second lapel']],
    ])
  })
  it('on a lead that joins both to both, each loads the other', () => {
    const tied = changed('two-into-one', (gear) => ({
      ...gear,
      passive: {
        ...gear.passive!,
        parts: [
          { kind: 'resistor', from: { end: 2, contact: 'tip' }, to: { end: 1, contact: 'tip' }, ohm: 0.05 },
          {
            kind: 'resistor',
            from: { end: 2, contact: 'sleeve' },
            to: { end: 1, contact: 'sleeve' },
            ohm: 0.05,
          },
        ],
      },
    }))
    const gain = (on: Shelf) =>
      Math.max(...wiringOf(powered, on)[0]!.report.variants[0]!.facts.reaches.map(({ db }) => db))
    expect(gain(tied)).toBeLessThan(gain(shelf) - 2)
    // seen from either microphone, the other is the same load
    const best = (id: string) =>
      Math.max(
        ...wiringOf(powered, tied)
          .find((wired) => wired.link === id)!
          .report.variants[0]!.facts.reaches.map(({ db }) => db),
      )
    expect(best('left')).toBeCloseTo(best('right'), 1)
  })
  it('a second one joins at the free end of the lead, by a way of its own if its plug does not fit', () => {
    const alone = { ...powered, links: powered.links.slice(0, 1) }
    const to = { box: 'camera', port: 'mic' }
    expect(joinAt(alone, to, shelf)).toEqual({ piece: 'lead', end: 2 })
    expect(joinAt(powered, to, shelf)).toBeUndefined()
    const balanced = {
      ...alone,
      boxes: [...alone.boxes, box('hand', 'saltmarsh-hand-dynamic', { place: 'boom' })],
    }
    const joining = link('hand', 'hand.out', 'camera.mic', [], { joins: { piece: 'lead', end: 2 } })
    const [way] = findWays(balanced, joining, shelf, { refused: ['dead'] })
    const laid = way!.pieces.map(({ gear, reversed }, index) => ({
      id: `w${index}`,
      gear: gear.id,
      reversed,
    }))
    const joined = {
      ...balanced,
      links: [...balanced.links, link('hand', 'hand.out', 'camera.mic', laid, { joins: joining.joins })],
    }
    expect(checkPatch(joined, shelf)).toEqual([])
    const right = channelsOf(levelsOfPatch(joined, shelf)).find(({ track }) => track === 'right')!
    expect(right.holds.map(({ by }) => by)).toEqual(['Hand-held dynamic'])
  })
  it('refuses a second plug in the same end', () => {
    const third = { ...powered.links[1]!, id: 'third' }
    expect(checkPatch({ ...powered, links: [...powered.links, third] }, shelf).join()).toMatch(
      /end 2 is taken/,
    )
  })
})

describe('streams', () => {
  const phone = (pieces: Through[], ears = 'saltmarsh-in-ear') =>
    patchOf(
      [box('phone', 'saltmarsh-phone-usb-c'), box('ears', ears)],
      [link('ears', 'phone.usb-out', 'ears.in', pieces)],
    )
  const lapel = (pieces: Through[]) =>
    patchOf(
      [box('lapel', 'fennimore-plug-in-lapel', { place: 'lapel' }), box('phone', 'saltmarsh-phone-usb-c')],
      [link('voice', 'lapel.out', 'phone.usb', pieces)],
    )
  it('converters pass one way only, and the wrong one is distinguished from a dead lead', () => {
    expect(bad(phone(['usb-c-headphone']))).toEqual([])
    expect(bad(lapel(['usb-c-microphone']))).toEqual([])
    const wrong = lapel([{ id: 'dongle', gear: 'usb-c-headphone', reversed: true }])
    expect(worst(wrong)).toMatchObject({ code: 'wrong way round', severity: 'dead' })
  })
  it('wires alone are silent on a phone that speaks digital, and work on one that gives volts', () => {
    const wires = [
      { id: 'a', gear: 'three-to-four' },
      { id: 'b', gear: 'usb-c-accessory', reversed: true },
    ]
    expect(worst(lapel(wires))).toMatchObject({ code: 'stream', severity: 'dead' })
    const volts = patchOf(
      [box('lapel', 'fennimore-plug-in-lapel', { place: 'lapel' }), box('phone', 'saltmarsh-phone-analogue')],
      [link('voice', 'lapel.out', 'phone.usb', wires)],
    )
    expect(bad(volts)).toEqual([])
  })
  const hall = scene('4-bells-in-the-town-hall')
  it('two channels in one plug keep apart and lose nothing', () => {
    const levels = levelsOfPatch(hall, shelf)
    const channels = channelsOf(levels).filter(({ box: at }) => at === 'camera')
    expect(channels.map(({ track, holds }) => [track, holds.map(({ by }) => by)])).toEqual([
      ['channel 1', ['Room omni']],
      ['channel 2', ['House desk']],
      ['channel 3', ['House desk']],
    ])
    const run = levels.runs.find(({ end: at }) => at.track === '2')!
    const converter = run.points.findIndex(({ name }) => name === 'Converter')
    expect(run.typicalDb).toBe(run.points[converter]!.rmsDb.typical)
  })
  it('on an input for volts a stream is noise, and volts on a digital input do not lock', () => {
    const swap = (from: string, to: string) =>
      wiringFindings(wiringOf({ ...hall, links: [link('wrong', from, to, ['digital-xlr-3m'])] }, shelf))[0]
    expect(swap('desk.digital', 'camera.in-1')).toMatchObject({ code: 'stream', severity: 'dead' })
    expect(swap('desk.record', 'camera.digital')).toMatchObject({ code: 'stream', severity: 'dead' })
  })
  const desk = (digital: Gear['ports'][number]['digital']) =>
    changed('house-digital-desk', (gear) => ({
      ...gear,
      ports: gear.ports.map((port) => (port.id === 'digital' ? { ...port, digital } : port)),
    }))
  const withRate = (ratesHz: number[], clock: 'own' | 'follows' | 'either') =>
    wiringFindings(wiringOf(hall, desk({ ratesHz, clock })))[0]
  it('rates and clocks must agree', () => {
    expect(withRate([96_000], 'own')).toMatchObject({ code: 'rate', severity: 'dead' })
    expect(withRate([48_000], 'follows')).toMatchObject({ code: 'clock', severity: 'dead' })
    const both = shelfOf(
      [...desk({ ratesHz: [48_000], clock: 'own' }).values()].map((gear) =>
        gear.id === 'oriel-large-camcorder'
          ? {
              ...gear,
              ports: gear.ports.map((port) =>
                port.digital ? { ...port, digital: { ratesHz: [48_000], clock: 'own' as const } } : port,
              ),
            }
          : gear,
      ),
    )
    expect(found(hall, 'clock', both)[0]).toMatchObject({ severity: 'degraded' })
  })
  it('a rate that does not fit leaves nothing in the file', () => {
    const levels = levelsOfPatch(hall, desk({ ratesHz: [96_000], clock: 'own' }))
    expect(levels.runs.find(({ end: at }) => at.track === '2')!.typicalDb).toBeLessThan(-150)
  })
})

describe('transformers, blockers and supplies', () => {
  const camera = shelf.get('fennimore-mirrorless')!
  const { control, is } = camera.ports.find(({ id }) => id === 'mic')!.supplies![0]!.when!
  const powered = box('camera', camera.id, { settings: { [control]: is[0]! } })
  const onCamera = (pieces: Through[]) =>
    patchOf(
      [box('mic', 'saltmarsh-hand-dynamic', { place: 'boom' }), powered],
      [link('lead', 'mic.out', 'camera.mic', pieces)],
    )
  const coilVolts = (patch: Patch) => {
    const dc = wiringOf(patch, shelf)[0]!.report.variants[0]!.facts.outputDc
    return Math.abs(dc[0]!.volts - dc[1]!.volts)
  }
  it('a transformer keeps plug-in power off the coil and the run balanced', () => {
    expect(coilVolts(onCamera(['xlr-to-mini']))).toBeGreaterThan(0.1)
    expect(coilVolts(onCamera(['xlr-to-mini-transformer']))).toBeLessThan(1e-6)
    expect(found(onCamera(['xlr-to-mini-transformer']), 'foreign supply')).toEqual([])
    const gain = wiringOf(onCamera(['xlr-to-mini-transformer']), shelf)[0]!.report.variants[0]!.facts.reaches
    expect(gain.every(({ db }) => db > -4)).toBe(true)
  })
  it('phantom power does nothing to a coil on a balanced cable, and much to one with a leg on ground', () => {
    const ribbon = (pieces: Through[]) =>
      patchOf(
        [
          box('mic', 'saltmarsh-ribbon', { place: 'boom' }),
          box('recorder', 'saltmarsh-two-track', { settings: { 'phantom-1': 'on' } }),
        ],
        [link('lead', 'mic.out', 'recorder.in-1', pieces)],
      )
    expect(found(ribbon(['xlr-cable-6m']), 'foreign supply')).toEqual([])
    const shorted = changed('xlr-cable-6m', (gear) => ({
      ...gear,
      passive: {
        ...gear.passive!,
        wires: [
          ['1', '1'],
          ['2', '2'],
          ['3', '3'],
          ['1', '3'],
        ],
      },
    }))
    expect(found(ribbon(['xlr-cable-6m']), 'foreign supply', shorted)[0]).toMatchObject({
      severity: 'harmful',
    })
  })
  it('a converter brings a small microphone its volts out of phantom power', () => {
    const lapel = (phantom: string) =>
      patchOf(
        [
          box('lapel', 'fennimore-plug-in-lapel', { place: 'lapel' }),
          box('recorder', 'saltmarsh-two-track', { settings: { 'phantom-1': phantom } }),
        ],
        [link('lead', 'lapel.out', 'recorder.in-1', ['phantom-to-plug-in'])],
      )
    expect(bad(lapel('on'))).toEqual([])
    expect(worst(lapel('off'))).toMatchObject({ code: 'supply missing', severity: 'dead' })
    const [need] = wiringOf(lapel('on'), shelf)[0]!.report.variants[0]!.facts.needs
    expect(need!.volts).toBeGreaterThan(1)
    expect(need!.volts).toBeLessThan(5)
  })
  it('a battery supply feeds a condenser on an input without power, and its capacitors keep the DC there', () => {
    const gun = patchOf(
      [box('gun', 'oriel-short-gun', { place: 'boom' }), box('recorder', 'saltmarsh-two-track')],
      [link('lead', 'gun.out', 'recorder.in-1', ['phantom-supply'])],
    )
    expect(bad(gun)).toEqual([])
    const { facts } = wiringOf(gun, shelf)[0]!.report.variants[0]!
    expect(Math.max(...facts.inputDc.map(({ volts }) => Math.abs(volts)))).toBeLessThan(0.1)
  })
  it('a crossed lead turns the sign, and the channel plan says so', () => {
    const straight = patchOf(
      [box('mic', 'saltmarsh-hand-dynamic', { place: 'boom' }), box('recorder', 'saltmarsh-two-track')],
      [link('lead', 'mic.out', 'recorder.in-1', ['xlr-cable-6m'])],
    )
    const crossed = {
      ...straight,
      links: [link('lead', 'mic.out', 'recorder.in-1', ['xlr-cable-6m', 'xlr-crossed'])],
    }
    const sign = (patch: Patch) => channelsOf(levelsOfPatch(patch, shelf))[0]!.holds[0]!.sign
    expect([sign(straight), sign(crossed)]).toEqual([1, -1])
    expect(found(crossed, 'polarity')[0]).toMatchObject({ severity: 'note' })
  })
})

describe('what the circuit hands to the levels', () => {
  const run = (pieces: Through[], on: Shelf = shelf) =>
    levelsOfPatch(
      patchOf(
        [box('mic', 'saltmarsh-hand-dynamic', { place: 'boom' }), box('camera', 'fennimore-mirrorless')],
        [link('lead', 'mic.out', 'camera.mic', pieces)],
      ),
      on,
    ).runs.find(({ end: at }) => at.track === 'left')!
  it('the hum of an unbalanced run, more for a longer one, and none of a transformer\u2019s', () => {
    const added = (each: ReturnType<typeof run>) =>
      10 ** (each.shares.find(({ name }) => name.includes('lead'))!.atSourceDb / 10)
    const ofLength = (lengthM: number) =>
      added(
        run(
          ['xlr-to-mini'],
          changed('xlr-to-mini', (gear) => ({ ...gear, passive: { ...gear.passive!, lengthM } })),
        ),
      )
    // beside the thermal noise of its load, ten times the length is a hundred times the power
    const still = ofLength(0)
    expect((ofLength(50) - still) / (ofLength(5) - still)).toBeCloseTo(100, 0)
    const balancedRun = levelsOfPatch(
      patchOf(
        [box('mic', 'saltmarsh-hand-dynamic', { place: 'boom' }), box('recorder', 'saltmarsh-two-track')],
        [link('lead', 'mic.out', 'recorder.in-1', ['xlr-cable-20m'])],
      ),
      shelf,
    ).runs[0]!
    const cable = balancedRun.shares.find(({ name }) => name.includes('XLR cable'))
    expect(cable!.share).toBeLessThan(0.003)
  })
  it('the thermal noise of a source once: a microphone has its own in its self-noise, a pad has none yet', () => {
    const shares = (pieces: Through[]) =>
      levelsOfPatch(
        patchOf(
          [box('mic', 'saltmarsh-hand-dynamic', { place: 'boom' }), box('recorder', 'saltmarsh-two-track')],
          [link('lead', 'mic.out', 'recorder.in-1', pieces)],
        ),
        shelf,
      ).runs[0]!
    const bare = shares([])
    const power = (each: typeof bare, node: string) => {
      const share = each.shares.find(({ node: at }) => at.startsWith(node))
      const gainDb = each.points.find(({ kind }) => kind === 'piece' || kind === 'junction')!.gainFromSourceDb
      return share ? 10 ** ((share.atSourceDb + gainDb) / 10) : 0
    }
    // 4kTRB over 20 Hz to 20 kHz at 20 degrees, re 0.6 V squared, A-weighted as even noise
    const thermal = (ohm: number) => ((4 * 1.380649e-23 * 293.15 * ohm * 19_980) / 0.6) * 10 ** (-2.05 / 10)
    const amplifier = shelf.get('saltmarsh-two-track')!.strips[0]!.stages.find(({ kind }) => kind === 'gain')!
    if (amplifier.kind !== 'gain' || typeof amplifier.inputNoiseDbuA !== 'object')
      throw new Error('no figure')
    // the amplifier adds what its sheet says less the 150 ohm it was measured with, whatever is plugged in
    expect(power(bare, 'recorder.')).toBeGreaterThan(0)
    const stated = 10 ** (amplifier.inputNoiseDbuA.value / 10)
    const amp = bare.shares.find(({ name }) => name === 'Preamplifier')!
    const junction = bare.points.findIndex(({ kind }) => kind === 'junction')
    const atInput = 10 ** ((amp.atSourceDb + bare.points[junction]!.gainFromSourceDb) / 10)
    expect(atInput / (stated - thermal(150))).toBeCloseTo(1, 2)
    // 300 ohm into 3000: the input's own resistance makes noise behind the divider, the microphone's is in its figure
    const input = bare.shares.find(({ node }) => node.endsWith('.left.left.0'))!
    const ohm = (300 ** 2 * 3000) / 3300 ** 2
    expect(
      10 ** ((input.atSourceDb + bare.points[junction]!.gainFromSourceDb) / 10) / thermal(ohm),
    ).toBeCloseTo(1, 1)
  })
})

describe('a balanced output into a stereo camera', () => {
  const patch = patchOf(
    [
      box('mic', 'saltmarsh-hand-dynamic', { place: 'boom' }),
      box('mixer', 'fennimore-small-mixer'),
      box('camera', 'fennimore-mirrorless'),
    ],
    [
      link('voice', 'mic.out', 'mixer.in-1', ['xlr-cable-6m']),
      link('feed', 'mixer.main', 'camera.mic', ['jack-to-mini']),
    ],
  )
  it('writes the right side upside down, and the sum to mono is silence', () => {
    expect(found(patch, 'polarity')[0]).toMatchObject({ severity: 'harmful', subject: { link: 'feed' } })
    const channels = channelsOf(levelsOfPatch(patch, shelf))
    expect(channels.map(({ holds }) => holds[0]!.sign)).toEqual([1, -1])
    expect(monoLosses(channels)).toMatchObject([{ tracks: ['left', 'right'], source: 'founder' }])
    expect(monoLosses(channels)[0]!.leftDb).toBeLessThan(-60)
  })
  it('from one leg alone both sides are the same way up', () => {
    const one = changed('jack-to-mini', (gear) => ({
      ...gear,
      passive: {
        ...gear.passive!,
        wires: [
          ['tip', 'tip'],
          ['tip', 'ring'],
          ['sleeve', 'sleeve'],
        ],
      },
    }))
    expect(found(patch, 'polarity', one)).toEqual([])
    expect(monoLosses(channelsOf(levelsOfPatch(patch, one)))).toEqual([])
  })
})

describe('ways over other sockets', () => {
  it('the headphone output would do where the line output is taken', () => {
    const feed = bench.links.find(({ id }) => id === 'camera-feed')!
    const ways = findWays(bench, feed, shelf, { otherPorts: true })
    expect(ways.every(({ from }) => from.port !== feed.from.port)).toBe(true)
    // the phones socket is in use in this scene; without the headphones it is free
    const quiet = { ...bench, links: bench.links.filter(({ from }) => from.port !== 'phones') }
    expect(findWays(quiet, feed, shelf, { otherPorts: true }).map(({ from }) => from.port)).toContain(
      'phones',
    )
  })
  it('tells of each way as it is found, shortest first', () => {
    const lengths: number[] = []
    const ways = findWays(
      bench,
      bench.links.find(({ id }) => id === 'camera-feed')!,
      shelf,
      {
        found: ({ pieces }) => lengths.push(pieces.length),
      },
    )
    expect(ways.length).toBeGreaterThan(0)
    expect(lengths.length).toBeGreaterThanOrEqual(ways.length)
    expect(lengths).toEqual([...lengths].sort((one, other) => one - other))
  })
  it('never lays two plain cables end to end, and turns leads that have two ends', () => {
    const patch = patchOf(
      [box('player', 'rca-player', { source: 'music' }), box('camera', 'fennimore-mirrorless')],
      [link('lead', 'player.out', 'camera.mic')],
    )
    const [way] = findWays(patch, patch.links[0]!, shelf, { refused: ['dead', 'harmful'] })
    expect(way!.pieces[0]!.gear.id).toBe('rca-to-mini')
    const back = patchOf(
      [box('recorder', 'saltmarsh-two-track'), box('camera', 'fennimore-mirrorless')],
      [link('lead', 'recorder.line', 'camera.mic')],
    )
    for (const { pieces } of findWays(back, back.links[0]!, shelf))
      expect(pieces.filter(({ gear }) => /^mini-(cable|extension)/.test(gear.id)).length).toBeLessThan(2)
  })
})

describe('bad input', () => {
  it('a loop, forty boxes and deleted gear each end in a sentence or an answer', () => {
    const mixer = (id: string) => box(id, 'quernstone-inline-preamplifier')
    const loop = patchOf(
      [mixer('a'), mixer('b')],
      [link('there', 'a.out', 'b.in'), link('back', 'b.out', 'a.in')],
    )
    expect(checkPatch(loop, shelf).join()).toMatch(/runs in a circle/)
    const row = Array.from({ length: 40 }, (_, index) => mixer(`p${index}`))
    const forty = patchOf(
      row,
      row.slice(1).map((each, index) => link(`l${index}`, `p${index}.out`, `${each.id}.in`)),
    )
    expect(checkPatch(forty, shelf)).toEqual([])
    expect(wiringOf(forty, shelf)).toHaveLength(39)
    expect(Patch.safeParse({ ...forty, boxes: [...row, mixer('p40')] }).success).toBe(false)
    const gone = patchOf([box('a', 'sold-last-year')], [])
    expect(checkPatch(gone, shelf)[0]).toMatch(/neither in the file nor on the shelf/)
  })
  it('a splitter that branches from itself is refused as an edit', () => {
    const edit: Edit = {
      kind: 'connect',
      link: link('x', 'recorder.line', 'phones.in', [{ id: 'own', gear: 'mini-splitter' }], {
        branch: { piece: 'own', end: 2 },
      }),
    }
    expect(() => applyEdits(bench, [edit], shelf)).toThrow(Refusal)
  })
})

describe('a tree of splitters', () => {
  it('is walked from the output to each input', () => {
    const patch = patchOf(
      [
        box('recorder', 'saltmarsh-two-track'),
        box('a', 'fennimore-mirrorless'),
        box('b', 'fennimore-old-reflex'),
        box('c', 'quernstone-pocket-mirrorless'),
      ],
      [
        link('one', 'recorder.line', 'a.mic', [{ id: 's1', gear: 'mini-splitter' }, 'mini-cable-0m5']),
        link('two', 'recorder.line', 'b.mic', [{ id: 's2', gear: 'mini-splitter' }, 'mini-cable-0m5'], {
          branch: { piece: 's1', end: 2 },
        }),
        link('three', 'recorder.line', 'c.mic', ['mini-cable-1m5'], { branch: { piece: 's2', end: 2 } }),
      ],
    )
    expect(checkPatch(patch, shelf)).toEqual([])
    const plugged = pluggedLink(patch, patch.links[2]!, shelf)!
    expect(wayTo(plugged, 0).map((index) => plugged.pieces[index]!.id)).toEqual([
      's1',
      's2',
      'three-mini-cable-1m5',
    ])
    expect(plugged.inputs).toHaveLength(3)
    // three cameras in parallel: each gets what one would get from the same output with all three as its load
    const level = reportOf(plugged).variants[0]!.facts.reaches.find(
      ({ channel, signal }) => channel === 'left' && signal === 'left',
    )!
    expect(level.db).toBeLessThan(-0.1)
    expect(level.db).toBeGreaterThan(-3)
  })
})
