import type { CureChange } from '../findings'
import { targetWords } from './targets'

/** The action, in a few words. */
export function cureWords(change: CureChange): string {
  switch (change.kind) {
    case 'unlock':
      return `Unlock ${change.control} of ${change.box}`
    case 'place':
      return `${change.box} at "${change.place}"`
    case 'insert': {
      const [from, to] = change.between
      const where = change.replaces === undefined ? '' : `in place of ${change.replaces} `
      return `${change.thing} ${where}between ${from} and ${to}`
    }
    case 'swap':
      return `${change.thing} in place of ${change.replaces}`
    case 'peak target':
      return `Peak target: ${targetWords(change.peakTarget).name}`
    case 'margin':
      return `A margin of ${change.marginDb.toFixed(1)} dB instead of ${change.beforeDb.toFixed(1)}`
    case 'counting':
      return change.counts === 'camera only' ? 'Let only the camera count' : 'Let the recorder count first'
  }
}
