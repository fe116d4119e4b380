import { describe, expect, it } from 'vitest'
import { mount } from '@vue/test-utils'
import { columnsOf, levelsOfPatch, type Run } from '@iron-hush/core/levels'
import { Patch } from '@iron-hush/core/model'
import { domainOf, shiftOf } from './scale'
import { tuning, camera, scene, shelf } from '../../tests/demo'
import LevelMap from './LevelMap.vue'

describe('the level map', () => {
  const drawn = (patch: Patch, mode: 'source' | 'volts' | 'dbfs' = 'source') =>
    drawnRun(
      levelsOfPatch(patch, shelf).runs.find(({ end }) => end.box === 'camera')!,
      mode,
    )
  const drawnRun = (run: Run, mode: 'source' | 'volts' | 'dbfs' = 'source') => {
    const columns = columnsOf(run)
    const wrapper = mount(LevelMap, {
      props: {
        run,
        columns,
        mode,
        selected: 0,
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
  it('reaches over the loudest peak, so that its label is seen', () => {
    const { run } = drawn(tuning)
    const loud = (peak: number) => domainOf('source', { ...run, atSource: { ...run.atSource, peak } })
    expect(loud(120).high).toBe(140)
    expect(loud(145.3)).toMatchObject({ low: 0, high: 160 })
    expect(loud(145.3).lines.at(-1)).toBe(160)
  })
  it('keeps what is loudest clear of the headroom, however little there is', () => {
    const patch = scene('5-words-over-the-yard')
    const { runs } = levelsOfPatch(patch, shelf)
    const whole = runs.find(({ tightest }) => tightest?.ceiling.onset)!
    const { point, ceiling } = whole.tightest!
    for (const headroomDb of [0.2, 1, 3, 6, 12]) {
      const byDb = headroomDb - ceiling.headroomDb
      const moved = {
        ...ceiling,
        headroomDb,
        atSourceDb: ceiling.atSourceDb + byDb,
        levelDb: ceiling.levelDb + byDb,
      }
      const run = {
        ...whole,
        tightest: { point, ceiling: moved },
        points: whole.points.map((each, index) => (index === point ? { ...each, ceilings: [moved] } : each)),
      }
      const { wrapper } = drawnRun(run)
      const [room, loudest] = [/^narrowest: /, /^the first loud moment/].map((words) =>
        wrapper.findAll('text').find((text) => words.test(text.text().trim())),
      )
      expect(Math.abs(Number(room!.attributes('y')) - Number(loudest!.attributes('y')))).toBeGreaterThan(13)
    }
  })
  it('writes the noise of the place clear of what the voice is, however near they are', () => {
    const [run] = levelsOfPatch(tuning, shelf).runs
    for (let underDb = -2; underDb <= 14; underDb++) {
      const placeNoise = run!.atSource.quietest - underDb
      const { wrapper } = drawnRun({ ...run!, atSource: { ...run!.atSource, placeNoise } })
      const at = (text: { attributes: (name: string) => string | undefined }) => Number(text.attributes('y'))
      const place = wrapper.findAll('text').find((text) => text.text().trim() === 'lathe')!
      for (const voice of wrapper.findAll('text.voice'))
        expect(Math.abs(at(voice) - at(place)), `${underDb} dB under it`).toBeGreaterThan(10)
    }
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
  })
  it('has a scale for every mode that holds all that is drawn in it', () => {
    for (const mode of ['source', 'volts', 'dbfs'] as const) {
      const { low, high, lines } = domainOf(mode, camera)
      expect([lines[0], lines.at(-1)]).toEqual([low, high])
      for (const column of columnsOf(camera)) {
        const shift = shiftOf(mode, camera, column)
        if (shift === undefined) continue
        const typical = camera.atSource.typical + shift
        expect(typical, `${mode}, ${column.name}`).toBeGreaterThan(low)
        expect(typical, `${mode}, ${column.name}`).toBeLessThan(high)
      }
    }
  })
})
