import { type Agc, AgcFollower } from '../dynamics'
import { testSignal } from '../signals'
import { amplitudeFromDb } from '../units'
import { type AutomaticGain, automaticGainIn } from './automatic-gain'

/** Sample rate of the model, enough for a tone of 997 Hz. */
const rateHz = 8000
const rounds = 8
/** Largest factor by which one round may change a time constant. */
const mostFactor = 3

/**
 * Attack, hold and release of the model of automatic gain that show on the bursts as a real one does: a device listens over
 * several syllables before it turns, so that its times as seen from outside are not those that it turns with. Found by
 * sending the bursts through the model and correcting each time by how far off it shows.
 *
 * @param agc target and gains of the model; its times are where the search begins
 * @param playedDb level of the loud part where it reaches the automatic gain, in the unit of its target
 */
export function timesOfModel(
  seen: AutomaticGain,
  agc: Agc,
  playedDb: number,
): Pick<Agc, 'attackMs' | 'holdMs' | 'releaseMs'> | undefined {
  const { attackMs, holdMs, releaseMs } = seen
  if (attackMs === null || holdMs === null || releaseMs === null) return undefined
  const bursts = testSignal({ kind: 'bursts', levelDbfs: 0 }, rateHz)
  const level = amplitudeFromDb(playedDb)
  let times = { attackMs, holdMs, releaseMs }
  for (let round = 0; round < rounds; round++) {
    const follower = new AgcFollower({ ...agc, ...times }, rateHz)
    const turned = bursts.map((sample) => sample * level * follower.next(sample * level))
    // brought under full scale, where levels are read
    const shown = automaticGainIn(turned, rateHz)
    if (!shown || shown.attackMs === null || shown.holdMs === null || shown.releaseMs === null) return times
    const by = (wanted: number, found: number) =>
      Math.min(mostFactor, Math.max(1 / mostFactor, (wanted + 5) / (found + 5)))
    times = {
      attackMs: clamped(times.attackMs * by(attackMs, shown.attackMs), 1, 10_000),
      holdMs: clamped(times.holdMs + holdMs - shown.holdMs, 0, 60_000),
      releaseMs: clamped(times.releaseMs * by(releaseMs, shown.releaseMs), 10, 60_000),
    }
  }
  return times
}

const clamped = (value: number, least: number, most: number): number => Math.max(least, Math.min(most, value))
