import { describe, expect, it } from 'vitest'
import { levelsOfPatch } from '../levels'
import { checkPatch } from '../model'
import { scene, shelf } from '../tests/demo'
import { cases, isLong } from '../tests/form'
import { kitOptions, planScene, scenarios } from './index'

const question = {
  camera: shelf.get('fennimore-mirrorless')!,
  scenario: scenarios[0]!,
  heardWith: { microphone: shelf.get('oriel-short-gun')! },
}

/** Fewer things, fewer ways. */
const kit = cases(shelf, new Map([...shelf].filter(([, { owned }]) => owned > 0)))

describe('ways to use a kit', () => {
  it.runIf(isLong)('are joined, powered and balanced, with the same microphones at the same places', () => {
    const { patch } = planScene(question, kit)[0]!
    const shares: number[] = []
    const options = kitOptions(patch, kit, { progress: (share) => shares.push(share) })!
    expect(shares.at(-1)).toBe(1)
    const kinds = options.map(({ way }) => way.kind)
    expect(kinds[0]).toBe('as it is')
    for (const kind of ['straight in', 'between', 'alone'] as const) expect(kinds).toContain(kind)
    const microphones = (of: typeof patch) =>
      of.boxes.flatMap(({ id, gear, place }) =>
        shelf.get(gear)?.kind === 'microphone' ? [`${id} ${gear} ${place}`] : [],
      )
    for (const { way, planned } of options) {
      expect(checkPatch(planned.patch, shelf), way.kind).toEqual([])
      expect(microphones(planned.patch)).toEqual(microphones(patch))
      const runs = levelsOfPatch(planned.patch, shelf).runs.filter(({ end }) => end.kind === 'recording')
      const alive = runs.filter(({ stop }) => !stop)
      // a short gun gets no phantom power from this camera: that way is reported as dead, not left out
      if (way.kind === 'straight in') expect(planned.dead).toBeGreaterThan(0)
      if (way.kind === 'as it is') expect(planned.dead).toBe(0)
      expect(planned.dead > 0, way.kind).toBe(runs.length > alive.length)
      if (planned.dead) continue
      // the figure shown is the worst of the recordings that count, as levels have it
      expect(alive.map(({ speechToNoiseDb }) => speechToNoiseDb.toFixed(6))).toContain(
        planned.worstDb.toFixed(6),
      )
      if (way.kind === 'alone') expect(alive.every(({ end }) => end.gearKind === 'recorder')).toBe(true)
    }
  })
  it.runIf(isLong)('keep a radio in its place', () => {
    const pour = scene('2-the-pour')
    const radios = (of: typeof pour) =>
      of.boxes.filter(({ gear }) => shelf.get(gear)?.kind === 'radio').map(({ id }) => id)
    for (const { planned } of kitOptions(pour, shelf)!) expect(radios(planned.patch)).toEqual(radios(pour))
  })
  it('stop when cancelled', () => {
    expect(kitOptions(scene('2-the-pour'), shelf, { cancelled: () => true })).toBeUndefined()
  })
})
