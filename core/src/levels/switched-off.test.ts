import { describe, expect, it } from 'vitest'
import { balance, settingsOf } from '../balance'
import { applyEdits } from '../edits'
import { checkPatch, type Patch } from '../model'
import { scene, shelf } from '../tests/demo'
import { levelWords, verdictOf } from '../words'
import { findingsOf, levelsOfPatch } from './index'

/** A lapel in the socket of a camera whose menu chooses between socket and built-in microphones. */
const patch = ((): Patch => {
  const bench = scene('1-the-founder-at-the-bench')
  const lapel = bench.boxes.find(({ gear }) => gear === 'fennimore-plug-in-lapel')!
  const place = lapel.place ?? bench.brief.places[0]!.id
  const box = (id: string, gear: string, settings = {}) => ({ id, gear, place, settings, locked: [] })
  return {
    ...bench,
    gear: [],
    boxes: [
      box('lapel', 'fennimore-plug-in-lapel'),
      box('camera', 'oriel-selector-mirrorless', { 'plug-in': 'on', copy: 'copy' }),
    ],
    links: [
      { id: 'plug', from: { box: 'lapel', port: 'out' }, to: { box: 'camera', port: 'mic' }, pieces: [] },
    ],
  }
})()
const chosen = (input: string): Patch =>
  applyEdits(patch, [{ kind: 'set control', part: 'camera', control: 'input', position: input }], shelf)
const lapelRuns = (of: Patch) =>
  levelsOfPatch(of, shelf).runs.filter(
    ({ entry, source }) => entry.part === 'lapel' && source.kind === 'speech',
  )

describe('an input that is switched to something else', () => {
  it('is no run where the same voice arrives by the other input', () => {
    expect(checkPatch(patch, shelf)).toEqual([])
    const runs = levelsOfPatch(chosen('socket'), shelf).runs
    expect(runs.filter(({ stop }) => stop)).toEqual([])
    expect(runs.every(({ entry }) => entry.part === 'lapel')).toBe(true)
    expect(lapelRuns(chosen('socket')).length).toBeGreaterThanOrEqual(2)
    expect(lapelRuns(chosen('built-in'))).toEqual([])
  })
  it('says of the side that a lapel of one channel does not feed that this side is silent', () => {
    const uncopied = applyEdits(
      chosen('socket'),
      [{ kind: 'set control', part: 'camera', control: 'copy', position: 'own' }],
      shelf,
    )
    const runs = lapelRuns(uncopied)
    const silent = runs.filter(({ stop }) => stop?.finding.code === 'one side')
    expect(silent.length).toBeGreaterThan(0)
    expect(silent.length).toBeLessThan(runs.length)
    for (const run of silent)
      expect(verdictOf(run, uncopied.plan)[0]!.text).toMatch(
        /^This side is silent: nothing of founder arrives/,
      )
  })
  it('is dead, and says so, where nothing else brings the voice', () => {
    const alone = { ...chosen('built-in') }
    alone.boxes = alone.boxes.map((box) => (box.id === 'camera' ? { ...box, place: undefined } : box))
    const levels = levelsOfPatch(alone, shelf)
    expect(levels.runs.length).toBeGreaterThan(0)
    // a lapel of one channel feeds no right side by itself, whatever the switch says
    expect([...new Set(levels.runs.map(({ stop }) => stop?.finding.code))].sort()).toEqual([
      'one side',
      'switched off',
    ])
    const dead = findingsOf(levels, { plan: alone.plan, patch: alone }).filter(
      ({ severity }) => severity === 'dead',
    )
    expect(dead).toHaveLength(levels.runs.length)
    const said = dead.map(levelWords).find(({ remedy }) => /^Switch Input of/.test(remedy))
    expect(said?.why).toMatch(/Input of .* blocks it/)
    // Balance turns it back: the recording is what counts
    const found = balance(alone, shelf)!
    expect(found.changes.find(({ control }) => control === 'input')?.to).toBe('socket')
    const after = levelsOfPatch(applyEdits(alone, settingsOf(found.changes), shelf), shelf)
    expect(after.runs.every(({ stop }) => !stop)).toBe(true)
  })
})
