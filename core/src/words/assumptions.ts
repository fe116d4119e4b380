import type { Assumption } from '../findings'

/** A figure that nobody knows, as a sentence without its full stop. */
export const assumptionWords = ({ partName, place, figure }: Assumption): string =>
  `${partName}, ${place}: ${fieldWords(figure)} is not known; a typical value stands in`

/** A field of the gear format in words: its unit left off. */
const fieldWords = (field: string): string =>
  field
    .replace(/(DbuA|Dbu|Dba|DbfsA|DbvPa|DbSpl|Ohm|Db)$/, '')
    .replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`)
