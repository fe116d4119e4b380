import type { Brief, Cover, Directivity, Place, Source } from '../model'
import { powerDb, powerFromDb, powerSumDb } from '../units'
import { cameraDistanceM } from './framing'
import { patternDb, patternName, randomEnergyEfficiency } from './pattern'
import { diffuseLevelDb, directLevelDb } from './room'
import type { NoiseSpectrum } from './spectra'
import { advisedCover, gustOverMeanDb, windCrestDb, windNoiseDba } from './wind'

/** Diffuse noise of the place in dB(A) SPL: every noise of the brief together; -Infinity when there is none. */
export const placeNoiseDba = (brief: Brief): number =>
  powerSumDb(brief.noises.map(({ levelDba }) => levelDba))

/** The same as a microphone takes it in at a place: each noise by its spectrum, from all round or from its side. */
export const noiseTakenInDba = (
  brief: Brief,
  pattern: Directivity,
  place: Pick<Place, 'noises'> = {},
): number =>
  powerSumDb(noisesTakenIn({ ...brief, wind: 'none' }, pattern, place).map(({ levelDba }) => levelDba))

/** A noise of the place as a microphone takes it in, in its class. */
export interface TakenIn {
  spectrum: NoiseSpectrum
  levelDba: number
  loudestDba: number
  crestDb: number
}

/** Peak over RMS of steady noise: the level exceeded for a few ten-thousandths of the time. */
export const steadyNoiseCrestDb = 12

/** Every noise of the place, and the wind, as a microphone takes them in. */
export function noisesTakenIn(
  brief: Brief,
  pattern: Directivity,
  { noises: aside = [] }: Pick<Place, 'noises'> = {},
  cover?: Cover,
): TakenIn[] {
  const taken = brief.noises.map(
    ({ id, levelDba, loudestDba = levelDba, crestDb = steadyNoiseCrestDb, spectrum }): TakenIn => {
      const from = aside.find(({ noise }) => noise === id)
      const db = from ? patternDb(pattern, from.angleDeg) : powerDb(randomEnergyEfficiency(pattern, spectrum))
      return {
        spectrum,
        levelDba: levelDba + db,
        loudestDba: Math.max(levelDba, loudestDba) + db,
        crestDb,
      }
    },
  )
  const windDba = windNoiseDba(brief, cover)
  return windDba === -Infinity
    ? taken
    : [
        ...taken,
        {
          spectrum: 'wind',
          levelDba: windDba,
          loudestDba: windDba + gustOverMeanDb[brief.wind],
          crestDb: windCrestDb,
        },
      ]
}

/** The room's own echo of a source as a microphone takes it in, dB(A), by the source's level at 1 m; -Infinity outdoors. */
export const echoTakenInDba = (brief: Brief, levelAtOneMetreDba: number, pattern: Directivity): number =>
  diffuseLevelDb(levelAtOneMetreDba, brief.room) + powerDb(randomEnergyEfficiency(pattern, 'voice'))

export interface Hearing {
  directDba: number
  /** The source's own reverberation as the microphone takes it in. */
  roomDba: number
  /** The noise of the place as the microphone takes it in, with the wind that is left under the advised cover. */
  noiseDba: number
  windDba: number
  /** Direct sound over room and noise together. */
  overEverythingDb: number
  directToRoomDb: number
}

/** Levels at a microphone from one acoustic source, at the source's typical level. */
export function hearing(
  brief: Brief,
  source: Exclude<Source, { kind: 'line' }>,
  distanceM: number,
  angleDeg: number,
  pattern: Directivity,
): Hearing {
  const directDba = directLevelDb(source.levelsDba.typical, distanceM) + patternDb(pattern, angleDeg)
  const roomDba = echoTakenInDba(brief, source.levelsDba.typical, pattern)
  const windDba = windNoiseDba(brief, advisedCover[brief.wind])
  const noiseDba = powerSumDb([noiseTakenInDba(brief, pattern), windDba])
  const other = powerFromDb(roomDba) + powerFromDb(noiseDba)
  return {
    directDba,
    roomDba,
    noiseDba,
    windDba,
    overEverythingDb: other > 0 ? directDba - powerDb(other) : Infinity,
    directToRoomDb: directDba - roomDba,
  }
}

export interface Candidate extends Hearing {
  name: string
  distanceM: number
  pattern: number
  patternName: string
  why: string
}

/** A hand's width under the chin. */
const lapelDistanceM = 0.2
/** Distance assumed for a stand while the brief has no microphone near the source. */
const standDistanceM = 1.5

/**
 * The usual places for a microphone in this picture, best first: within the allowed reach on a boom, on the body,
 * and on the camera as far off as the framing puts it. What does not speak wears nothing: it is heard from a stand.
 */
export function candidatePlaces(brief: Brief, sourceId: string): Candidate[] {
  const source = brief.sources.find(({ id }) => id === sourceId)
  if (!source || source.kind === 'line') return []
  const { framing, focalLengthMm, sensor } = brief.picture
  const cameraM = cameraDistanceM(framing, focalLengthMm, sensor)
  const tries: Try[] = [
    ...(source.kind === 'speech' ? nearAVoice(brief, sourceId) : nearAThing(brief, sourceId, cameraM)),
    ['on the camera', cameraM, 0.37],
    ['on the camera', cameraM, 1],
  ]
  const heard = tries.map(([name, distanceM, pattern]) => ({
    name,
    distanceM,
    pattern,
    patternName: patternName(pattern),
    ...hearing(brief, source, distanceM, 0, pattern),
  }))
  const best = Math.max(...heard.map(clearnessDb))
  return heard
    .map((each) => ({ ...each, why: reason(each, best) }))
    .sort((one, other) => clearnessDb(other) - clearnessDb(one))
}

type Try = [name: string, distanceM: number, pattern: number]

/** How far off the microphones of the brief stand from a source, m. */
const reachesOf = (brief: Brief, sourceId: string): number[] =>
  brief.places.flatMap((place) =>
    place.hears.filter((each) => each.source === sourceId).map(({ distanceM }) => distanceM),
  )

function nearAVoice(brief: Brief, sourceId: string): Try[] {
  const reaches = reachesOf(brief, sourceId)
  const boomM = Math.max(0.3, Math.min(...reaches.filter((reach) => reach > 0.25), 0.9))
  return [
    ['boom from above', boomM, 0.37],
    ['boom from above', boomM, 0.5],
    ['lapel, under the chin', lapelDistanceM, 1],
  ]
}
function nearAThing(brief: Brief, sourceId: string, cameraM: number): Try[] {
  // microphones on the camera do not show how near a stand may come
  const reaches = reachesOf(brief, sourceId).filter((reach) => Math.abs(reach / cameraM - 1) > 0.1)
  const standM = reaches.length ? Math.min(...reaches) : standDistanceM
  return [0.37, 0.5, 1].map((pattern) => ['on a stand', standM, pattern])
}

/** Rank of a place, dB: the source over everything else, or its level where there is nothing else. */
export const clearnessDb = ({ overEverythingDb, directDba }: Hearing): number =>
  overEverythingDb === Infinity ? directDba : overEverythingDb

/** Wind within this of the total noise makes up most of it, dB. */
const mostlyWindDb = 3

function reason(heard: Hearing, bestDb: number): string {
  const nothingElse = heard.overEverythingDb === Infinity
  const limit = nothingElse
    ? 'the hiss of the boxes'
    : heard.noiseDba > heard.roomDba
      ? heard.noiseDba - heard.windDba < mostlyWindDb
        ? 'the wind, even under cover'
        : 'the noise of the place'
      : "the room's own echo"
  const behind = bestDb - clearnessDb(heard)
  return behind < 0.05
    ? `${nothingElse ? 'loudest' : 'clearest'} here, limited by ${limit}`
    : `${behind.toFixed(1)} dB behind the best, limited by ${limit}`
}
