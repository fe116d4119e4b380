import { InvalidArgumentError } from 'commander'

export interface Options {
  json?: boolean
  shelf?: string
}

/** A whole number between bounds, for an option. */
export const whole = (least: number, most: number) => (text: string) => {
  const value = Number(text)
  if (!Number.isInteger(value) || value < least || value > most)
    throw new InvalidArgumentError(`Use a whole number from ${least} to ${most}.`)
  return value
}

/** A chance between 0 and 1, for an option. */
export const chance = (text: string) => {
  const value = Number(text)
  if (!(value > 0 && value < 1)) throw new InvalidArgumentError('Use a chance between 0 and 1, as 0.01.')
  return value
}
