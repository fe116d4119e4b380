/**
 * Gain of an automatic gain control once it has settled on a steady level, in dB: it makes up what is missing to
 * its target within its limits. Levels are RMS in the unit of the stage.
 */
export const settledAgcGainDb = (
  agc: { target: number; minimumGainDb: number; maximumGainDb: number },
  level: number,
): number => Math.min(agc.maximumGainDb, Math.max(agc.minimumGainDb, agc.target - level))

/** Gain of a limiter on a steady level, in dB (0 or less): above the threshold only 1 / ratio of the rise passes. */
export const settledLimiterGainDb = (limiter: { threshold: number; ratio: number }, level: number): number =>
  -Math.max(0, (level - limiter.threshold) * (1 - 1 / limiter.ratio))
