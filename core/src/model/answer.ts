import { z } from 'zod'
import { Position } from './control'
import { Measurement } from './measurement'
import { CeilingShape } from './stage'

const decibel = z.number().nullable().describe('dB; null for minus infinity or nothing')
const moments = z.strictObject({ quietest: decibel, typical: decibel, loudest: decibel })

const FindingAnswer = z.strictObject({
  severity: z.enum(['dead', 'harmful', 'degraded', 'note']),
  about: z.enum([
    'ceiling',
    'hiss',
    'under noise',
    'echo',
    'place',
    'window',
    'pauses',
    'sum',
    'ears',
    'clip',
    'silence',
    'low level',
    'hum',
    'wind',
    'pop',
    'pumping',
    'dropout',
    'rustle',
    'click',
    'channels equal',
    'channels unequal',
    'channels opposite',
    'channels delayed',
    'one channel silent',
    'level',
    'unrecorded',
    'softer',
    'leads nowhere',
  ]),
  run: z.string().describe('run id, or channel of a clip; empty where a source has no run'),
  part: z.string().describe('box or piece it is about'),
  what: z.string(),
  why: z.string(),
  remedy: z.string(),
})
export type FindingAnswer = z.infer<typeof FindingAnswer>

const CeilingAnswer = z.strictObject({
  at: z.enum(['input', 'output']),
  levelDb: z.number().describe('in the unit of the point'),
  shape: CeilingShape,
  headroomDb: z.number().describe('over the largest peak of all that sounds there; negative when passed'),
  atSourceDb: z.number().describe('level at the source of a sine that would meet it'),
  onset: z.boolean().describe('it lies behind automatic gain: what meets it is the first word after a pause'),
})

const RunAnswer = z.strictObject({
  id: z.string().describe('source>first box>last box.track'),
  source: z.string(),
  unit: z.enum(['dB SPL', 'dBu']).describe('of every figure at the source'),
  end: z.strictObject({
    box: z.string(),
    kind: z.enum(['recording', 'listen']),
    track: z.string(),
    name: z.string(),
  }),
  verdict: z.string(),
  stop: z
    .strictObject({
      part: z.string(),
      about: z.string(),
      what: z.string(),
      why: z.string(),
      remedy: z.string(),
    })
    .nullable()
    .describe('why nothing arrives, where the wiring or the radio lets nothing through'),
  atSource: z.strictObject({
    quietest: z.number(),
    typical: z.number(),
    loudest: z.number(),
    peak: z.number(),
    placeNoise: decibel.describe('noise of the place as the microphone takes it in, dB(A)'),
    echo: decibel.describe("the room's own echo of the source as the microphone takes it in, dB(A)"),
    wind: decibel.describe('wind at the microphone itself, dB(A), a rule of thumb; part of placeNoise'),
  }),
  peakDb: z
    .number()
    .describe(
      'largest peak at the end of all that sounds there, sine-equivalent: dBFS on a track, dB SPL at an ear',
    ),
  typicalDb: z.number(),
  noiseDb: decibel.describe('A-weighted noise of the boxes at the end, as it is in a pause'),
  noiseWithPlaceDb: decibel.describe('the same with the noise of the place'),
  overBoxesDb: decibel.describe('typical level over the noise of the boxes'),
  speechToNoiseDb: decibel.describe(
    'typical level over all noise in its pauses; negative when the noise is louder',
  ),
  pauseRiseDb: z.number().describe('rise of the noise in pauses under automatic gain'),
  tightest: z.strictObject({ part: z.string(), name: z.string(), ceiling: CeilingAnswer }).nullable(),
  shares: z.array(
    z.strictObject({
      part: z.string(),
      name: z.string(),
      atSourceDb: decibel,
      share: z.number().describe('of the noise power of the boxes, 0 to 1'),
    }),
  ),
  points: z.array(
    z.strictObject({
      node: z.string(),
      part: z.string(),
      partName: z.string(),
      name: z.string(),
      kind: z.string(),
      domain: z.enum(['pressure', 'volts', 'digital']).describe('unit: dB SPL, dBu or dBFS'),
      controls: z.array(z.string()),
      rmsDb: moments,
      peakDb: moments,
      wholePeakDb: z.number().describe('largest peak of all that sounds there, sine-equivalent'),
      gainFromSourceDb: z.number(),
      noiseDb: decibel,
      noiseAtSourceDb: decibel,
      ownNoiseAtSourceDb: decibel,
      ceilings: z.array(CeilingAnswer),
    }),
  ),
})

/** What `hush levels --json` prints. */
export const LevelsAnswer = z.strictObject({
  format: z.literal('iron-hush/levels'),
  version: z.literal(1),
  patch: z.string(),
  runs: z.array(RunAnswer),
  reach: z
    .record(z.string(), z.array(z.string()))
    .describe('for each control, part.control, the runs it changes'),
  assumptions: z.array(z.string()),
  findings: z.array(FindingAnswer),
})
export type LevelsAnswer = z.infer<typeof LevelsAnswer>

const ScoreAnswer = z.strictObject({
  overDb: z.number().describe('headroom missing to the margin'),
  outsideDb: z.number().describe('how far the worst recording lies outside its window'),
  speechToNoiseDb: decibel.describe('worst recording that counts'),
  eachSpeechToNoiseDb: z.array(decibel).describe('every recording that counts, the worst first'),
  eachOverBoxesDb: z.array(decibel).describe('the same over the noise of the boxes alone'),
  headroomDb: decibel.describe('smallest of all'),
  changes: z.number().int(),
})

/** What `hush balance --json` prints. */
export const BalanceAnswer = z.strictObject({
  format: z.literal('iron-hush/balance'),
  version: z.literal(1),
  patch: z.string(),
  fits: z.boolean().describe('whether every demand is met'),
  before: ScoreAnswer,
  after: ScoreAnswer,
  changes: z.array(
    z.strictObject({
      part: z.string(),
      control: z.string(),
      from: Position,
      to: Position,
      aloneDb: z.number().describe('speech-to-noise gained by this change alone'),
    }),
  ),
  reasons: z.array(z.string()),
  prices: z
    .array(
      z.strictObject({
        part: z.string(),
        control: z.string(),
        from: Position,
        to: Position,
        speechToNoiseDb: z.number().describe('change of speech-to-noise of the worst recording that counts'),
        headroomDb: z.number().describe('change of the smallest headroom'),
        outsideDb: z.number().describe('change of the worst miss of a window'),
      }),
    )
    .describe('what each neighbouring position would do, from the proposed ones'),
  combinations: z.number().describe('of all free controls'),
  evaluations: z.number().describe('stages computed to find the answer'),
  mayGainDb: z
    .number()
    .optional()
    .describe('the time allowed ran out: so much clearer another setting may be, dB; left out: none is'),
  findings: z.array(FindingAnswer).describe('what is left to say with the proposed settings'),
})
export type BalanceAnswer = z.infer<typeof BalanceAnswer>

/** What `hush measure --json` prints. */
export const MeasureAnswer = z.strictObject({
  ...Measurement.shape,
  findings: z.array(FindingAnswer),
  against: z
    .array(
      z.strictObject({
        channel: z.number().int().min(1),
        recording: z.string(),
        source: z.string(),
        figures: z.array(
          z.strictObject({
            figure: z.string(),
            unit: z.string(),
            planned: decibel,
            measured: decibel,
            differenceDb: decibel,
          }),
        ),
        explanations: z.array(z.strictObject({ what: z.string(), likelihood: z.number().min(0).max(1) })),
      }),
    )
    .default([])
    .describe('each channel beside the plan of a scene, where one was given'),
})
export type MeasureAnswer = z.infer<typeof MeasureAnswer>

const LinkFindingAnswer = z.strictObject({
  severity: z.enum(['dead', 'harmful', 'degraded', 'note']),
  about: z.string(),
  link: z.string(),
  what: z.string(),
  where: z.string().describe('socket and contact'),
  why: z.string(),
  remedy: z.string(),
})

/** What `hush wiring --json` prints. */
export const WiringAnswer = z.strictObject({
  format: z.literal('iron-hush/wiring'),
  version: z.literal(1),
  patch: z.string(),
  links: z.array(
    z.strictObject({
      link: z.string(),
      variants: z
        .array(
          z.strictObject({
            touching: z.array(z.string()).describe('each joint with the contacts that touch: plug on socket'),
            reaches: z.array(
              z.strictObject({
                signal: z.string(),
                channel: z.string(),
                db: decibel.describe('gain at 1 kHz'),
                sign: z.union([z.literal(1), z.literal(-1)]),
                trebleDb: z.number().describe('10 kHz over 1 kHz'),
                cornerHz: z.number().nullable().describe('where it is 3 dB down; null above 40 kHz'),
                bassDb: z.number().describe('100 Hz over 1 kHz'),
                bassCornerHz: z.number().nullable().describe('where it is 3 dB down; null under 10 Hz'),
              }),
            ),
            inputDc: z
              .array(z.strictObject({ contact: z.string(), volts: z.number() }))
              .describe('DC of others on the contacts of the input'),
            needs: z
              .array(z.strictObject({ name: z.string(), minimumVolts: z.number(), volts: z.number() }))
              .describe('what wants power, and what it gets'),
            outputDc: z.array(
              z.strictObject({ contact: z.string(), volts: z.number(), amperes: z.number() }),
            ),
            supplies: z.array(
              z.strictObject({
                name: z.string(),
                contact: z.string(),
                openVolts: z.number(),
                volts: z.number(),
                amperes: z.number(),
              }),
            ),
          }),
        )
        .describe('one for each kind of socket that makes a difference'),
    }),
  ),
  channels: z
    .array(
      z.strictObject({
        box: z.string(),
        track: z.string(),
        holds: z.array(
          z.strictObject({
            source: z.string(),
            by: z.string(),
            gainDb: decibel.describe('from the source to the file'),
            sign: z.union([z.literal(1), z.literal(-1)]),
            isSpill: z.boolean().describe('another recording is meant for it'),
          }),
        ),
      }),
    )
    .describe('what each recorded channel holds: a signed sum of sources'),
  monoLosses: z.array(
    z.strictObject({
      box: z.string(),
      tracks: z.tuple([z.string(), z.string()]),
      source: z.string(),
      leftDb: decibel.describe('left of it in the sum, beside one channel alone; null: as good as nothing'),
    }),
  ),
  findings: z.array(LinkFindingAnswer),
})
export type WiringAnswer = z.infer<typeof WiringAnswer>

/** What `hush odds --json` prints. */
export const OddsAnswer = z.strictObject({
  format: z.literal('iron-hush/odds'),
  version: z.literal(1),
  patch: z.string(),
  draws: z.number().int(),
  seed: z.number().int(),
  tracks: z.array(
    z.strictObject({
      box: z.string(),
      track: z.string(),
      name: z.string(),
      automatic: z.boolean().describe('automatic gain sets its level: no setting before it makes it safer'),
      clipping: z.number().describe('chance that the loudest moment passes a ceiling, 0 to 1'),
      first: z
        .strictObject({ part: z.string(), name: z.string(), chance: z.number() })
        .nullable()
        .describe('the ceiling that is passed most often'),
      speechToNoiseDb: z
        .strictObject({ low: decibel, middle: decibel, high: decibel })
        .describe('one draw in twenty falls under the low, one exceeds the high'),
    }),
  ),
})
export type OddsAnswer = z.infer<typeof OddsAnswer>
