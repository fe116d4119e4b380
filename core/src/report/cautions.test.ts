import { readdirSync, readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { wiringOf } from '../circuit'
import { levelsOfPatch } from '../levels'
import { applyEdits } from '../edits'
import { parseJson, Patch, ShelfFile, shelfOf } from '../model'
import { cautionsOf, patchSheet, settingsCard } from './index'

const demo = new URL('../../../demo/', import.meta.url)
const read = (file: string) => readFileSync(new URL(file, demo), 'utf8')
const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)
const scenes = readdirSync(new URL('scenes/', demo)).map((file) =>
  parseJson(Patch, read(`scenes/${file}`), file),
)
const scene = (name: string) => scenes.find((patch) => patch.name === name)!
const about = (patch: Patch) =>
  cautionsOf(patch, shelf, wiringOf(patch, shelf)).map((caution) => caution.code)

describe('cautions', () => {
  it('come each once, and only where the patch calls for them', () => {
    for (const patch of scenes) expect(new Set(about(patch)).size).toBe(about(patch).length)
    expect(about(scene('Bells in the town hall'))).toEqual(['ears', 'desk', 'mains', 'phantom', 'runs'])
    expect(about(scene('Three at the mould'))).toEqual(['ears', 'radio', 'consent'])
  })
  it('go with what called for them', () => {
    const tuning = scene('The tuning')
    expect(about(tuning)).toContain('phantom')
    const off = applyEdits(
      tuning,
      [{ kind: 'set control', part: 'recorder', control: 'phantom-1', position: 'off' }],
      shelf,
    )
    expect(about(off)).not.toContain('phantom')
    expect(about({ ...tuning, links: tuning.links.filter(({ id }) => id !== 'boom-cable') })).not.toContain(
      'runs',
    )
    const loud = {
      ...tuning,
      brief: {
        ...tuning.brief,
        noises: [{ id: 'saw', name: 'saw', levelDba: 92, spectrum: 'even' as const, inPicture: true }],
      },
    }
    expect(about(loud)).toContain('machines')
  })
})

describe('sheets for the set', () => {
  const sheetOf = (patch: Patch) =>
    patchSheet(patch, shelf, wiringOf(patch, shelf), levelsOfPatch(patch, shelf))
  it('name the splitter at which a second feed begins', () => {
    const { plugs } = sheetOf(scene('Words over the yard'))
    expect(plugs.find(({ to }) => to.startsWith('Second camera'))!.through).toBe(
      'other end of Mini splitter, Mini cable, 0.5 m',
    )
  })
  it('say what is not right yet, once each, and nothing of what is', () => {
    expect(sheetOf(scene('Bells in the town hall')).warnings).toEqual([])
    const bench = scene('The founder at the bench')
    const unpowered = applyEdits(
      bench,
      [{ kind: 'set control', part: 'recorder', control: 'phantom-1', position: 'off' }],
      shelf,
    )
    const { warnings } = sheetOf(unpowered)
    expect(warnings.join(' ')).toMatch(/gets no power/)
    expect(new Set(warnings).size).toBe(warnings.length)
  })
  it('say what lands where, with its sign', () => {
    const bench = scene('The founder at the bench')
    const turned = {
      ...bench,
      links: bench.links.map((link) =>
        link.id === 'boom-cable'
          ? {
              ...link,
              pieces: [...link.pieces, { id: 'turn', gear: 'xlr-crossed', settings: {}, locked: [] }],
            }
          : link,
      ),
    }
    const held = (patch: Patch) =>
      sheetOf(patch).channels.find(({ name }) => name === 'Recorder, track 1')!.holds
    expect(held(bench)).toBe('founder by Boom')
    expect(held(turned)).toBe('\u2212 founder by Boom')
  })
  it('the settings card reads as the boxes are marked, pads on leads included', () => {
    const tuning = scene('The tuning')
    const card = settingsCard(tuning, shelf, levelsOfPatch(tuning, shelf))
    expect(card.boxes.find(({ name }) => name === 'Switched mini pad')!.controls).toEqual([
      { name: 'Pad', position: 'none' },
    ])
    expect(card.meters.map(({ name }) => name)).toContain('Headphones, left ear')
  })
})
