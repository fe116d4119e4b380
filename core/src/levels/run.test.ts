import { describe, expect, it } from 'vitest'
import { checkPatch, Patch, type PatchInput, type GearInput } from '../model'
import { columnsOf, findingsOf, levelsOfPatch, type Run } from './index'
import { levelWords, verdictOf } from '../words'

const picture = { framing: 'waist-up', focalLengthMm: 35, sensor: 'APS-C' } as const
const room = { name: 'outdoors', outdoors: true, volumeM3: 100, reverberationS: 0.5 }
const speaker = (levels: { quietest: number; typical: number; loudest: number }) =>
  ({ kind: 'speech', id: 'founder', name: 'founder', levelsDba: levels, crestDb: 14 }) as const

const shortGun: GearInput = {
  id: 'gun',
  name: 'Short gun',
  maker: 'Oriel & Thwaite',
  kind: 'microphone',
  ports: [
    { id: 'air', name: 'front', direction: 'in', connector: 'air' },
    { id: 'out', name: 'XLR', direction: 'out', connector: 'xlr-3', impedanceOhm: 150 },
  ],
  strips: [
    {
      id: 'capsule',
      from: { port: 'air' },
      stages: [
        { kind: 'transducer', sensitivityDbvPa: -32, selfNoiseDba: 15, maximumDbSpl: 130, pattern: 0.37 },
      ],
      to: [{ port: 'out' }],
    },
  ],
}
const recorder: GearInput = {
  id: 'recorder',
  name: 'Recorder',
  maker: 'Saltmarsh',
  kind: 'recorder',
  controls: [{ kind: 'knob', id: 'gain', name: 'Gain', minimum: 10, maximum: 70, click: 1, initial: 42 }],
  ports: [{ id: 'in', name: 'in 1', direction: 'in', connector: 'xlr-3', impedanceOhm: 3000 }],
  strips: [
    {
      id: 'one',
      from: { port: 'in' },
      stages: [
        {
          kind: 'gain',
          name: 'Preamplifier',
          inputNoiseDbuA: -127,
          inputCeilingDbu: 4,
          gainDb: { control: 'gain', perUnit: 1 },
        },
        { kind: 'converter-in', fullScaleDbu: 20, noiseDbfsA: -112 },
        { kind: 'recording', name: 'track 1', track: '1' },
      ],
    },
  ],
}

function firstRun(input: PatchInput): Run {
  const patch = Patch.parse(input)
  expect(checkPatch(patch, new Map())).toEqual([])
  return levelsOfPatch(patch, new Map()).runs[0]!
}

const boomIntoRecorder: PatchInput = {
  format: 'iron-hush/patch',
  version: 2,
  name: 'worked run 1',
  brief: {
    sources: [speaker({ quietest: 54, typical: 60, loudest: 72 })],
    places: [{ id: 'boom', name: 'boom', hears: [{ source: 'founder', distanceM: 0.45 }] }],
    picture,
    room,
  },
  gear: [shortGun, recorder],
  boxes: [
    { id: 'mic', gear: 'gun', place: 'boom' },
    { id: 'rec', gear: 'recorder' },
  ],
  links: [{ id: 'lead', from: { box: 'mic', port: 'out' }, to: { box: 'rec', port: 'in' } }],
}

describe('worked run 1: short gun into a recorder', () => {
  const run = firstRun(boomIntoRecorder)
  const capsule = run.points[1]!
  it('has the levels at the output of the capsule', () => {
    expect(capsule.rmsDb.typical).toBeCloseTo(-56.85, 2)
    expect(capsule.peakDb.loudest).toBeCloseTo(-33.86, 2)
    expect(capsule.noiseDb).toBeCloseTo(-108.78, 2)
    const [ceiling] = capsule.ceilings
    expect(ceiling!.levelDb + capsule.gainFromSourceDb).toBeCloseTo(6.22, 2)
  })
  it('has the recording', () => {
    expect(run.peakDb).toBeCloseTo(-12.28, 2)
    // the 150 ohm of the microphone are in its self-noise, and are not counted again in the input noise
    expect(run.noiseDb).toBeCloseTo(-87.14, 2)
    expect(run.overBoxesDb).toBeCloseTo(51.87, 2)
    expect(run.shares[0]!.node).toContain('mic')
    expect(run.shares[0]!.share * 100).toBeCloseTo(98.4, 1)
  })
  it('shows the pressure at which each ceiling is met, and every share once', () => {
    const point = run.points.find(({ name }) => name === 'Preamplifier')!
    const [ceiling] = point.ceilings
    expect(ceiling!.atSourceDb - run.atSource.peak).toBeCloseTo(ceiling!.headroomDb, 9)
    expect(run.shares.reduce((sum, { share }) => sum + share, 0)).toBeCloseTo(1, 9)
  })
  it('draws a column for what shows something and leaves the control with its stage', () => {
    const columns = columnsOf(run)
    expect(columns.map(({ name }) => name)).toEqual([
      'At the capsule',
      'Capsule',
      'Preamplifier',
      'Converter',
    ])
    expect(columns[2]!.controls).toEqual(['rec.gain'])
  })
  it('says so in words', () => {
    const text = verdictOf(run, Patch.parse(boomIntoRecorder).plan)
      .map((words) => words.text)
      .join('')
    expect(text).toMatch(
      /^Clean: 12\.3 dB of headroom .* Speech-to-noise 51\.9 dB; Short gun, capsule makes 98 %/,
    )
  })
})

const lineOut = (attenuated: 'before' | 'after' | 'half'): GearInput => {
  const [before, after] = { before: [40, 0], after: [0, 40], half: [20, 20] }[attenuated]
  return {
    id: 'sender',
    name: 'Recorder',
    maker: 'Quernstone',
    kind: 'recorder',
    ports: [
      { id: 'feed', name: 'programme', direction: 'in', connector: 'fixed' },
      { id: 'out', name: 'line', direction: 'out', connector: 'mini-3', gender: 'plug' },
    ],
    strips: [
      {
        id: 'out',
        from: { port: 'feed' },
        stages: [
          { kind: 'pad', name: 'Output level', lossDb: before! },
          { kind: 'gain', name: 'Output amplifier', gainDb: 0, outputNoiseDbuA: -88 },
          { kind: 'pad', name: 'Pad', lossDb: after! },
        ],
        to: [{ port: 'out' }],
      },
    ],
  }
}
const camera: GearInput = {
  id: 'camera',
  name: 'Camera',
  maker: 'Fennimore',
  kind: 'camera',
  ports: [{ id: 'in', name: 'mic', direction: 'in', connector: 'mini-3' }],
  strips: [
    {
      id: 'left',
      from: { port: 'in' },
      stages: [
        {
          kind: 'gain',
          name: 'First amplifier',
          gainDb: 0,
          inputNoiseDbuA: -103,
          inputCeilingDbu: -22,
          ceilingShape: 'bent',
        },
        { kind: 'gain', name: 'Record level', gainDb: 22 },
        { kind: 'converter-in', fullScaleDbu: -4, noiseDbfsA: -88 },
        { kind: 'recording', name: 'left', track: 'left' },
      ],
    },
  ],
}

describe('worked run 2: recorder into camera', () => {
  const run = (attenuated: 'before' | 'after' | 'half') =>
    firstRun({
      ...boomIntoRecorder,
      name: 'worked run 2',
      brief: {
        ...boomIntoRecorder.brief,
        places: [],
        sources: [
          {
            kind: 'line',
            id: 'programme',
            name: 'programme',
            levelsDbu: { quietest: -22, typical: -16, loudest: -16 },
            crestDb: 17.01,
            noiseDbuA: -86,
          },
        ],
      },
      gear: [lineOut(attenuated), camera],
      boxes: [
        { id: 'sender', gear: 'sender', source: 'programme' },
        { id: 'cam', gear: 'camera' },
      ],
      links: [{ id: 'lead', from: { box: 'sender', port: 'out' }, to: { box: 'cam', port: 'in' } }],
    })
  it.each([
    ['after', 46.64],
    ['before', 31.85],
    ['half', 45.54],
  ] as const)('40 dB taken %s the output amplifier leaves %f dB', (where, expected) => {
    expect(Math.abs(run(where).speechToNoiseDb - expected)).toBeLessThan(0.01)
  })
})

describe('findings', () => {
  it('names the box where the loudest moment bends, with the excess', () => {
    const patch = Patch.parse({
      ...boomIntoRecorder,
      brief: { ...boomIntoRecorder.brief, sources: [speaker({ quietest: 54, typical: 60, loudest: 124 })] },
    })
    const found = findingsOf(levelsOfPatch(patch, new Map()), patch)
    expect(found[0]!.severity).toBe('harmful')
    expect(found.some((finding) => /too hot/.test(levelWords(finding).what))).toBe(true)
  })
})

describe('unknown figures', () => {
  it('are replaced by the typical value of the kind, and said', () => {
    const vague: GearInput = {
      ...recorder,
      strips: [
        {
          ...recorder.strips![0]!,
          stages: [
            { kind: 'gain', name: 'Preamplifier', inputNoiseDbuA: 'unknown', gainDb: 42 },
            ...recorder.strips![0]!.stages.slice(1),
          ],
        },
      ],
    }
    const patch = Patch.parse({ ...boomIntoRecorder, gear: [shortGun, vague] })
    const levels = levelsOfPatch(patch, new Map())
    expect(levels.assumptions).toEqual([
      { partName: 'Recorder', place: 'Preamplifier', figure: 'inputNoiseDbuA' },
    ])
    expect(levels.runs[0]!.noiseDb).toBeGreaterThan(-87.12)
  })
})

describe('automatic gain', () => {
  const automatic: GearInput = {
    ...camera,
    strips: [
      {
        ...camera.strips![0]!,
        stages: [
          camera.strips![0]!.stages[0]!,
          { kind: 'agc', target: -20, minimumGainDb: 0, maximumGainDb: 40 },
          ...camera.strips![0]!.stages.slice(2),
        ],
      },
    ],
  }
  const onXlr: GearInput = {
    ...automatic,
    id: 'recorder',
    ports: [{ id: 'in', name: 'in 1', direction: 'in', connector: 'xlr-3' }],
  }
  it('brings speech to its target and lifts the noise of a pause to its limit', () => {
    const run = firstRun({ ...boomIntoRecorder, gear: [shortGun, onXlr] })
    const gainDb = -20 + 56.85
    expect(run.points.find(({ kind }) => kind === 'agc')!.rmsDb.typical).toBeCloseTo(-20, 2)
    expect(run.pauseRiseDb).toBeGreaterThan((40 - gainDb) * 0.8)
    expect(run.pauseRiseDb).toBeLessThan(40 - gainDb)
  })
})
