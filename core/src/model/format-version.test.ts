import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { scene } from '../tests/demo'
import { currentFormat } from './format-version'
import { Patch } from './patch'
import { parseJson } from './refusal'

const written = readFileSync(new URL('../tests/version-1-scene.json', import.meta.url), 'utf8')

describe('a file of version 1', () => {
  it('reads as the same scene does today', () => {
    expect(Patch.safeParse(JSON.parse(written)).success).toBe(false)
    expect(parseJson(Patch, written, 'scene')).toEqual(scene('1-the-founder-at-the-bench'))
  })
  it('keeps ids that are called as a field once was', () => {
    const settings = { way: 'in', turned: 3, through: 'on' }
    expect(currentFormat({ settings })).toEqual({ settings })
  })
  it('brings edits and single things along, and leaves what is current as it is', () => {
    expect(
      currentFormat([
        { kind: 'change plan', to: { school: 'full', keeper: 'camera only' } },
        { kind: 'insert piece', link: 'a', at: 1, piece: { id: 'p', turned: true } },
      ]),
    ).toEqual([
      { kind: 'change plan', to: { peakTarget: 'full', counts: 'camera only' } },
      { kind: 'insert piece', link: 'a', at: 1, piece: { id: 'p', reversed: true } },
    ])
    const now = scene('7-three-at-the-mould')
    expect(currentFormat(now)).toEqual(now)
    expect(currentFormat({ format: 'iron-hush/measurement', version: 1 })).toMatchObject({ version: 1 })
  })
})
