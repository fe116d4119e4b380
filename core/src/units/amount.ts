/** Other units a quantity may be typed in, as a factor to ours. */
const others: Record<string, Record<string, number>> = {
  m: { mm: 0.001, cm: 0.01, km: 1000, ft: 0.3048, "'": 0.3048, in: 0.0254, '"': 0.0254 },
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
    const factor = factorOf(word.trim(), unit)
    return factor === undefined ? NaN : Number(digits!.replace(',', '.')) * factor
  })
  // only feet with inches come in two parts
  if (parts.length > 2 || (parts.length === 2 && !(unit === 'm' && parts.every(([, , word]) => word))))
    return undefined
  const sum = amounts.reduce((one, other) => one + other, 0)
  return Number.isFinite(sum) ? Number(sum.toPrecision(9)) : undefined
}

function factorOf(word: string, unit: string): number | undefined {
  const same = (one: string) => one.toLowerCase() === word.toLowerCase()
  // dB for dB(A): nobody types the weighting
  if (word === '' || [unit, unit.split(' ')[0] ?? unit, unit.replace(/\(.*/, '')].some(same)) return 1
  return others[unit]?.[word.toLowerCase()]
}
