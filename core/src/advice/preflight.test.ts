import { describe, expect, it } from 'vitest'
import { wiringOf } from '../circuit'
import { applyEdits, type Edit } from '../edits'
import { levelsOfPatch } from '../levels'
import type { Patch } from '../model'
import { scene, shelf } from '../tests/demo'
import { isForEveryTake, preflightOf } from './index'

const listOf = (patch: Patch) =>
  preflightOf(patch, shelf, levelsOfPatch(patch, shelf).runs, wiringOf(patch, shelf))
const kinds = (patch: Patch) => listOf(patch).map(({ kind }) => kind)
const after = (patch: Patch, ...edits: Edit[]) => applyEdits(patch, edits, shelf)

const bench = scene('1-the-founder-at-the-bench')
const three = scene('7-three-at-the-mould')

describe('the list before the first take', () => {
  it('names the switches of everything that the sound passes, as they stand now, and none of a desk', () => {
    const switchesOf = (patch: Patch, name: string) =>
      listOf(patch).flatMap((item) => (item.kind === 'switches' && item.box === name ? item.switches : []))
    expect(switchesOf(bench, 'Camera')).toContainEqual({ name: 'Level', position: 'manual' })
    const off = after(bench, { kind: 'set control', part: 'recorder', control: 'phantom-1', position: 'off' })
    expect(switchesOf(bench, 'Recorder')).toContainEqual({ name: 'Phantom 1', position: 'on' })
    expect(switchesOf(off, 'Recorder')).toContainEqual({ name: 'Phantom 1', position: 'off' })
    expect(switchesOf(scene('4-bells-in-the-town-hall'), 'Desk')).toEqual([])
  })
  it('speaks of phantom power where a supply of it is on, whatever microphone hangs there', () => {
    const switched = (position: string): Edit => ({
      kind: 'set control',
      part: 'recorder',
      control: 'phantom-1',
      position,
    })
    expect(kinds(after(bench, switched('on')))).toContain('phantom power')
    expect(kinds(after(bench, switched('off')))).not.toContain('phantom power')
    // plug-in power is none
    expect(kinds(scene('2-the-pour'))).not.toContain('phantom power')
  })
  it('pairs each transmitter with its receiver on their channel', () => {
    const pairs = listOf(three).flatMap((item) => (item.kind === 'radio' ? [item] : []))
    expect(pairs.map(({ sender, channel }) => [sender, channel])).toEqual([
      ['Founder\u2019s transmitter', '1'],
      ['Apprentice\u2019s transmitter', '2'],
      ['Ringer\u2019s transmitter', '4'],
    ])
    expect(kinds(scene('3-the-tuning'))).not.toContain('radio')
  })
  it('says which box sets its own level, until that is switched off', () => {
    const own = (patch: Patch) => listOf(patch).flatMap((item) => (item.kind === 'own level' ? item.box : []))
    expect(own(bench)).toEqual([])
    const automatic = after(bench, {
      kind: 'set control',
      part: 'camera',
      control: 'gain-mode',
      position: 'auto',
    })
    expect(own(automatic)).toEqual(['Camera'])
  })
  it('starts what records with the camera last, and asks a single one whether it really does', () => {
    const start = (patch: Patch) => listOf(patch).find(({ kind }) => kind === 'start')
    expect(start(bench)).toEqual({ kind: 'start', recorders: ['Transmitter', 'Recorder', 'Camera'] })
    expect(start(scene('6-the-apprentice-by-phone'))).toEqual({ kind: 'start', recorders: ['Phone'] })
  })
  it('tells people of any microphone, and of none where a desk alone is recorded', () => {
    expect(kinds(bench)).toContain('consent')
    expect(kinds(scene('3-the-tuning'))).toContain('consent')
    const hall = scene('4-bells-in-the-town-hall')
    const unplugged = after(hall, { kind: 'disconnect', link: 'room-cable' })
    expect(kinds(unplugged)).not.toContain('consent')
  })
  it('has a clip played back where there is nothing to listen at', () => {
    const ears = (patch: Patch) =>
      listOf(patch).flatMap((item) => (item.kind === 'listen' ? [item.boxes] : []))
    expect(ears(bench)).toEqual([['Headphones']])
    expect(ears(scene('2-the-pour'))).toEqual([[]])
  })
  it('asks again before every take for what may have changed by itself', () => {
    const again = listOf(three).filter(isForEveryTake)
    expect([...new Set(again.map(({ kind }) => kind))]).toEqual(['radio', 'meters', 'start'])
  })
})
