import fc from 'fast-check'
import { checkPatch, type GearInput, Patch, type PatchInput } from '../model'

/*
 * Chains made at random for comparing predictions with samples: voices in loud places, several of them in one track, one
 * by two ways, music that is ducked, limiters and automatic gain.
 */

interface Voice {
  typicalDba: number
  overDb: number
  crestDb: number
  distanceM: number
  /** How far its neighbour's microphone is; left out: that one does not hear it. */
  spillM?: number
  gainDb: number
}
interface Recipe {
  voices: Voice[]
  music?: { typicalDbu: number; gainDb: number; duckDb: number; twoWays: boolean }
  noise?: { levelDba: number; overDb: number; spectrum: 'even' | 'traffic' | 'ventilation' | 'wind' }
  limiter?: { threshold: number; ratio: number; attackMs: number; releaseMs: number }
  agc?: {
    target: number
    minimumGainDb: number
    maximumGainDb: number
    attackMs: number
    holdMs: number
    releaseMs: number
    linked: boolean
  }
  cameraGainDb: number
  lowCut: boolean
}

const whole = (min: number, max: number) => fc.integer({ min, max })
const maybe = <T>(arbitrary: fc.Arbitrary<T>) => fc.option(arbitrary, { nil: undefined })

const voice: fc.Arbitrary<Voice> = fc.record({
  typicalDba: whole(58, 76),
  overDb: whole(4, 14),
  crestDb: whole(9, 16),
  distanceM: fc.constantFrom(0.1, 0.2, 0.5, 1, 2),
  spillM: maybe(fc.constantFrom(1, 2, 4)),
  gainDb: whole(20, 50),
})
const agc = fc.record({
  target: whole(-30, -12),
  minimumGainDb: whole(-20, 0),
  maximumGainDb: whole(6, 36),
  attackMs: fc.constantFrom(5, 20, 40, 120),
  holdMs: fc.constantFrom(0, 100, 300, 900),
  releaseMs: fc.constantFrom(300, 800, 1500, 4000),
  linked: fc.boolean(),
})
const recipe = (withAgc: fc.Arbitrary<Recipe['agc']>): fc.Arbitrary<Recipe> =>
  fc.record({
    voices: fc.array(voice, { minLength: 1, maxLength: 2 }),
    music: maybe(
      fc.record({
        typicalDbu: whole(-30, -6),
        gainDb: whole(-10, 6),
        duckDb: fc.constantFrom(0, 6, 14),
        twoWays: fc.boolean(),
      }),
    ),
    noise: maybe(
      fc.record({
        levelDba: whole(25, 95),
        overDb: whole(0, 20),
        spectrum: fc.constantFrom(
          'even' as const,
          'traffic' as const,
          'ventilation' as const,
          'wind' as const,
        ),
      }),
    ),
    limiter: maybe(
      fc.record({
        threshold: whole(-15, 15),
        ratio: fc.constantFrom(4, 10, 20, 100),
        attackMs: fc.constantFrom(0.3, 1, 3, 10),
        releaseMs: fc.constantFrom(50, 150, 400),
      }),
    ),
    agc: withAgc,
    cameraGainDb: whole(0, 20),
    lowCut: fc.boolean(),
  })

const knob = (id: string, initial: number, least: number, most: number) => ({
  kind: 'knob' as const,
  id,
  name: id,
  minimum: Math.min(least, initial),
  maximum: most,
  click: 1,
  unit: 'dB',
  initial,
})

const microphone: GearInput = {
  id: 'microphone',
  name: 'Microphone',
  maker: 'Tarnwick',
  kind: 'microphone',
  ports: [
    { id: 'air', name: 'air', direction: 'in', connector: 'air' },
    { id: 'out', name: 'out', direction: 'out', connector: 'fixed' },
  ],
  strips: [
    {
      id: 'capsule',
      from: { port: 'air' },
      stages: [{ kind: 'transducer', sensitivityDbvPa: -38, selfNoiseDba: 16, maximumDbSpl: 134 }],
      to: [{ port: 'out' }],
    },
  ],
}

function mixer({ voices, music, limiter, lowCut }: Recipe): GearInput {
  const gain = (control: string) => ({
    kind: 'gain' as const,
    gainDb: { control, perUnit: 1 },
    inputNoiseDbuA: -126,
    outputNoiseDbuA: -98,
    outputCeilingDbu: 20,
  })
  return {
    id: 'mixer',
    name: 'Mixer',
    maker: 'Tarnwick',
    kind: 'mixer',
    controls: [
      ...voices.map((each, index) => knob(`gain-${index}`, each.gainDb, 0, 60)),
      ...(music ? [knob('music', music.gainDb, -30, 10)] : []),
    ],
    ports: [
      ...[...voices.map((_, index) => `${index}`), ...(music ? ['music'] : [])].map((id) => ({
        id,
        name: id,
        direction: 'in' as const,
        connector: 'fixed' as const,
      })),
      { id: 'out', name: 'out', direction: 'out', connector: 'fixed' },
    ],
    strips: [
      ...voices.map((_, index) => ({
        id: `strip-${index}`,
        from: { port: `${index}` },
        stages: [...(lowCut ? [{ kind: 'low-cut' as const, cornerHz: 90 }] : []), gain(`gain-${index}`)],
        to: [{ bus: 'mix' }],
      })),
      ...(music
        ? Array.from({ length: music.twoWays ? 2 : 1 }, (_, way) => ({
            id: `music-${way}`,
            from: { port: 'music' },
            stages: [
              gain('music'),
              ...(music.duckDb ? [{ kind: 'duck' as const, depthDb: music.duckDb }] : []),
            ],
            to: [{ bus: 'mix' }],
          }))
        : []),
      {
        id: 'master',
        from: { bus: 'mix' },
        stages: limiter ? [{ kind: 'limiter' as const, ...limiter }] : [],
        to: [{ port: 'out' }],
      },
    ],
  }
}

const camera = ({ agc: automatic, cameraGainDb }: Recipe): GearInput => ({
  id: 'camera',
  name: 'Camera',
  maker: 'Tarnwick',
  kind: 'camera',
  controls: [knob('pad', 26, 0, 50)],
  ports: [
    { id: 'mixed', name: 'mixed', direction: 'in', connector: 'fixed' },
    { id: 'beside', name: 'beside', direction: 'in', connector: 'fixed' },
  ],
  strips: ['mixed', 'beside'].map((port) => ({
    id: port,
    from: { port },
    stages: [
      { kind: 'pad', lossDb: { control: 'pad', perUnit: 1 } },
      { kind: 'gain', gainDb: cameraGainDb, inputNoiseDbuA: -115, outputCeilingDbu: 12 },
      ...(automatic
        ? [{ ...automatic, kind: 'agc' as const, linked: automatic.linked ? 'both' : undefined }]
        : []),
      { kind: 'converter-in', fullScaleDbu: 0, noiseDbfsA: -88 },
      { kind: 'recording', name: port, track: port },
    ],
  })),
})

function patchOf(made: Recipe): Patch {
  const { voices, music, noise } = made
  const patch: PatchInput = {
    format: 'iron-hush/patch',
    version: 2,
    name: 'made at random',
    brief: {
      sources: [
        ...voices.map(({ typicalDba, overDb, crestDb }, index) => ({
          kind: 'speech' as const,
          id: `voice-${index}`,
          name: `voice ${index}`,
          levelsDba: { quietest: typicalDba - 8, typical: typicalDba, loudest: typicalDba + overDb },
          crestDb,
        })),
        ...(music
          ? [
              {
                kind: 'line' as const,
                id: 'music',
                name: 'music',
                levelsDbu: {
                  quietest: music.typicalDbu - 10,
                  typical: music.typicalDbu,
                  loudest: music.typicalDbu + 6,
                },
                noiseDbuA: -90,
              },
            ]
          : []),
      ],
      places: voices.map(({ distanceM }, index) => ({
        id: `place-${index}`,
        name: `place ${index}`,
        hears: voices.flatMap((each, other) =>
          other === index
            ? [{ source: `voice-${other}`, distanceM }]
            : each.spillM === undefined
              ? []
              : [{ source: `voice-${other}`, distanceM: each.spillM }],
        ),
      })),
      picture: { framing: 'wide', focalLengthMm: 24, sensor: 'APS-C' },
      room: { name: 'yard', outdoors: true, volumeM3: 50, reverberationS: 0.5 },
      noises: noise
        ? [
            {
              id: 'noise',
              name: 'noise',
              levelDba: noise.levelDba,
              loudestDba: noise.levelDba + noise.overDb,
              spectrum: noise.spectrum,
            },
          ]
        : [],
    },
    gear: [microphone, mixer(made), camera(made)],
    boxes: [
      ...voices.map((_, index) => ({
        id: `microphone-${index}`,
        gear: 'microphone',
        place: `place-${index}`,
      })),
      ...(music ? [{ id: 'feed', gear: 'feed', source: 'music' }] : []),
      { id: 'mixer', gear: 'mixer' },
      { id: 'camera', gear: 'camera' },
    ],
    links: [
      ...voices.map((_, index) => ({
        id: `link-${index}`,
        from: { box: `microphone-${index}`, port: 'out' },
        to: { box: 'mixer', port: `${index}` },
      })),
      ...(music
        ? [{ id: 'link-music', from: { box: 'feed', port: 'out' }, to: { box: 'mixer', port: 'music' } }]
        : []),
      { id: 'link-mixed', from: { box: 'mixer', port: 'out' }, to: { box: 'camera', port: 'mixed' } },
    ],
  }
  if (music)
    patch.gear!.push({
      id: 'feed',
      name: 'Feed',
      maker: 'Tarnwick',
      kind: 'mixer',
      ports: [
        { id: 'in', name: 'in', direction: 'in', connector: 'fixed' },
        { id: 'out', name: 'out', direction: 'out', connector: 'fixed' },
        { id: 'second', name: 'second', direction: 'out', connector: 'fixed' },
      ],
      strips: [
        {
          id: 'through',
          from: { port: 'in' },
          stages: [{ kind: 'gain', gainDb: 0, outputNoiseDbuA: -100 }],
          to: [{ port: 'out' }, { port: 'second' }],
        },
      ],
    })
  // what the camera's other channel hears: the feed by itself, which holds gain that turns both together
  if (music)
    patch.links.push({
      id: 'link-beside',
      from: { box: 'feed', port: 'second' },
      to: { box: 'camera', port: 'beside' },
    })
  const parsed = Patch.parse(patch)
  const problems = checkPatch(parsed, new Map())
  if (problems.length) throw new Error(problems[0])
  return parsed
}

/** Chains of every kind, and such as automatic gain acts in. */
export const anyChain: fc.Arbitrary<Patch> = recipe(maybe(agc)).map(patchOf)
export const automaticChain: fc.Arbitrary<Patch> = recipe(agc).map(patchOf)
