import type { ChainChange } from '../findings'

/** A position stays in one piece where a line is broken. */
const whole = (position: string): string => position.replaceAll(' ', '\u00A0')

/** Changes of a chain: "Gain of Recorder from 36 dB to 40 dB", "Camera swapped". */
export const changeWords = (change: ChainChange): string =>
  change.kind === 'moved'
    ? `${change.controlName} of ${change.partName} from ${whole(change.from)} to ${whole(change.to)}`
    : `${change.partName} ${change.kind}`
