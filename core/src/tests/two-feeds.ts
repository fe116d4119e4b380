import type { GearInput, Patch, Source } from '../model'
import { linePatch } from './line-patch'

export const agcOfTwoFeeds = { target: -26, minimumGainDb: -12, maximumGainDb: 24 }

/** A camera with automatic gain on both channels, turned together or each for itself. */
const camera = (linked: boolean): GearInput => ({
  id: 'camera',
  name: 'Camera',
  maker: 'Tarnwick',
  kind: 'camera',
  ports: [
    { id: 'one', name: 'one', direction: 'in', connector: 'fixed' },
    { id: 'two', name: 'two', direction: 'in', connector: 'fixed' },
  ],
  strips: ['one', 'two'].map((port) => ({
    id: port,
    from: { port },
    stages: [
      { kind: 'agc', ...agcOfTwoFeeds, ...(linked ? { linked: 'both' } : {}) },
      { kind: 'converter-in', fullScaleDbu: 0, noiseDbfsA: -90 },
      { kind: 'recording', name: port, track: port },
    ],
  })),
})

const mixer = (id: string, initial: number, steps: number): GearInput => ({
  id,
  name: id,
  maker: 'Tarnwick',
  kind: 'mixer',
  controls: [
    {
      kind: 'knob',
      id: 'level',
      name: 'Level',
      minimum: initial,
      maximum: initial + 6 * steps,
      click: 6,
      initial,
    },
  ],
  ports: [
    { id: 'in', name: 'in', direction: 'in', connector: 'fixed' },
    { id: 'out', name: 'out', direction: 'out', connector: 'fixed' },
  ],
  strips: [
    {
      id: 'strip',
      from: { port: 'in' },
      stages: [{ kind: 'gain', gainDb: { control: 'level', perUnit: 1 }, outputNoiseDbuA: -95 }],
      to: [{ port: 'out' }],
    },
  ],
})

/** One source on each channel of one camera, through a mixer each; line feeds never pause. */
export const twoFeeds = (
  sources: readonly [Extract<Source, { kind: 'line' }>, Extract<Source, { kind: 'line' }>],
  { linked, gainsDb = [0, 0], steps = 2 }: { linked: boolean; gainsDb?: [number, number]; steps?: number },
): Patch =>
  linePatch([...sources], {
    gear: [camera(linked), mixer('here', gainsDb[0], steps), mixer('there', gainsDb[1], steps)],
    boxes: [
      { id: 'here', gear: 'here', source: sources[0].id },
      { id: 'there', gear: 'there', source: sources[1].id },
      { id: 'camera', gear: 'camera' },
    ],
    links: [
      { id: 'a', from: { box: 'here', port: 'out' }, to: { box: 'camera', port: 'one' } },
      { id: 'b', from: { box: 'there', port: 'out' }, to: { box: 'camera', port: 'two' } },
    ],
  })
