import { describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import type { Patch } from '../model'
import { scene, shelf } from '../tests/demo'
import { columnsOf, levelsOfPatch, powerControls } from './index'

const keysOf = (patch: Patch, run: string) => {
  const found = levelsOfPatch(patch, shelf).runs.find(({ id }) => id === run)!
  const columns = columnsOf(found)
  return powerControls(found, columns, patch, shelf).flatMap((keys, index) =>
    keys.map((key) => `${columns[index]!.name}: ${key}`),
  )
}

describe('switches that decide whether anything arrives', () => {
  const tuning = scene('3-the-tuning')
  const boom = levelsOfPatch(tuning, shelf).runs.find(({ end }) => end.box === 'camera')!.id
  it('stand where their box begins, of the sockets that the run comes in by', () => {
    const keys = keysOf(tuning, boom)
    expect(keys.some((key) => key.endsWith('recorder.phantom-1'))).toBe(true)
    expect(keys.some((key) => key.endsWith('recorder.phantom-2'))).toBe(false)
    const bench = scene('1-the-founder-at-the-bench')
    const feed = levelsOfPatch(bench, shelf).runs.find(({ end }) => end.box === 'camera')!.id
    expect(keysOf(bench, feed).some((key) => key.endsWith('camera.plug-in'))).toBe(true)
  })
  it('are there too where the power is off and nothing arrives', () => {
    const off = applyEdits(
      tuning,
      [{ kind: 'set control', part: 'recorder', control: 'phantom-1', position: 'off' }],
      shelf,
    )
    expect(keysOf(off, boom).some((key) => key.endsWith('recorder.phantom-1'))).toBe(true)
  })
  it('of a radio, its channel on either side', () => {
    const mould = scene('7-three-at-the-mould')
    const run = levelsOfPatch(mould, shelf).runs.find(({ points }) =>
      points.some(({ part }) => part === 'founder-receiver'),
    )!
    expect(keysOf(mould, run.id).filter((key) => key.endsWith('.channel'))).toHaveLength(2)
  })
})
