import fc from 'fast-check'
import type { Control, GearInput, Patch } from '../model'
import { linePatch } from './line-patch'

type StageInput = NonNullable<GearInput['strips']>[number]['stages'][number]

/** A generated amplifier with a control of its own. */
export interface Amp {
  steps: number
  click: number
  least: number
  inputNoise: number
  outputNoise: number
  ceiling: number
  shared: boolean
}
export const amp: fc.Arbitrary<Amp> = fc.record({
  steps: fc.integer({ min: 1, max: 4 }),
  click: fc.constantFrom(1, 2.5, 4, 6),
  least: fc.integer({ min: -20, max: 20 }),
  inputNoise: fc.integer({ min: -130, max: -95 }),
  outputNoise: fc.integer({ min: -110, max: -80 }),
  ceiling: fc.integer({ min: -25, max: 20 }),
  shared: fc.boolean(),
})

const gainStage = (each: Amp, control: string): StageInput => ({
  kind: 'gain',
  gainDb: { control, perUnit: 1 },
  inputNoiseDbuA: each.inputNoise,
  outputNoiseDbuA: each.outputNoise,
  outputCeilingDbu: each.ceiling,
})
export const knob = (each: Amp, id: string): Control => ({
  kind: 'knob',
  id,
  name: id,
  minimum: each.least,
  maximum: each.least + each.steps * each.click,
  click: each.click,
  unit: 'dB',
  initial: each.least,
})

/** A feed through a trunk of amplifiers into one or two branches, each ending in a track; some branches share a knob. */
export function generated(
  trunk: Amp[],
  branches: Amp[][],
  mixed: boolean,
  peakTarget: 'usual' | 'full' | 'cautious',
): Patch {
  const controls = [
    ...trunk.map((each, index) => knob(each, `t${index}`)),
    ...branches.flatMap((row, branch) => row.map((each, index) => knob(each, `b${branch}-${index}`))),
  ]
  const box: GearInput = {
    id: 'box',
    name: 'Box',
    maker: 'Tarnwick',
    kind: 'recorder',
    controls,
    ports: [{ id: 'in', name: 'in', direction: 'in', connector: 'fixed' }],
    strips: [
      {
        id: 'trunk',
        from: { port: 'in' },
        stages: trunk.map((each, index) => gainStage(each, `t${index}`)),
        to: [{ bus: 'split' }],
      },
      ...branches.map((row, branch) => ({
        id: `branch${branch}`,
        from: { bus: 'split' },
        stages: [
          ...row.map((each, index) =>
            gainStage(
              each,
              each.shared && branch > 0 && branches[0]![index] ? `b0-${index}` : `b${branch}-${index}`,
            ),
          ),
          ...(mixed ? [] : end(branch)),
        ],
        to: mixed ? [{ bus: 'mix' }] : [],
      })),
      ...(mixed ? [{ id: 'mixed', from: { bus: 'mix' }, stages: end(9) }] : []),
    ],
  }
  const source = {
    kind: 'line' as const,
    id: 'feed',
    name: 'feed',
    levelsDbu: { quietest: -50, typical: -40, loudest: -32 },
    noiseDbuA: -110,
  }
  return linePatch([source], {
    gear: [box],
    boxes: [{ id: 'box', gear: 'box', source: 'feed' }],
    links: [],
    plan: { peakTarget },
  })
}
const end = (track: number): StageInput[] => [
  { kind: 'converter-in', fullScaleDbu: 6, noiseDbfsA: -96 },
  { kind: 'recording', name: `track ${track}`, track: `${track}` },
]

export const quiet = {
  steps: 20,
  click: 2,
  least: 0,
  inputNoise: -125,
  outputNoise: -105,
  ceiling: 15,
  shared: false,
}
export const noisy = { ...quiet, inputNoise: -100, least: -20 }
