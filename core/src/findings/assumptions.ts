/** An unknown figure that is replaced by the typical value of its kind. */
export interface Assumption {
  partName: string
  /** The stage or the socket. */
  place: string
  /** The field of the gear format, as `inputNoiseDbuA`. */
  figure: string
}
