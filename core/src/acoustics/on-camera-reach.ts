import type { Brief, Framing } from '../model'
import { amplitudeFromDb } from '../units'
import { cameraDistanceM, focalLengthForMm, framedHeightM } from './framing'
import { hearing } from './places'

/** How far a microphone on the camera still holds a voice, and what that allows the picture. */
export interface OnCameraReach {
  /** Voice over noise and echo together at that place, dB. */
  clearDb: number
  /** Speech-to-noise that the brief asks for, dB; left out: none. */
  wantedDb: number | undefined
  /** Infinity where nothing else is heard: only hiss then limits it. */
  farthestM: number
  isVoice: boolean
  /** As the picture is now. */
  distanceM: number
  holds: boolean
  /** Longest lens at this framing, mm. */
  longestLensMm: number
  /** Widest framing with this lens; undefined where not even a face is near enough. */
  widestFraming: Framing | undefined
}

/** Speech over noise and echo at which a voice heard on the camera is easy to follow, dB. */
export const easilyFollowedDb = 10
/** Polar pattern of an ordinary on-camera microphone: share of the omnidirectional part. */
const onCameraPattern = 0.37

/**
 * Noise and echo are the same wherever the microphone stands, and the voice falls 6 dB with every doubling: from what it
 * keeps at 1 m follows the distance at which it is followed with ease and keeps what the brief asks for.
 */
export function onCameraReach(brief: Brief, sourceId: string): OnCameraReach | undefined {
  const source = brief.sources.find(({ id }) => id === sourceId)
  if (!source || source.kind === 'line') return undefined
  const wantedDb = brief.wantedSpeechToNoiseDb || undefined
  const { overEverythingDb, directDba, noiseDba } = hearing(brief, source, 1, 0, onCameraPattern)
  const farthestM = Math.min(
    amplitudeFromDb(overEverythingDb - easilyFollowedDb),
    wantedDb === undefined ? Infinity : amplitudeFromDb(directDba - noiseDba - wantedDb),
  )
  const { framing, focalLengthMm, sensor } = brief.picture
  const distanceM = cameraDistanceM(framing, focalLengthMm, sensor)
  const framings = (Object.keys(framedHeightM) as Framing[]).sort(
    (one, other) => framedHeightM[other] - framedHeightM[one],
  )
  return {
    clearDb: easilyFollowedDb,
    wantedDb,
    farthestM,
    isVoice: source.kind === 'speech',
    distanceM,
    holds: distanceM <= farthestM,
    longestLensMm: focalLengthForMm(framing, farthestM, sensor),
    widestFraming: framings.find((each) => cameraDistanceM(each, focalLengthMm, sensor) <= farthestM),
  }
}
