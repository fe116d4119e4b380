/** Level of a power ratio in dB. `powerRatio` must be positive; 0 gives -Infinity. */
export const powerDb = (powerRatio: number): number => 10 * Math.log10(powerRatio)

/** Level of an amplitude (voltage, pressure, sample) ratio in dB; 0 gives -Infinity. */
export const amplitudeDb = (amplitudeRatio: number): number => 20 * Math.log10(amplitudeRatio)

export const powerFromDb = (db: number): number => 10 ** (db / 10)
export const amplitudeFromDb = (db: number): number => 10 ** (db / 20)

/** Sum of uncorrelated levels: their powers add. An empty list gives -Infinity. */
export const powerSumDb = (levelsDb: readonly number[]): number =>
  powerDb(levelsDb.reduce((sum, levelDb) => sum + powerFromDb(levelDb), 0))

/** Peak over RMS of a sine, 3.0103 dB. */
export const sineCrestDb = 10 * Math.log10(2)

/**
 * Sine-equivalent peak: the level of the sine whose peak a signal reaches. Compares directly with a
 * ceiling that is stated, as all are, for a sine. `crestDb` is peak over RMS.
 */
export const sineEquivalentPeakDb = (rmsDb: number, crestDb: number): number => rmsDb + crestDb - sineCrestDb
