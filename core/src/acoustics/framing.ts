import type { Framing, Sensor } from '../model'

/** Height of what is framed, in m; a standing person of 1.75 m. */
export const framedHeightM: Record<Framing, number> = {
  face: 0.35,
  'head and shoulders': 0.6,
  'waist-up': 1,
  'knees-up': 1.4,
  'whole figure': 2,
  wide: 3.5,
}

/** Height and diagonal of the picture area in mm, 16:9 out of the full width. */
const sensorMm: Record<Sensor, { height: number; diagonal: number }> = {
  'full frame': { height: 20.25, diagonal: 41.3 },
  'APS-C': { height: 13.2, diagonal: 27 },
  'four thirds': { height: 9.7, diagonal: 19.8 },
  'one inch': { height: 7.4, diagonal: 15.1 },
  'action camera': { height: 3.5, diagonal: 7.1 },
}

/** Camera distance in m: `d = f * framed height / sensor height`. */
export const cameraDistanceM = (framing: Framing, focalLengthMm: number, sensor: Sensor): number =>
  (focalLengthMm * framedHeightM[framing]) / sensorMm[sensor].height

/** The inverse: focal length in mm for a framing at a distance. */
export const focalLengthForMm = (framing: Framing, distanceM: number, sensor: Sensor): number =>
  (distanceM * sensorMm[sensor].height) / framedHeightM[framing]

/** Focal length in mm that frames the same on full frame. */
export const equivalentFocalLengthMm = (focalLengthMm: number, sensor: Sensor): number =>
  (focalLengthMm * sensorMm['full frame'].diagonal) / sensorMm[sensor].diagonal
