import { z } from 'zod'
import { Id, Name, Note } from './text'

/** Lowest and highest level of an acoustic source, dB(A) at 1 m, and of a line feed, dBu. */
export const acousticBoundsDba = [0, 150] as const
export const feedBoundsDbu = [-80, 30] as const

const within = ([least, most]: readonly [number, number]) => z.number().min(least).max(most)

const moments = <T extends z.ZodType>(level: T) =>
  z.strictObject({ quietest: level, typical: level, loudest: level })

/** Who or what must be heard. Acoustic levels are dB(A) at 1 m; a line feed is dBu at its output. */
export const Source = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.enum(['speech', 'strike', 'music', 'machine']),
    id: Id,
    name: Name,
    levelsDba: moments(within(acousticBoundsDba)).describe('RMS at 1 m, dB(A)'),
    crestDb: z.number().min(0).max(40).default(14).describe('peak over RMS'),
    movement: z.enum(['seated', 'standing', 'walking']).default('seated'),
  }),
  z.strictObject({
    kind: z.literal('line'),
    id: Id,
    name: Name,
    levelsDbu: moments(within(feedBoundsDbu)).describe('RMS at the output that feeds us, dBu'),
    crestDb: z.number().min(0).max(40).default(14),
    noiseDbuA: z.number().min(-140).max(0).optional().describe('noise that comes with the feed, dBu(A)'),
  }),
])
export type Source = z.infer<typeof Source>

export const Framing = z.enum(['face', 'head and shoulders', 'waist-up', 'knees-up', 'whole figure', 'wide'])
export type Framing = z.infer<typeof Framing>

/** Purpose of the result. */
export const Purpose = z.enum(['a note', 'an online talk', 'a documentary', 'broadcast'])
export type Purpose = z.infer<typeof Purpose>

/** The speech-to-noise that each usually asks for, dB: rules of thumb, to be changed. */
export const usualForPurposeDb: Record<Purpose, number> = {
  'a note': 10,
  'an online talk': 20,
  'a documentary': 30,
  broadcast: 36,
}

export const Sensor = z.enum(['full frame', 'APS-C', 'four thirds', 'one inch', 'action camera'])
export type Sensor = z.infer<typeof Sensor>

export const NoiseSpectrum = z.enum(['even', 'traffic', 'ventilation', 'wind'])

/** A possible place for a microphone, with distance and angle to each source it hears. */
export const Place = z.strictObject({
  id: Id,
  name: Name,
  hears: z
    .array(
      z.strictObject({
        source: Id,
        distanceM: z.number().min(0.005).max(200),
        angleDeg: z.number().min(0).max(180).default(0).describe('off the axis of the microphone'),
      }),
    )
    .max(16),
  noises: z
    .array(z.strictObject({ noise: Id, angleDeg: z.number().min(0).max(180) }))
    .max(16)
    .optional()
    .describe('noises that come from one side here, off the axis of the microphone; any other is all round'),
})
export type Place = z.infer<typeof Place>

/** Wind protection of a microphone. */
export const Cover = z.enum(['none', 'foam', 'fur', 'basket'])
export type Cover = z.infer<typeof Cover>

/** What must be heard, where, and against what. */
export const Brief = z.strictObject({
  sources: z.array(Source).min(1).max(16),
  places: z.array(Place).max(24).default([]),
  picture: z.strictObject({
    framing: Framing,
    focalLengthMm: z.number().min(1).max(2000),
    sensor: Sensor,
  }),
  room: z.strictObject({
    name: Name,
    outdoors: z.boolean().default(false),
    volumeM3: z.number().min(1).max(1_000_000),
    reverberationS: z.number().min(0.05).max(20),
  }),
  noises: z
    .array(
      z.strictObject({
        id: Id,
        name: Name,
        levelDba: z.number().min(0).max(140).describe('where the microphones are, as it mostly is'),
        loudestDba: z
          .number()
          .min(0)
          .max(150)
          .optional()
          .describe('in its loudest moment; left out: it stays as it is'),
        crestDb: z
          .number()
          .min(0)
          .max(40)
          .optional()
          .describe('peak over RMS; left out: 12, as of steady noise'),
        spectrum: NoiseSpectrum.default('even'),
        inPicture: z.boolean().default(false).describe('the picture explains it'),
      }),
    )
    .max(16)
    .default([]),
  wind: z.enum(['none', 'breeze', 'gusts']).default('none'),
  purpose: Purpose.optional().describe('what the result is for'),
  wantedSpeechToNoiseDb: z
    .number()
    .min(0)
    .max(90)
    .optional()
    .describe('speech-to-noise that the result asks for; less is a harm, as less than 0 always is'),
  note: Note.default(''),
})
export type Brief = z.infer<typeof Brief>
export type BriefInput = z.input<typeof Brief>

/** Name of a source in each unit. */
export const levelsOf = (source: Source) => (source.kind === 'line' ? source.levelsDbu : source.levelsDba)
