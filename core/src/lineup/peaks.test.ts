import { describe, expect, it } from 'vitest'
import { known, type LineUpReading, type Patch } from '../model'
import { scene, shelf } from '../tests/demo'
import { expectWords } from '../words'
import { benchOf } from './bench'
import { meaningOf } from './meaning'
import { lineUpSteps } from './steps'

const heardIn = (file: string, kind: string, change = (patch: Patch) => patch) => {
  const bench = benchOf(change(scene(file)), shelf)
  const step = known(
    lineUpSteps(bench).find((each) => each.kind === 'voice' && each.source?.kind === kind),
    kind,
  )
  const reading = (levelDbfs: number): LineUpReading => ({
    id: '00000000-0000-7000-8000-00000000000f',
    at: '2026-03-14T15:00:00.000Z',
    step: step.id,
    basis: step.basis,
    result: { kind: 'level', levelDbfs },
    gear: {},
    settings: {},
    playedDbfs: null,
  })
  return {
    step,
    words: expectWords(step, (track) => track),
    read: (levelDbfs: number) => meaningOf(bench, step, reading(levelDbfs))[0],
  }
}

describe('peaks of the real voice', () => {
  it('are asked for where the plan has them, where no control brings them into the window', () => {
    // the desk's feed: 7 dB over the window of -15 to -12, and Balance can do nothing about it
    const { words, read } = heardIn('4-bells-in-the-town-hall', 'line')
    expect(words).toBe('peaks near \u22125.0 dBFS, as planned; the target is \u221215 to \u221212 dBFS')
    for (const peakDbfs of [-6, -5, -4, -9, -14])
      expect(read(peakDbfs)?.code, `${peakDbfs}`).toBe('peaks as planned')
    expect(read(-1)).toMatchObject({ code: 'peaks off', severity: 'harmful', figures: { peakDbfs: -1 } })
    expect(known(read(-1)?.figures as { byDb: number } | undefined, 'figures').byDb).toBeCloseTo(-4, 0)
    expect(read(-20)).toMatchObject({ code: 'peaks off', severity: 'degraded' })
  })
  it('are asked for in the window where a control can bring them there, whatever the plan has', () => {
    // not balanced yet: the plan is far over it
    const { step, words, read } = heardIn('3-the-tuning', 'strike')
    const planned = (step.expect as { peakDbfs: number }).peakDbfs
    expect(planned).toBeGreaterThan(-8)
    expect(words).toMatch(/^peaks \u221215 to \u221212 dBFS; the plan says /)
    expect(read(planned)).toMatchObject({ code: 'peaks off', severity: 'harmful' })
    expect(read(-13)?.code).toBe('peaks as planned')
  })
  it('are asked for in the window where the plan has them there', () => {
    const { words, read } = heardIn('4-bells-in-the-town-hall', 'strike')
    expect(words).toMatch(/^peaks \u221215 to \u221212 dBFS; the plan says /)
    expect(read(-13)?.code).toBe('peaks as planned')
    expect(read(-5)).toMatchObject({ code: 'peaks off', severity: 'harmful', figures: { byDb: -8.5 } })
  })
  it('are asked for as planned where every control that would change them is locked', () => {
    const level = { 'level-1': 12 }
    const withLocked = (locked: string[]) => (patch: Patch) => ({
      ...patch,
      boxes: patch.boxes.map((box) =>
        box.id === 'camera' ? { ...box, settings: { ...box.settings, ...level }, locked } : box,
      ),
    })
    const words = (locked: string[]) =>
      heardIn('4-bells-in-the-town-hall', 'strike', withLocked(locked)).words
    expect(words([])).toMatch(/the plan says/)
    // the input for lines would be softer, so it is no dead end yet
    expect(words(['level-1'])).toMatch(/the plan says/)
    // what is left to turn, as the low-cut, sets no level
    expect(words(['level-1', 'input-1'])).toMatch(/^peaks near .+, as planned; the target is/)
  })
})
