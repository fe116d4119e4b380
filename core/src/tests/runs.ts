import type { Ceiling, Point, Run } from '../levels'

/** The same distance of 10 dB between the quietest, the typical and the loudest. */
export const moments = (db: number) => ({ quietest: db - 10, typical: db, loudest: db + 10 })

/** A point at which all is well. */
export const pointOf = (part: string, more: Partial<Point> = {}): Point => ({
  node: `${part}.stage`,
  part,
  partName: part.toUpperCase(),
  name: 'Input Stage',
  kind: 'gain',
  domain: 'volts',
  controls: [],
  rmsDb: moments(-40),
  peakDb: moments(-37),
  wholePeakDb: -27,
  placePeakDb: -60,
  gainFromSourceDb: -100,
  noiseDb: -100,
  noiseWithPlaceDb: -100,
  noiseAtSourceDb: 0,
  ownNoiseAtSourceDb: 0,
  pauseNoiseAtSourceDb: 0,
  ceilings: [],
  ...more,
})

/** A run from a microphone over a mixer to a recorder at which all is well. */
export const runOf = (more: Partial<Run> = {}): Run => ({
  id: 'founder>boom>recorder.left',
  source: {
    kind: 'speech',
    id: 'founder',
    name: 'the founder',
    levelsDba: { quietest: 50, typical: 60, loudest: 70 },
    crestDb: 12,
    movement: 'seated',
  },
  unit: 'dB SPL',
  entry: { part: 'boom', name: 'Boom' },
  end: {
    box: 'recorder',
    boxName: 'Recorder',
    kind: 'recording',
    track: 'left',
    name: 'Left',
    gearKind: 'recorder',
    aim: { floating: false, lowerDb: 0 },
  },
  points: [pointOf('boom'), pointOf('mixer'), pointOf('recorder')],
  atSource: { ...moments(60), peak: 80, placeNoise: 20, echo: 20, wind: -Infinity },
  peakDb: -13,
  typicalDb: -30,
  noiseDb: -80,
  noiseWithPlaceDb: -80,
  overBoxesDb: 50,
  speechToNoiseDb: 50,
  pauseRiseDb: 0,
  shares: [],
  byEntry: { db: -30, sign: 1 },
  ways: [],
  tightest: undefined,
  ...more,
})

/** A ceiling with so much room under it. */
export const ceilingOf = (headroomDb: number, more: Partial<Ceiling> = {}): Ceiling => ({
  at: 'output',
  levelDb: 0,
  shape: 'flat',
  headroomDb,
  atSourceDb: 100,
  onset: false,
  ...more,
})
