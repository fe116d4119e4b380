import { type FollowingStage, noisePower } from '../chain'
import { amplitudeFromDb } from '../units'
import { forEachIn, type Positions, type Region } from './positions'

/** The figures of a node over the positions left to its controls: each at its least and at its most. */
export interface Favourable {
  gainLowDb: number
  gainHighDb: number
  /** The same as amplitudes. */
  gainLow: number
  gainHigh: number
  inputNoiseLow: number
  outputNoiseLow: number
  inputNoiseHigh: number
  outputNoiseHigh: number
  /** The highest. */
  inputCeilingDb: number
  outputCeilingDb: number
  /** The stage whose gain comes on top, where it follows the level in some position. */
  follows?: FollowingStage
  /** It follows nothing in some other position. */
  mayRest: boolean
  /** Corners of low-cuts that act in some position, and in every position. */
  lowCutsHz: number[]
  alwaysLowCutHz?: number
}

/** Reads nodes over regions; what was read before for the same positions is known. */
export class FavourableReader {
  private readonly known: Map<number | string, Favourable>[]

  constructor(private readonly positions: Positions) {
    this.known = positions.own.map(() => new Map())
  }

  read(node: number, region: Region): Favourable {
    const own = this.positions.own[node]!
    const [only] = own
    const key =
      only === undefined
        ? 0
        : own.length === 1
          ? region.low[only]! * 65_536 + region.high[only]!
          : own.map((index) => `${region.low[index]}-${region.high[index]}`).join()
    const known = this.known[node]!
    const found = known.get(key)
    if (found) return found
    const made = this.over(node, own, region)
    known.set(key, made)
    return made
  }

  private over(node: number, own: readonly number[], region: Region): Favourable {
    const best: Favourable = {
      gainLowDb: Infinity,
      gainHighDb: -Infinity,
      gainLow: 0,
      gainHigh: 0,
      inputNoiseLow: Infinity,
      outputNoiseLow: Infinity,
      inputNoiseHigh: 0,
      outputNoiseHigh: 0,
      inputCeilingDb: -Infinity,
      outputCeilingDb: -Infinity,
      mayRest: false,
      lowCutsHz: [],
    }
    let cutsAlways = true
    forEachIn(region, own, this.positions.now, (choice) => {
      const reading = this.positions.reading(node, choice)
      const [input, output] = [noisePower(reading.inputNoiseDb), noisePower(reading.outputNoiseDb)]
      best.gainLowDb = Math.min(best.gainLowDb, reading.gainDb)
      best.gainHighDb = Math.max(best.gainHighDb, reading.gainDb)
      best.inputNoiseLow = Math.min(best.inputNoiseLow, input)
      best.outputNoiseLow = Math.min(best.outputNoiseLow, output)
      best.inputNoiseHigh = Math.max(best.inputNoiseHigh, input)
      best.outputNoiseHigh = Math.max(best.outputNoiseHigh, output)
      best.inputCeilingDb = Math.max(best.inputCeilingDb, reading.inputCeilingDb)
      best.outputCeilingDb = Math.max(best.outputCeilingDb, reading.outputCeilingDb)
      if (reading.follows) best.follows = reading.follows
      else best.mayRest = true
      if (reading.lowCutHz === undefined) cutsAlways = false
      else if (!best.lowCutsHz.includes(reading.lowCutHz)) best.lowCutsHz.push(reading.lowCutHz)
    })
    best.gainLow = amplitudeFromDb(best.gainLowDb)
    best.gainHigh = amplitudeFromDb(best.gainHighDb)
    if (cutsAlways && best.lowCutsHz.length === 1) [best.alwaysLowCutHz] = best.lowCutsHz
    return best
  }
}
