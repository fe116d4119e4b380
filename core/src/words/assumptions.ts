import type { Assumption } from '../findings'
import { fieldWords } from '../model'

/** A figure that nobody knows, as a sentence without its full stop. */
export const assumptionWords = ({ partName, place, figure }: Assumption): string =>
  `${partName}, ${place}: ${fieldWords(figure).name} is not known; a typical value is used`
