import type { ChainChange } from '../findings'

const words = (change: ChainChange): string =>
  change.kind === 'moved'
    ? `${change.controlName} of ${change.partName} from ${change.from} to ${change.to}`
    : `${change.partName} ${change.kind}`

/** What changed in a chain, in a row: "Gain of Recorder from 36 dB to 40 dB; Camera swapped". */
export function changesWords(changes: readonly ChainChange[], most = Infinity): string {
  const shown = changes.slice(0, most).map(words).join('; ')
  return changes.length > most ? `${shown}; and ${changes.length - most} more` : shown
}
