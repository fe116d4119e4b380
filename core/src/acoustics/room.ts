import { powerDb } from '../units'

interface Room {
  volumeM3: number
  reverberationS: number
  outdoors: boolean
}

/** Directivity index of a talking head, dB; a rule of thumb for the voice as a whole. */
export const voiceDirectivityDb = 3

/** Equivalent absorption area in m2 by Sabine's formula, R = 0.161 V / RT60. */
export const absorptionAreaM2 = (room: Room): number => (0.161 * room.volumeM3) / room.reverberationS

/**
 * Diffuse level in dB of a source of a given level at 1 m: `Lw + 10 lg(4 / R)` with
 * `Lw = L(1 m) + 11 - DI`. None outdoors.
 */
export function diffuseLevelDb(
  levelAtOneMetreDb: number,
  room: Room,
  directivityDb = voiceDirectivityDb,
): number {
  if (room.outdoors) return -Infinity
  return levelAtOneMetreDb + 11 - directivityDb + powerDb(4 / absorptionAreaM2(room))
}

/** Direct level in dB at a distance from a source of a given level at 1 m. */
export const directLevelDb = (levelAtOneMetreDb: number, distanceM: number): number =>
  levelAtOneMetreDb - 20 * Math.log10(distanceM)

/** Distance in m at which direct and diffuse sound are equal for an omni microphone. */
export function criticalDistanceM(room: Room, directivityDb = voiceDirectivityDb): number {
  return 10 ** (-diffuseLevelDb(0, room, directivityDb) / 20)
}
