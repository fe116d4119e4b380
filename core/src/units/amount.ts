import { type FigureUnit, type SheetUnit, sheetUnits } from './datasheet'

/** Further units that a quantity may be typed in, as a factor to ours. */
const others: Record<string, Record<string, number>> = {
  m: { mm: 0.001, cm: 0.01, km: 1000, "'": 0.3048, in: 0.0254, '"': 0.0254 },
  s: { ms: 0.001, min: 60 },
  mm: { cm: 10, m: 1000 },
}

/**
 * What a person typed as an amount in a unit: with comma or point, with or without the unit, in a related one
 * ("94,5", "45 cm", 1' 6"). Undefined where it is no such amount.
 */
export function typedAmount(text: string, unit: string): number | undefined {
  const plain = text
    .trim()
    .replace(/[\u2212\u2013]/g, '-')
    .replace(/\u2032/g, "'")
    .replace(/\u2033/g, '"')
  const parts = [...plain.matchAll(/([+-]?\d*[.,]?\d+)\s*([^\d\s+.,-][^\d+.,-]*)?/g)]
  if (
    parts.length === 0 ||
    parts
      .map(([part]) => part)
      .join('')
      .replace(/\s/g, '') !== plain.replace(/\s/g, '')
  )
    return undefined
  const amounts = parts.map(([, digits, word = '']) => {
    return intoOf(word.trim(), unit)?.(Number(digits!.replace(',', '.'))) ?? NaN
  })
  // only feet with inches come in two parts
  if (parts.length > 2 || (parts.length === 2 && !(unit === 'm' && parts.every(([, , word]) => word))))
    return undefined
  const sum = amounts.reduce((one, other) => one + other, 0)
  return Number.isFinite(sum) ? Number(sum.toPrecision(9)) : undefined
}

/** How an amount in the unit that was typed becomes one in ours. */
function intoOf(word: string, unit: string): SheetUnit['into'] | undefined {
  const same = (one: string) => one.toLowerCase() === word.toLowerCase()
  // dB for dB(A): nobody types the weighting
  if (word === '' || [unit, unit.split(' ')[0] ?? unit, unit.replace(/\(.*/, '')].some(same))
    return (amount) => amount
  const factor = others[unit]?.[word.toLowerCase()]
  if (factor !== undefined) return (amount) => amount * factor
  // units that need an assumption are chosen where it is shown; mega is not milli
  return (sheetUnits[unit as FigureUnit] ?? []).find(
    ({ name, rule }) => !rule && same(name) && (name[0] !== 'M' || word[0] === 'M'),
  )?.into
}
