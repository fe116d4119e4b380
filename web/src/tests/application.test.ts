import { deleteDB } from 'idb'
import { flushPromises, mount, type VueWrapper } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import PrimeVue from 'primevue/config'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import type { Balance } from '@iron-hush/core/balance'
import { balance, type Cure, curesOf, oddsOf, saferPlan } from '@iron-hush/core/balance'
import { findWays, type Way, type WaySearch } from '@iron-hush/core/circuit'
import { type End, type EndOffer, offersAtEnd } from '@iron-hush/core/advice'
import Papa from 'papaparse'
import { applyEdits, sourceRemoved } from '@iron-hush/core/edits'
import { type Levels, levelsOfPatch } from '@iron-hush/core/levels'
import { readGearCsv, readGearJson } from '@iron-hush/core/report'
import { bytesSource, wavBytes } from '@iron-hush/core/media'
import { measureClip } from '@iron-hush/core/measure'
import { type Gear, type Link, type Measurement, type Patch, shelfOf } from '@iron-hush/core/model'
import { levelWords } from '@iron-hush/core/words'
import { talkingClip } from '@iron-hush/core/signals'
import { isLong } from '../../../core/src/tests/form'
import App from '../App.vue'
import { router } from '../router'
import RunFacts from '../stations/levels/RunFacts.vue'
import { useHistory } from '../state/history'
import { useProofs } from '../state/proofs'
import { useGear } from '../state/gear'
import { useScene } from '../state/scene'
import { useShoots } from '../state/shoots'
import { useTakes } from '../state/takes'
import { useOutbox } from '../sync/outbox'
import { shelf as demoShelf } from './demo'
import { bench, sceneId, Server } from './server'

// the same computation, without the worker that happy-dom does not have
vi.mock('../workers/compute', () => ({
  warmUp: () => undefined,
  startBalance: (patch: Patch, gear: Gear[]) => ({
    result: Promise.resolve(balance(patch, shelfOf(gear)) as Balance),
    cancel: () => undefined,
  }),
  startCures: (patch: Patch, gear: Gear[], progress: (share: number, cure?: Cure) => void) => ({
    result: Promise.resolve().then(() => curesOf(patch, shelfOf(gear), { progress })),
    cancel: () => undefined,
  }),
  startSafer: (patch: Patch, gear: Gear[], limit: number, draws: number, seed: number) => ({
    result: Promise.resolve().then(() => saferPlan(patch, shelfOf(gear), limit, draws, seed)),
    cancel: () => undefined,
  }),
  startFindWays: (patch: Patch, link: Link, gear: Gear[], search: WaySearch, found: (way: Way) => void) => ({
    result: Promise.resolve().then(() => findWays(patch, link, shelfOf(gear), { ...search, found })),
    cancel: () => undefined,
  }),
  startOffersAtEnd: (patch: Patch, end: End, gear: Gear[], found: (offer: EndOffer) => void) => ({
    result: Promise.resolve().then(() => offersAtEnd(patch, end, shelfOf(gear), found)),
    cancel: () => undefined,
  }),
  startOdds: (patch: Patch, gear: Gear[], draws: number, seed: number) => ({
    result: Promise.resolve().then(() => oddsOf(patch, shelfOf(gear), draws, seed)),
    cancel: () => undefined,
  }),
  startReadGear: (text: string, name: string, gear: Gear[]) => ({
    result: Promise.resolve().then(() =>
      name.endsWith('.csv')
        ? readGearCsv(Papa.parse<string[]>(text).data, shelfOf(gear))
        : readGearJson(text, shelfOf(gear)),
    ),
    cancel: () => undefined,
  }),
  startMeasure: (file: Blob, name: string, progress: (share: number) => void) => ({
    result: file
      .arrayBuffer()
      .then(
        async (bytes): Promise<Measurement> =>
          (await measureClip(bytesSource(new Uint8Array(bytes)), name, { progress }))!,
      ),
    cancel: () => undefined,
  }),
  startCard: (made: (name: string, bytes: Uint8Array) => void) => ({
    result: Promise.resolve(
      made(
        'made.wav',
        wavBytes(
          [
            talkingClip({
              typicalDbfs: -20,
              noiseDbfsA: -70,
              loudestPeakDbfs: 6,
              lengthS: 8,
              rateHz: 48000,
              seed: 1,
            }),
          ],
          48000,
        ),
      ),
    ),
    cancel: () => undefined,
  }),
}))

let server: Server
let wrapper: VueWrapper

async function open(station: string): Promise<VueWrapper> {
  await router.push(`/scene/${sceneId}/${station}`)
  wrapper = mount(App, {
    global: { plugins: [router, [PrimeVue, { unstyled: true }]] },
    attachTo: document.body,
  })
  // the station, or the sentence that the server is away
  await vi.waitFor(() => expect(wrapper.find('h1').exists()).toBe(true), { timeout: 5000 })
  await vi.dynamicImportSettled()
  if (!server.away) await loaded()
  // what a station draws only after its first pictures, by the same clock
  for (let frame = 0; frame < 5; frame++)
    await new Promise((resolve) => requestAnimationFrame(() => setTimeout(resolve)))
  for (let round = 0; round < 10; round++) await flushPromises()
  return wrapper
}
/** Waits for the lists that are read when the page is idle: only after them is anything sent. */
const loaded = () =>
  vi.waitFor(() => expect([useGear().isWhole, useShoots().list.length]).toEqual([true, 1]), { timeout: 5000 })
const press = async (key: string, more: KeyboardEventInit = {}) => {
  document.body.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }))
  for (let round = 0; round < 5; round++) await flushPromises()
}
/** Waits for what is on its way to arrive, and for what that draws. */
const settle = async () => {
  await flushPromises()
  if (!server.away) await vi.waitFor(() => expect(useOutbox().count).toBe(0), { timeout: 5000 })
  await useOutbox().storage.settled()
  await vi.dynamicImportSettled()
  for (let round = 0; round < 10; round++) await flushPromises()
}
const gainOf = (patch: Patch, control: string) =>
  patch.boxes.find(({ id }) => id === 'recorder')!.settings[control]

beforeEach(async () => {
  localStorage.clear()
  await deleteDB('iron-hush')
  setActivePinia(createPinia())
  server = new Server()
  vi.stubGlobal('fetch', server.answer)
  vi.stubGlobal('matchMedia', () => ({
    matches: false,
    addEventListener: () => undefined,
    removeEventListener: () => undefined,
  }))
})
afterEach(async () => {
  // what is still on its way belongs to this test: it would make the stores of this one current in the next
  const outbox = useOutbox()
  server.away = false
  await loaded()
  outbox.flush()
  outbox.retry()
  await vi.waitFor(() => expect(outbox.count).toBe(0), { timeout: 5000 })
  await outbox.storage.settled()
  wrapper?.unmount()
})

describe('the frame', () => {
  it('shows the stations with their states and the verdict with its reasons', async () => {
    const app = await open('levels')
    const links = app.findAll('nav[aria-label=Stations] a').map((link) => link.text())
    expect(links.map((text) => text.replace(/\d.*/s, ''))).toEqual([
      'Brief',
      'Patch',
      'Levels',
      'Line-up',
      'Proof',
      'Roll',
    ])
    expect(links[2]).toMatch(/1 needs you/)
    expect(app.get('footer .say').text()).toMatch(/Noisy: .*Speech-to-noise 1\d\.\d dB/)
    await app.get('footer .why').trigger('click')
    expect(app.get('.why-panel').text()).toMatch(/harmful The hiss on .* is only/)
  })
  it('does not call Patch settled beside a microphone that leads nowhere', async () => {
    const app = await open('patch')
    const patch = () => app.findAll('nav[aria-label=Stations] a').map((link) => link.text())[1]
    expect(patch()).toContain('settled')
    const { id } = bench.links.find(({ from }) => from.box === 'lapel')!
    useScene().change([{ kind: 'disconnect', link: id }], 'a lead')
    await settle()
    expect(patch()).toContain('could be better')
    await app.get('footer .why').trigger('click')
    expect(app.get('.why-panel').text()).toContain(
      'A microphone is at lapel under the apron bib, and leads nowhere.',
    )
  })
  it.runIf(isLong)('goes by keys: stations, runs, the list, undo', async () => {
    const app = await open('levels')
    await press('1')
    await settle()
    expect(app.get('h1').text()).toBe('Brief')
    const before = app.get('footer .which').text()
    await press(']')
    expect(app.get('footer .which').text()).not.toBe(before)
    await press('[')
    expect(app.get('footer .which').text()).toBe(before)
    useScene().change([{ kind: 'note', note: 'a note' }], 'note')
    await press('z', { ctrlKey: true })
    expect(useScene().patch!.note).not.toBe('a note')
    await press('Z', { ctrlKey: true, shiftKey: true })
    expect(useScene().patch!.note).toBe('a note')
    await press('?')
    await vi.dynamicImportSettled()
    expect(document.body.textContent).toContain('previous run')
  })
  it('says that the server is away, keeps what was done, and opens when it is back', async () => {
    server.away = true
    const app = await open('levels')
    expect(app.get('[role=alert]').text()).toMatch(/cannot be reached.*Nothing is lost/s)
    server.away = false
    await app.get('[role=alert] button').trigger('click')
    await vi.waitFor(() => expect(app.get('h1').text()).toBe('Levels'), { timeout: 5000 })
  })
  it('asks which version to keep when another window was first', async () => {
    await open('levels')
    server.elsewhere(61)
    useScene().change([{ kind: 'note', note: 'mine' }], 'note')
    await settle()
    expect(document.body.textContent).toContain('This scene was changed elsewhere')
    useScene().keepMine()
    await settle()
    expect(server.scene.patch.note).toBe('mine')
    expect(gainOf(server.scene.patch, 'gain-2')).toBe(61)
  })
})

describe('Levels', () => {
  it.runIf(isLong)('moves along the chain and turns the selected control', async () => {
    const app = await open('levels')
    await app
      .findAll('[role=radio]')
      .find((each) => each.text() === 'stages')!
      .trigger('click')
    const hand = () => app.findAll('.stage').findIndex((each) => each.classes().includes('hand'))
    const start = hand()
    await press('ArrowRight')
    expect(hand()).toBe(start + 1)
    const knob = app.findAll('.stage').findIndex((each) => each.text().startsWith('Preamplifier'))
    while (hand() < knob) await press('ArrowRight')
    await press('ArrowUp')
    expect(gainOf(useScene().patch!, 'gain-2')).toBe(25)
    await press('ArrowDown', { shiftKey: true })
    expect(gainOf(useScene().patch!, 'gain-2')).toBe(15)
    await press('p')
    expect(app.findAll('.pin')).toHaveLength(1)
  })
  it.runIf(isLong)(
    'shows what Balance proposes as ghosts, takes one, then all, and leaves nothing to change',
    async () => {
      const app = await open('levels')
      const sentToBalance = () =>
        useScene().findings.some((finding) => /press balance/i.test(levelWords(finding).remedy))
      expect(sentToBalance()).toBe(true)
      await press('b')
      await settle()
      expect(app.get('.proposal').text()).toMatch(/6 controls to move/)
      expect(app.findAll('.ghost-words').length).toBeGreaterThan(3)
      await app.findAll('.ghost-words')[0]!.trigger('click')
      expect(app.get('.proposal').text()).toMatch(/5 controls to move/)
      await press('Enter')
      expect(app.find('.proposal').exists()).toBe(false)
      // who comes from Balance is not sent back there
      expect(sentToBalance()).toBe(false)
      await press('b')
      await settle()
      expect(app.get('.proposal').text()).toMatch(/Nothing to change/)
      await press('Escape')
      expect(app.find('.proposal').exists()).toBe(false)
    },
  )
  it.runIf(isLong)(
    'proposes settings that keep clipping rare, and says with how much room',
    { timeout: 60_000 },
    async () => {
      const app = await open('levels')
      app.getComponent(RunFacts).vm.$emit('safer', 0.01)
      await vi.waitFor(() => expect(app.find('.proposal').exists()).toBe(true), 50_000)
      expect(app.get('.proposal').text()).toMatch(
        /With \d+ dB under every ceiling the worst recording clips in (less than )?one take in/,
      )
    },
  )
  it('draws every recorded run beside the others, and selects one', async () => {
    const app = await open('levels')
    const recorded = useScene().runs.filter(({ end }) => end.kind === 'recording')
    await press('a')
    const columns = app.findAll('.facts button')
    expect(columns).toHaveLength(recorded.length)
    expect(app.get('.runs svg').attributes('aria-label')).toContain(
      `${recorded[0]!.entry.name} on ${recorded[0]!.end.boxName}`,
    )
    await columns.at(-1)!.trigger('click')
    expect(useScene().run!.id).toBe(recorded.at(-1)!.id)
    expect(columns.at(-1)!.attributes('aria-pressed')).toBe('true')
    await press('a')
    expect(app.find('.facts').exists()).toBe(false)
    await vi.waitFor(() => expect(app.find('.stage').exists()).toBe(true))
  })
  it('prices a step of the control under the pointer', async () => {
    const app = await open('levels')
    const words = () => app.get('[aria-label="Effect of one step"]').text()
    const knob = app.get('[aria-label="Camera, Record level"]')
    const cell = app.findAll('.controls .cell').find((each) => each.element.contains(knob.element))!
    // what the page shows beside what the levels say with the control one step on
    const { patch, levels } = useScene()
    const worst = (of: Levels) =>
      Math.min(
        ...of.runs
          .filter(({ end, stop }) => end.kind === 'recording' && !stop)
          .map(({ speechToNoiseDb }) => speechToNoiseDb),
      )
    const position = Number(knob.attributes('aria-valuenow'))
    await cell.trigger('pointerenter')
    for (const to of [position - 1, position + 1]) {
      const edit = { kind: 'set control' as const, part: 'camera', control: 'level', position: to }
      const changedDb = worst(levelsOfPatch(applyEdits(patch!, [edit], demoShelf), demoShelf))
      expect(words()).toContain(`to ${to} of 31`)
      const shown = new RegExp(`to ${to} of 31 worst speech-to-noise\\s*([+\u2212]?[\\d.]+) dB`).exec(
        words(),
      )!
      expect(Number(shown[1]!.replace('\u2212', '-'))).toBeCloseTo(changedDb - worst(levels!), 1)
    }
    await cell.trigger('pointerleave')
    expect(words()).not.toContain(`${position + 1} of 31`)
  })
  it('drops a proposal when something else is changed meanwhile', async () => {
    const app = await open('levels')
    await press('b')
    await settle()
    expect(app.find('.proposal').exists()).toBe(true)
    useScene().change([{ kind: 'set control', part: 'camera', control: 'level', position: 4 }], 'level')
    await expect.poll(() => app.find('.proposal').exists()).toBe(false)
  })
  it('locks a control against Balance and against turning', async () => {
    const app = await open('levels')
    const lock = app.findAll('.lock').find((each) => each.attributes('aria-label') === 'Lock Record level')!
    await lock.trigger('click')
    expect(useScene().patch!.boxes.find(({ id }) => id === 'camera')!.locked).toEqual(['level'])
    await press('b')
    await settle()
    const titles = app.findAll('.ghost-words').map((each) => each.attributes('title'))
    expect(titles).not.toContain('Accept Record level alone')
  })
})

describe('Patch', () => {
  it.runIf(isLong)('explains a link: what touches what, with volts, and a way that works', async () => {
    const app = await open('patch')
    const chip = app
      .findAll('.chip')
      .find((each) => each.attributes('aria-label') === 'Link Boom to Recorder')!
    await chip.trigger('click')
    const panel = app.get('[aria-label="Selected link"]')
    expect(panel.text()).toMatch(/38\.\d\d V 1\.\d\d mA/)
    await panel
      .findAll('button')
      .find((each) => each.text() === 'Find a way')!
      .trigger('click')
    await settle()
    expect(panel.get('[aria-label=Ways]').text()).toMatch(/XLR cable, 1\.5 m/)
    await panel
      .findAll('[aria-label=Ways] button')
      .find((each) => each.text().startsWith('XLR cable, 1.5 m'))!
      .trigger('click')
    expect(
      useScene()
        .patch!.links.find(({ id }) => id === 'boom-cable')!
        .pieces.map(({ gear }) => gear),
    ).toEqual(['xlr-cable-1m5'])
  })
  it('says first what the wiring does, when a supply is switched off', async () => {
    const app = await open('patch')
    useScene().runId = useScene().runs.find(({ id }) => id.endsWith('>recorder.1'))!.id
    useScene().change(
      [{ kind: 'set control', part: 'recorder', control: 'phantom-1', position: 'off' }],
      'phantom',
    )
    await settle()
    expect(app.get('footer .say').text()).toMatch(/gets no power/)
    expect(app.findAll('.chip.faulty')).toHaveLength(1)
    expect(app.get('nav[aria-label=Stations]').text()).toMatch(/Patch2\s*▲ 1 needs you/)
  })
  it('takes a box out with its plugs, and puts all back at once', async () => {
    const app = await open('patch')
    const boxes = useScene().patch!.boxes.length
    await app
      .findAll('.box')
      .find((each) => each.text().startsWith('Headphones'))!
      .trigger('click')
    await app
      .findAll('button')
      .find((each) => each.text() === 'Remove from the chain')!
      .trigger('click')
    expect(useScene().patch!.boxes).toHaveLength(boxes - 1)
    useHistory().undo()
    expect(useScene().patch!.boxes).toHaveLength(boxes)
    expect(useScene().patch!.links.some(({ id }) => id === 'ears')).toBe(true)
  })
})

describe('Brief', () => {
  it.runIf(isLong)('reads as a paragraph and ranks places', async () => {
    const app = await open('brief')
    expect(app.get('.paragraph').text()).toMatch(/^The founder,.*speaks at .*at 1 m, down to.*The room is/s)
    expect(app.findAll('ol li')).toHaveLength(5)
    expect(app.get('.plan svg').attributes('aria-label')).toMatch(/camera 2\.7 m/)
    useScene().change([{ kind: 'change brief', to: { wind: 'gusts' } }], 'wind')
    await nextTick()
    expect(app.text()).toMatch(/full basket and fur/)
  })
  it('tells of the selected source, and of a line feed by its levels alone', async () => {
    const app = await open('brief')
    const scene = useScene()
    const { brief } = scene.openPatch
    const levelsDbu = { quietest: -10, typical: 4, loudest: 12 }
    const line = { id: 'feed', name: 'desk feed', kind: 'line', levelsDbu, crestDb: 14 } as const
    scene.change([{ kind: 'change brief', to: { sources: [line, ...brief.sources] } }], 'a feed')
    await nextTick()
    // the verdict is still about the founder, who is no longer the first of the list
    expect(app.get('.paragraph').text()).toMatch(/^The founder/)
    scene.change(sourceRemoved(scene.openPatch, brief.sources[0]!.id), 'the feed alone')
    await nextTick()
    expect(app.get('.paragraph').text()).toMatch(/^The desk feed arrives as a line signal/)
    const fields = () => app.findAll<HTMLInputElement>('.paragraph input').map(({ element }) => element.value)
    expect(fields()).toEqual(['4 dBu', '\u221210 dBu', '12 dBu'])
    // it is not placed anywhere
    expect([app.find('.plan').exists(), app.find('#ranking').exists()]).toEqual([false, false])
    // nobody can be asked: what is usual stands in, and is taken back
    await app.get('.usual').trigger('click')
    expect(fields()).toEqual(['\u22124 dBu', '\u221216 dBu', '4 dBu'])
    useHistory().undo()
    await nextTick()
    expect(fields()).toEqual(['4 dBu', '\u221210 dBu', '12 dBu'])
    await vi.waitFor(() => expect(app.get('.feed').text()).toMatch(/Nothing records it yet/))
  })
})

describe('Proof', () => {
  it.runIf(isLong)(
    'measures what a card holds, holds it against a recording, forgets it and brings it back',
    async () => {
      const app = await open('proof')
      await app
        .findAll('button')
        .find((each) => each.text() === 'Measure the stand-in card')!
        .trigger('click')
      await vi.waitFor(() => expect(useProofs().list).toHaveLength(1), 10_000)
      await settle()
      const article = app.get('article')
      expect(article.text()).toMatch(/made\.wav/)
      expect(article.findAll('table tbody tr')).toHaveLength(4)
      await vi.waitFor(() => expect(server.proofs.size).toBe(1), 10_000)
      await article
        .findAll('button')
        .find((each) => each.text() === 'Forget')!
        .trigger('click')
      await settle()
      expect(server.proofs.size).toBe(0)
      useHistory().undo()
      await settle()
      expect(server.proofs.size).toBe(1)
    },
  )
})

describe('Line-up', () => {
  it('keeps what was seen and read in the scene, says what it means, and undo takes it back', async () => {
    const app = await open('line-up')
    const steps = () => app.findAll('.steps > li')
    const count = steps().length
    expect(count).toBeGreaterThan(10)
    expect(app.get('.what').text()).toMatch(new RegExp(`^0 of ${count} done`))
    const touch = (label: string) =>
      app
        .get('li.open')
        .findAll('button')
        .find((each) => each.text() === label)!
        .trigger('click')
    await touch('Seen, as planned')
    await settle()
    expect(steps()[0]!.text()).toMatch(/As planned/)
    expect(useScene().patch!.lineUp).toHaveLength(1)
    // a level that is far from what the plan expects
    await steps()
      .find((each) => /record level 20 of 31, tone at .* read/.test(each.text()))!
      .get('.head')
      .trigger('click')
    await settle()
    const field = app.get('li.open input[role=spinbutton]')
    await field.setValue('-20')
    await field.trigger('change')
    await settle()
    const read = steps().find((each) => /record level 20 of 31, tone at .* read/.test(each.text()))!
    expect(read.text()).toMatch(/amplifies 1\d\.\d dB less here/)
    expect(app.get('.changes').text()).toMatch(/Record level: its law as read/)
    expect(app.findAll('.law .point')).toHaveLength(1)
    useHistory().undo()
    await settle()
    expect(useScene().patch!.lineUp).toHaveLength(1)
    expect(app.findAll('.law .point')).toHaveLength(0)
  })
})

describe('Roll', () => {
  it('rolls by the space bar and marks by figures, on the channel chosen', async () => {
    const app = await open('roll')
    expect(app.get('[aria-label="Before the first take"]').text()).toMatch(
      /Transmitter linked to Receiver.*phantom 1 on.*Phantom power as planned.*then clap/s,
    )
    await press(' ')
    expect(app.text()).toContain('ROLLING')
    await app.findAll('[role=radio]')[1]!.trigger('click')
    await press('2')
    await press('6')
    await press(' ')
    const [take] = useTakes().list
    expect(take!.marks.map(({ kind, channel }) => [kind, channel])).toEqual([
      ['rustle', 'recorder.2'],
      ['hum', 'recorder.2'],
    ])
    expect(take!.endedAt).not.toBeNull()
    await app.findAll('.verdicts button')[0]!.trigger('click')
    expect(useTakes().list[0]!.verdict).toBe('good')
    await vi.waitFor(() => expect(app.get('.stored').text()).toMatch(/1 stored/), 10_000)
  })
})

describe('Gear', () => {
  it('shows a thing with its stages and counts what is owned', async () => {
    const app = await open('gear')
    await app
      .findAll('.shelf button')
      .find((each) => each.text().startsWith('Float recorder'))!
      .trigger('click')
    await settle()
    const sheet = app.get('article')
    expect(sheet.text()).toMatch(/Input amplifier/)
    expect(sheet.text()).toMatch(/datasheet/)
    await app.get('input[aria-label="Search the shelf"]').setValue('pad')
    expect(
      app
        .findAll('.shelf button')
        .map((each) => each.text())
        .join(),
    ).toMatch(/Mini pad, 25 dB/)
    expect(app.findAll('.shelf button').length).toBeLessThan(12)
  })
})
