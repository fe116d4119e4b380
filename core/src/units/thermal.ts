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
 * Input noise of an amplifier at the source impedance it really sees. The stated figure holds at `statedOhm`;
 * the thermal noise of that resistance is taken out and that of the real one put in. Never falls below the
 * thermal noise of the real source or a tenth of the stated power, whichever rule bites last: an amplifier is
 * not made noiseless by a short circuit.
 */
export function inputNoiseAtSourceDbuA(statedDbuA: number, statedOhm: number, sourceOhm: number): number {
  const stated = powerFromDb(statedDbuA)
  const corrected = stated - thermalPowerA(statedOhm) + thermalPowerA(sourceOhm)
  return powerDb(Math.max(corrected, stated / 10, thermalPowerA(sourceOhm)))
}
