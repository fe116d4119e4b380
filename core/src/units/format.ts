/** Half of the last digit shown: smaller differences are not visible. */
export const shownDb = 0.05

const minus = '\u2212'

/** A figure with its sign where it is negative, as it is written: a real minus, never in front of nothing but zeros. */
export function signed(value: number, digits = 1): string {
  const text = Math.abs(value).toFixed(digits)
  return value < 0 && Number(text) !== 0 ? `${minus}${text}` : text
}
export const decibels = (value: number): string => `${signed(value)} dB`
/** A difference, which always carries its sign. */
export const difference = (value: number): string => `${value >= shownDb ? '+' : ''}${decibels(value)}`
/** The same without its sign, where the sentence says which way. */
export const plainDecibels = (value: number): string => `${Math.abs(value).toFixed(1)} dB`
export const percent = (share: number): string => `${Math.round(share * 100)} %`
export const inVolts = (value: number): string =>
  Math.abs(value) < 1 ? `${signed(value * 1000, 0)} mV` : `${signed(value, 2)} V`
export const inMilliamperes = (amperes: number): string => `${(Math.abs(amperes) * 1000).toFixed(2)} mA`

/** Text of a number with a real minus. */
export const withMinus = (text: string | number): string => String(text).replace('-', minus)
