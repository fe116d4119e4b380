// @vitest-environment happy-dom
import { readFileSync } from 'node:fs'
import { mount } from '@vue/test-utils'
import { describe, expect, it } from 'vitest'
import { nextTick, ref } from 'vue'
import {
  contactRolesOf,
  findWays,
  fittingPieces,
  pieceOfGear,
  pieceStrands,
  wiringOf,
} from '@iron-hush/core/circuit'
import PrimeVue from 'primevue/config'
import { balance, type Cure } from '@iron-hush/core/balance'
import { columnsOf, levelsOfPatch, type Run } from '@iron-hush/core/levels'
import { applyEdits } from '@iron-hush/core/edits'
import { type Control, figuresOfGear, parseJson, Patch, ShelfFile, shelfOf } from '@iron-hush/core/model'
import { patchSheet, settingsCard } from '@iron-hush/core/report'
import ControlFace from '../controls/ControlFace.vue'
import { renderRateHz, renderTrack } from '../workers/listening'
import { shownFigure, statedFigure } from './gear/figures'
import PortContacts from './gear/PortContacts.vue'
import LevelMap from './levels/LevelMap.vue'
import { chanceWords } from './levels/odds'
import ProposalPanel from './levels/ProposalPanel.vue'
import { domainOf, shiftOf } from './levels/scale'
import ContactsDrawing from './patch/ContactsDrawing.vue'
import { type EndOffer, offersAtEnd } from './patch/end-offers'
import { layoutOf, strandsOf } from './patch/layout'
import { useOffers } from './patch/offers'
import { outcomeOf } from './patch/outcome'
import { plugIn, takeWay } from './patch/plugging'
import { pageOf } from '../print/patch-sheet'
import { cardPage } from '../print/settings-card'
import WaveStrip from './proof/WaveStrip.vue'
import WorstPeak from './proof/WorstPeak.vue'

const demo = `${import.meta.dirname}/../../../demo`
const gear = parseJson(ShelfFile, readFileSync(`${demo}/shelf.json`, 'utf8'), 'shelf').gear
const shelf = shelfOf(gear)
const scene = (file: string) => parseJson(Patch, readFileSync(`${demo}/scenes/${file}.json`, 'utf8'), file)
const bench = scene('1-the-founder-at-the-bench')
const tuning = scene('3-the-tuning')
const camera: Run = levelsOfPatch(tuning, shelf).runs.find(({ end }) => end.box === 'camera')!

describe('controls', () => {
  const knob: Control = {
    kind: 'knob',
    id: 'gain',
    name: 'Gain',
    minimum: -10,
    maximum: 10,
    click: 2,
    unit: 'dB',
    initial: 0,
  }
  const scale: Control = { kind: 'scale', id: 'level', name: 'Level', steps: 32, initial: 0 }
  const toggle: Control = {
    kind: 'switch',
    id: 'pad',
    name: 'Pad',
    positions: [
      { id: 'off', name: 'off' },
      { id: 'on', name: '\u221220' },
    ],
    initial: 'off',
  }
  const face = (control: Control, position: number | string, more = {}) =>
    mount(ControlFace, { props: { control, position, label: control.name, ...more } })

  it('say where they stand and turn by keys, ten with Shift, to the ends and no further', async () => {
    const wrapper = face(knob, 0)
    const slider = wrapper.get('[role=slider]')
    expect(slider.attributes('aria-valuetext')).toBe('0 dB')
    await slider.trigger('keydown', { key: 'ArrowUp' })
    await slider.trigger('keydown', { key: 'ArrowDown' })
    await slider.trigger('keydown', { key: 'ArrowUp', shiftKey: true })
    await slider.trigger('keydown', { key: 'Home' })
    expect(wrapper.emitted('turn')).toEqual([[2], [-2], [10], [-10]])
  })
  it('stay still when locked', async () => {
    const wrapper = face(scale, 3, { locked: true })
    await wrapper.get('[role=slider]').trigger('keydown', { key: 'ArrowUp' })
    expect(wrapper.emitted('turn')).toBeUndefined()
  })
  it('show a proposed position as a ghost', () => {
    expect(face(knob, 0, { ghost: 4 }).findAll('[stroke-dasharray]')).toHaveLength(1)
    expect(face(knob, 4, { ghost: 4 }).findAll('[stroke-dasharray]')).toHaveLength(0)
    expect(face(toggle, 'off', { ghost: 'on' }).get('.ghost').text()).toBe('\u221220')
  })
  it('are switches where the box has switches', async () => {
    const wrapper = face(toggle, 'off')
    await wrapper.findAll('[role=radio]')[1]!.trigger('click')
    await wrapper.get('[role=radiogroup]').trigger('keydown', { key: 'ArrowUp' })
    await wrapper.get('[role=radiogroup]').trigger('keydown', { key: 'ArrowDown' })
    expect(wrapper.emitted('turn')).toEqual([['on'], ['on']])
  })
})

describe('the level map', () => {
  const drawn = (patch: Patch, mode: 'source' | 'volts' | 'dbfs' = 'source') => {
    const run = levelsOfPatch(patch, shelf).runs.find(({ end }) => end.box === 'camera')!
    const columns = columnsOf(run)
    const wrapper = mount(LevelMap, {
      props: {
        run,
        columns,
        mode,
        inHand: 0,
        pins: [`${columns[1]!.part}.${columns[1]!.name}`],
        placeWords: 'lathe',
        momentWords: { loudest: 'loudest', typical: 'typical', quietest: 'quietest' },
        spreadDb: 4,
        ambience: true,
      },
    })
    return { wrapper, columns, run }
  }
  it('draws a ceiling for every column that has one, a floor for every column that hisses', () => {
    const { wrapper, columns } = drawn(tuning)
    expect(wrapper.findAll('[fill="url(#hatch-ceiling)"]')).toHaveLength(
      columns.filter(({ ceiling }) => ceiling).length,
    )
    expect(wrapper.findAll('[fill="url(#hatch-floor)"]')).toHaveLength(columns.length)
    expect(wrapper.text()).toMatch(/bends 19\.\d dB under the peak/)
    expect(wrapper.text()).toMatch(/\d+ % of the hiss/)
  })
  it('tells everything it draws to those who do not see it', () => {
    const { wrapper, columns } = drawn(tuning)
    const label = wrapper.get('svg').attributes('aria-label')!
    for (const { name } of columns) expect(label).toContain(name)
    expect(label).toMatch(/First amplifier: floor [\d.]+, ceiling [\d.]+, headroom \u221219/)
  })
  it('draws what the microphone hears beside its source, as a layer that can be taken off', async () => {
    const { wrapper } = drawn(tuning)
    expect(wrapper.find('.ambience').exists()).toBe(true)
    expect(wrapper.text()).toMatch(/own echo, \d+ dB\(A\): direct sound \d+\.\d dB over it/)
    await wrapper.setProps({ ambience: false })
    expect(wrapper.find('.ambience').exists()).toBe(false)
    expect(wrapper.text()).not.toMatch(/own echo/)
  })
  it('has no volts where the signal is digital', () => {
    const { wrapper, columns } = drawn(tuning, 'volts')
    expect(wrapper.findAll('.none')).toHaveLength(columns.filter(({ domain }) => domain !== 'volts').length)
  })
  it('emits the column that is touched', async () => {
    const { wrapper } = drawn(tuning)
    await wrapper.findAll('.hit')[2]!.trigger('click')
    expect(wrapper.emitted('choose')).toEqual([[2]])
  })
  it('shifts the whole by the gain to the track, and each column by its own', () => {
    const [, , preamplifier] = columnsOf(camera)
    expect(shiftOf('source', camera, preamplifier!)).toBe(0)
    expect(shiftOf('dbfs', camera, preamplifier!)).toBe(camera.points.at(-1)!.gainFromSourceDb)
    expect(shiftOf('volts', camera, preamplifier!)).toBe(preamplifier!.gainFromSourceDb)
    expect(domainOf('source', camera).lines).toContain(120)
  })
})

describe('cures', () => {
  const score = (speechToNoiseDb: number, headroomDb: number) => ({
    overDb: [0],
    outsideDb: [0],
    speechToNoiseDb: [speechToNoiseDb],
    overBoxesDb: [speechToNoiseDb + 10],
    headroomDb,
    changes: 1,
  })
  const cure = (what: string, price: number | undefined, fits: boolean): Cure => ({
    what,
    kind: 'insert',
    price,
    fits,
    before: score(20, -4),
    after: score(31.25, 3),
    edits: [],
  })
  const balancing = (cures: Cure[], curing = false) => {
    const taken: string[] = []
    return {
      taken,
      proposal: ref({
        ...balance(tuning, shelf)!,
        fits: false,
        changes: [],
        reasons: ['No setting keeps 3 dB under every ceiling.'],
      }),
      cures: ref(cures),
      tried: ref(0.4),
      curing: ref(curing),
      takeCure: ({ what }: Cure) => taken.push(what),
      acceptAll: () => undefined,
      cancel: () => undefined,
      cure: () => undefined,
      stopCuring: () => undefined,
    }
  }
  const panel = (given: ReturnType<typeof balancing>) =>
    mount(ProposalPanel, { props: { balancing: given as never }, global: { plugins: [PrimeVue] } })
  it('say what they cost and what they buy, and are taken with one click', async () => {
    const given = balancing([cure('A pad', 15, true), cure('A gun', undefined, false)])
    const wrapper = panel(given)
    expect(wrapper.text()).toContain('No setting is better than this one')
    const [pad, gun] = wrapper.findAll('li button')
    expect(pad!.text()).toMatch(/A pad.*to buy, about 15.*20\.0 \u2192 31\.\d dB, headroom 3\.0 dB/)
    expect(gun!.text()).toMatch(/price not known.*nearer/)
    await pad!.trigger('click')
    expect(given.taken).toEqual(['A pad'])
  })
  it('show how far they are, and say so when there are none', () => {
    expect(panel(balancing([], true)).text()).toContain('40 %')
    expect(panel(balancing([])).text()).toContain('Nothing on the shelf wins a decibel')
  })
})

describe('listening', () => {
  it('renders the recording in hand, whole, with progress, the same for the same seed', () => {
    const told: number[] = []
    const listening = { box: 'camera', track: 'left', seconds: 1, seed: 3 }
    const once = renderTrack(tuning, shelf, listening, (share) => told.push(share))
    expect(once.samples).toHaveLength(renderRateHz)
    expect(told.at(-1)).toBeGreaterThan(0.8)
    expect(renderTrack(tuning, shelf, listening, () => undefined).samples).toEqual(once.samples)
    expect(once.heard.loudnessDbfsA).toBeGreaterThan(-60)
  })
  it('takes a clip of one\u2019s own in place of the voice, and says when the recording is gone', () => {
    const clip = Float32Array.from({ length: 4800 }, (_, frame) => Math.sin(frame / 7))
    const listening = { box: 'camera', track: 'left', seconds: 1, seed: 3 }
    const own = renderTrack(tuning, shelf, { ...listening, clip }, () => undefined)
    expect(own.samples).not.toEqual(renderTrack(tuning, shelf, listening, () => undefined).samples)
    expect(() => renderTrack(tuning, shelf, { ...listening, track: 'gone' }, () => undefined)).toThrow(
      /no longer in the chain/,
    )
  })
})

describe('the patch drawing', () => {
  it('puts every box after what feeds it and draws a shared one once, across its rows', () => {
    const { boxes } = layoutOf(bench, shelf)
    const of = (id: string) => boxes.find(({ box }) => box.id === id)!
    for (const { from, to } of bench.links) expect(of(from.box).column).toBeLessThan(of(to.box).column)
    expect(boxes).toHaveLength(bench.boxes.length)
    expect([of('recorder').top, of('recorder').bottom]).toEqual([0, 1])
  })
  it('lays no box on another', () => {
    for (const patch of [bench, tuning]) {
      const { boxes } = layoutOf(patch, shelf)
      for (const one of boxes)
        for (const other of boxes)
          if (one !== other && one.column === other.column)
            expect(one.bottom < other.top || other.bottom < one.top).toBe(true)
    }
  })
  it('draws a strand for each contact, by what travels on it', () => {
    const strands = (id: string) =>
      strandsOf(
        bench.links.find((link) => link.id === id)!,
        bench,
        shelf,
      )
    expect(strands('boom-cable')).toEqual(['ground', 'signal', 'return'])
    expect(strands('receiver-cable')).toEqual(['ground', 'signal', 'ground'])
    expect(strands('camera-feed')).toEqual(['signal', 'signal', 'ground'])
    expect(strands('air')).toEqual(['radio'])
  })
  it('offers only what has plugs for both sides, owned first, and says what each would bring', () => {
    const link = bench.links.find(({ id }) => id === 'camera-feed')!
    for (const { gear: piece, turned } of fittingPieces(link, bench, shelf))
      expect(turned ? piece.passive!.to : piece.passive!.from).toMatch(/^mini/)
    const offers = useOffers(ref(bench), ref(shelf), ref(link)).value
    const owned = offers.map((offer) => Number(offer.gear.owned > 0))
    expect(owned).toEqual([...owned].sort((one, other) => other - one))
    expect(offers.find(({ gear: each }) => each.id === 'mini-pad-40')).toMatchObject({ severity: 'harmful' })
    for (const offer of offers) expect(() => applyEdits(bench, offer.edits, shelf)).not.toThrow()
  })
  it('says what a change brings, what it cures, and that it cannot be', () => {
    const set = (part: string, control: string, position: number | string) => ({
      kind: 'set control' as const,
      part,
      control,
      position,
    })
    expect(outcomeOf(tuning, [set('pad', 'loss', 'twenty')], shelf)).toMatchObject({
      severity: 'harmful',
      brings: expect.stringMatching(/The hiss on .* is only/),
    })
    expect(
      outcomeOf(bench, [set('recorder', 'output', -13), set('camera', 'level', 3)], shelf),
    ).toMatchObject({
      severity: 'none',
      brings: expect.stringMatching(/^cures: The hiss on .* is only/),
    })
    expect(outcomeOf(bench, [], shelf).brings).toMatch(/^worst speech-to-noise stays \d+\.\d dB$/)
    // the wiring of the result is computed too: a microphone that would lose its power is said to
    expect(outcomeOf(tuning, [set('recorder', 'phantom-1', 'off')], shelf)).toMatchObject({
      severity: 'dead',
      brings: expect.stringMatching(/power/),
    })
    expect(outcomeOf(tuning, [{ kind: 'swap', part: 'camera', gear: 'nowhere' }], shelf).severity).toBe(
      'dead',
    )
  })
})

describe('plugging in', () => {
  const line = { box: 'recorder', port: 'line' }
  const ears = { id: 'ears', gear: 'saltmarsh-in-ear', settings: {}, locked: [] }
  const withEars = applyEdits(bench, [{ kind: 'add box', box: ears }], shelf)
  it('puts a splitter in where the socket is taken, and uses its free end the next time', () => {
    const edits = plugIn(withEars, shelf, line, { box: 'ears', port: 'in' })
    expect(edits.map(({ kind }) => kind)).toEqual(['insert piece', 'connect'])
    const next = applyEdits(withEars, edits, shelf)
    const link = next.links.find(({ to }) => to.box === 'ears')!
    expect(link.branch).toEqual({ piece: 'mini-splitter', end: 2 })
    const pulled = applyEdits(next, [{ kind: 'disconnect', link: link.id }], shelf)
    expect(plugIn(pulled, shelf, line, { box: 'ears', port: 'in' }).map(({ kind }) => kind)).toEqual([
      'connect',
    ])
  })
  it('takes a way by other sockets as a whole, and can be undone', () => {
    const link = bench.links.find(({ id }) => id === 'camera-feed')!
    const quiet = { ...bench, links: bench.links.filter(({ from }) => from.port !== 'phones') }
    const [way] = findWays(quiet, link, shelf, { otherPorts: true })
    const next = applyEdits(quiet, takeWay(quiet, link, way!), shelf)
    expect(next.links.find(({ to }) => to.box === 'camera')!.from.port).toBe(way!.from.port)
  })
  it('keeps the splitter that others begin at when a way is laid behind it', () => {
    const split = applyEdits(withEars, plugIn(withEars, shelf, line, { box: 'ears', port: 'in' }), shelf)
    const link = split.links.find(({ id }) => id === 'camera-feed')!
    const bare = { ...link, through: link.through.slice(0, 1) }
    const [way] = findWays(bench, { ...bare, through: [] }, shelf)
    const next = applyEdits(split, takeWay(split, link, way!), shelf)
    expect(next.links.find(({ id }) => id === link.id)!.through[0]!.gear).toBe('mini-splitter')
    expect(next.links.find(({ to }) => to.box === 'ears')!.branch).toBeDefined()
  })
  it(
    'offers at an end only what can be joined there, and every offer can be taken',
    { timeout: 60_000 },
    () => {
      const offers: EndOffer[] = []
      offersAtEnd(bench, { place: { box: 'recorder', port: 'line' }, way: 'out' }, shelf, (offer) =>
        offers.push(offer),
      )
      expect(offers.length).toBeGreaterThan(5)
      for (const offer of offers) {
        expect(offer.gear.ports.some(({ way }) => way === 'in')).toBe(true)
        expect(() => applyEdits(bench, offer.edits, shelf)).not.toThrow()
      }
      const owned = offers.map((offer) => Number(offer.gear.owned > 0))
      expect(owned).toEqual([...owned].sort((one, other) => other - one))
      expect(offers.find((offer) => offer.gear.id === 'saltmarsh-in-ear')!.severity).not.toBe('none')
    },
  )
})

describe('the patch sheet', () => {
  it('has every link, every control and each caution once, and takes a smaller letter for a larger patch', () => {
    const sheetOf = (patch: Patch) =>
      patchSheet(patch, shelf, wiringOf(patch, shelf), levelsOfPatch(patch, shelf))
    const sheet = sheetOf(bench)
    expect(sheet.plugs).toHaveLength(bench.links.length)
    expect(new Set(sheet.cautions).size).toBe(sheet.cautions.length)
    expect(sheet.settings.find(({ box }) => box === 'Recorder')!.set.join()).toMatch(/Gain 1 34 dB/)
    const size = (each: typeof sheet) => pageOf(each).defaultStyle!.fontSize!
    const long = { ...sheet, plugs: [1, 2, 3, 4, 5, 6, 7, 8].flatMap(() => sheet.plugs) }
    expect(size(long)).toBeLessThan(size(sheet))
    expect(JSON.stringify(pageOf(sheet).content)).toContain('XLR cable, 6 m')
  })
})

describe('the settings card', () => {
  it('has every control as its box marks it, and what every meter should read', () => {
    const levels = levelsOfPatch(tuning, shelf)
    const card = settingsCard(tuning, shelf, levels)
    const controls = card.boxes.flatMap((box) => box.controls)
    const expected = [...tuning.boxes, ...tuning.links.flatMap(({ through }) => through)].flatMap(
      ({ gear: id }) => shelf.get(id)!.controls,
    )
    expect(controls).toHaveLength(expected.length)
    expect(controls).toContainEqual({ name: 'Record level', stands: '1 of 25' })
    const camera = card.meters.find(({ name }) => name === 'Camera, left')!
    expect(camera.reading).toMatch(/loudest peaks \u22121 dBFS/)
    expect(JSON.stringify(cardPage(card).content)).toContain('Record level')
  })
})

describe('chances in words', () => {
  it('are said as a person would', () => {
    expect([0, 0.01, 0.2, 1].map(chanceWords)).toEqual([
      'less than one take in a thousand',
      'one take in 100',
      '20 takes in a hundred',
      'nearly every take',
    ])
  })
})

describe('a sheet', () => {
  const shown = (id: string, name: string) =>
    shownFigure(figuresOfGear(shelf.get(id)!).find((figure) => figure.name === name)!)
  it('shows every figure with unit, tolerance and where it comes from', () => {
    expect(shown('fennimore-mirrorless', 'input noise')).toEqual({
      name: 'input noise',
      value: '\u2212106 dBu(A) \u00B1 0.5',
      from: 'measured',
    })
    expect(shown('fennimore-mirrorless', 'impedance').value).toBe('4700 ohm \u00B1 200')
  })
  it('says of an unknown figure that it is not known', () => {
    expect(shown('tarnwick-action-camera', 'input noise').from).toMatch(/not known/)
    expect(statedFigure('unknown').from).toBe('unknown')
  })
  it('has figures for every device on the shelf', () => {
    for (const thing of gear) if (thing.strips.length) expect(figuresOfGear(thing).length).toBeGreaterThan(0)
  })
  it('draws the contacts of every plug and socket with what each is for', () => {
    const camera = shelf.get('fennimore-mirrorless')!
    const drawn = mount(PortContacts, { props: { port: camera.ports[0]!, thing: camera } })
    expect(drawn.get('.contacts').attributes('aria-label')).toMatch(/tip: left, gives [\d.]+ V, ring: right/)
    for (const thing of gear)
      for (const port of thing.ports) {
        const roles = contactRolesOf(port, thing)
        if (roles.length) expect(roles.some(({ kind }) => kind === 'signal')).toBe(true)
      }
  })
  it('draws every cable and adapter from end to end', () => {
    for (const thing of gear) {
      const piece = pieceOfGear(thing.id, thing, {})
      if (!piece) continue
      for (const lit of pieceStrands(piece)) {
        const wrapper = mount(ContactsDrawing, { props: { lit, width: 380, alone: true } })
        expect(wrapper.findAll('line').length).toBe(lit.strands[0]!.length)
      }
      expect(pieceStrands(piece).some(({ strands }) => strands[0]!.length > 0)).toBe(true)
    }
  })
})

describe('a wave', () => {
  const channel = {
    peakDbfs: 0,
    peakAtS: 2,
    rmsDbfs: -20,
    speechDbfsA: -22,
    noiseDbfsA: -60,
    pauses: true,
    clipped: [{ fromS: 2, toS: 2.5, levelDbfs: 0, shape: 'flat at full scale' as const, samples: 20 }],
    clippedMore: 0,
    worstPeak: [0, 0.5, 1, 1, 1, 0.5, 0],
    envelope: Array.from({ length: 100 }, (): [number, number] => [-0.5, 0.5]),
  }
  it('marks what is cut where it is', async () => {
    const wrapper = mount(WaveStrip, { props: { channel, lengthS: 10, label: 'Channel 1' } })
    await nextTick()
    expect(wrapper.get('svg').attributes('aria-label')).toMatch(/cut in 1 place$/)
    expect(wrapper.findAll('rect')).toHaveLength(1)
  })
  it('shows the samples of the worst peak', () => {
    expect(mount(WorstPeak, { props: { channel } }).findAll('circle')).toHaveLength(7)
  })
})
