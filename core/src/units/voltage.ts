import { amplitudeDb, amplitudeFromDb } from './decibel'

/** 0 dBu: the voltage that puts 1 mW into 600 ohm, in V RMS. */
export const zeroDbuVolts = Math.sqrt(0.6)

/** dBu minus dBV, 2.218 dB. */
export const dbuMinusDbv = -amplitudeDb(zeroDbuVolts)

export const dbuFromDbv = (levelDbv: number): number => levelDbv + dbuMinusDbv
export const dbvFromDbu = (levelDbu: number): number => levelDbu - dbuMinusDbv
export const dbuFromVolts = (voltsRms: number): number => amplitudeDb(voltsRms / zeroDbuVolts)
export const voltsFromDbu = (levelDbu: number): number => zeroDbuVolts * amplitudeFromDb(levelDbu)
