/** Level of 1 Pa, 20 lg(1 / 20 uPa) = 93.979 dB SPL. */
export const onePascalSplDb = 20 * Math.log10(1 / 20e-6)

/**
 * The level at which makers state sensitivity "at 94 dB, 1 Pa". Calibrators are adjusted to 94.0 dB, so a
 * stated sensitivity belongs to 94.0 dB and not to 93.979; the difference is 0.02 dB.
 */
export const calibratorSplDb = 94

/** Speed of sound in air at 20 degrees C. */
export const speedOfSoundMPerS = 343
