import { describe, expect, it } from 'vitest'
import { wiringOf } from '@iron-hush/core/circuit'
import { levelsOfPatch } from '@iron-hush/core/levels'
import { Patch } from '@iron-hush/core/model'
import { patchSheet, settingsCard } from '@iron-hush/core/report'
import { type Printed, pageOf } from './pdf'
import { sheetOf } from './patch-sheet'
import { cardOf } from './settings-card'
import { bench, tuning, shelf } from '../tests/demo'

describe('the patch sheet', () => {
  it('has every link, every control and each caution once, and takes a smaller letter for a larger patch', () => {
    const read = (patch: Patch) =>
      patchSheet(patch, shelf, wiringOf(patch, shelf), levelsOfPatch(patch, shelf))
    const sheet = read(bench)
    expect(sheet.plugs).toHaveLength(bench.links.length)
    expect(new Set(sheet.cautions).size).toBe(sheet.cautions.length)
    expect(sheet.settings.find(({ box }) => box === 'Recorder')!.set.join()).toMatch(/Gain 1 34 dB/)
    const size = (each: typeof sheet) => sheetOf(each).sizePt
    const long = { ...sheet, plugs: [1, 2, 3, 4, 5, 6, 7, 8].flatMap(() => sheet.plugs) }
    expect(size(long)).toBeLessThan(size(sheet))
    expect(JSON.stringify(sheetOf(sheet).content)).toContain('XLR cable, 6 m')
  })
})

describe('the settings card', () => {
  it('has every control as its box marks it, and what every meter should read', () => {
    const levels = levelsOfPatch(tuning, shelf)
    const card = settingsCard(tuning, shelf, levels)
    const controls = card.boxes.flatMap((box) => box.controls)
    const expected = [...tuning.boxes, ...tuning.links.flatMap(({ pieces }) => pieces)].flatMap(
      ({ gear: id }) => shelf.get(id)!.controls,
    )
    expect(controls).toHaveLength(expected.length)
    expect(controls).toContainEqual({ name: 'Record level', position: '1 of 25' })
    const camera = card.meters.find(({ name }) => name === 'Camera, left')!
    expect(camera.reading).toMatch(/loudest peaks \u22121 dBFS/)
    expect(JSON.stringify(cardOf(card).content)).toContain('Record level')
  })
})

describe('a page', () => {
  const printed: Printed = { scene: 'Bench', revision: 12, at: new Date(2026, 10, 28, 9, 5), paper: 'LETTER' }
  it('is of the paper that is chosen, and says its revision and day', () => {
    const page = pageOf({ title: 'Bench', sizePt: 10, content: [] }, printed)
    expect(page.pageSize).toBe('LETTER')
    expect(JSON.stringify(page.footer)).toContain('revision 12 \u00B7 printed 28 November 2026, 09:05')
  })
})
