import type { Brief, Cover } from '../model'

/**
 * Noise that wind makes at a microphone itself, dB(A) SPL, by what it wears. Rules of thumb: each cover takes off what
 * its makers commonly promise in a steady breeze, and less in gusts.
 */
const windDba: Record<Exclude<Brief['wind'], 'none'>, Record<Cover, number>> = {
  breeze: { none: 62, foam: 48, fur: 34, basket: 28 },
  gusts: { none: 84, foam: 72, fur: 56, basket: 46 },
}

/** Wind protection advised for each wind, by rule of thumb; places are judged with it before a microphone stands there. */
export const advisedCover: Record<Brief['wind'], Cover> = { none: 'none', breeze: 'fur', gusts: 'basket' }

/** How far the strongest gust is above the mean, dB, and its peak over RMS: rules of thumb. */
export const gustOverMeanDb: Record<Brief['wind'], number> = { none: 0, breeze: 3, gusts: 6 }
export const windCrestDb = 14

/** The same for a brief; -Infinity when there is none. */
export const windNoiseDba = ({ wind }: Pick<Brief, 'wind'>, cover: Cover = 'none'): number =>
  wind === 'none' ? -Infinity : windDba[wind][cover]
