import { zeroDbuVolts } from './voltage'
import { powerDb, powerFromDb } from './decibel'
import { flatNoiseADb } from './weighting'

const boltzmann = 1.380649e-23
const roomKelvin = 293.15
const audioBandHz = 19980

/** A-weighted thermal noise power of a resistance at 20 degrees C over 20 Hz to 20 kHz, relative to 0 dBu (4kTRB). */
export function thermalPowerA(ohm: number): number {
  const voltsSquared = 4 * boltzmann * roomKelvin * ohm * audioBandHz
  return (voltsSquared / zeroDbuVolts ** 2) * powerFromDb(flatNoiseADb)
}

/** The same as a level in dBu(A). */
export const thermalNoiseDbuA = (ohm: number): number => powerDb(thermalPowerA(ohm))

/**
 * What an amplifier adds by itself, dBu(A): its stated input noise without the thermal noise of the source that it was
 * stated for, never less than a tenth of the stated power (an amplifier is not made noiseless by a short circuit).
 */
export function ownNoiseDbuA(statedDbuA: number, statedOhm: number): number {
  const stated = powerFromDb(statedDbuA)
  return powerDb(Math.max(stated - thermalPowerA(statedOhm), stated / 10))
}
