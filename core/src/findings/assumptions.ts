/** A figure that nobody knows, for which the value typical of its kind stands. */
export interface Assumption {
  partName: string
  /** The stage or the socket. */
  place: string
  /** The field of the gear format, as `inputNoiseDbuA`. */
  figure: string
}
