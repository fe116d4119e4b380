import { type Figure, type Gear, provenanceOf, type Stage } from '@iron-hush/core/model'

/** A figure of a thing as a sheet shows it. */
export interface SheetFigure {
  name: string
  value: string
  from: string
}

const units: [RegExp, string, string][] = [
  [/DbvPa$/, 'dBV/Pa', 'DbvPa'],
  [/DbuA$/, 'dBu(A)', 'DbuA'],
  [/DbfsA$/, 'dBFS(A)', 'DbfsA'],
  [/DbSplAtVolt$/, 'dB SPL at 1 V', 'DbSplAtVolt'],
  [/DbSpl$/, 'dB SPL', 'DbSpl'],
  [/Dba$/, 'dB(A) SPL', 'Dba'],
  [/Dbu$/, 'dBu', 'Dbu'],
  [/RangeDb$/, 'dB', 'Db'],
  [/Ohm$/, 'ohm', 'Ohm'],
]

/** Splits a field into words and unit: `inputNoiseDbuA` is `input noise` in dBu(A). */
function named(field: string): [string, string] {
  const found = units.find(([pattern]) => pattern.test(field))
  const stem = found ? field.slice(0, -found[2].length) : field
  return [stem.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`), found?.[1] ?? '']
}

const isFigure = (value: unknown): value is Figure =>
  typeof value === 'number' ||
  value === 'unknown' ||
  (typeof value === 'object' && value !== null && 'tolerance' in value)

function shown(field: string, figure: Figure): SheetFigure {
  const [name, unit] = named(field)
  const { from, tolerance } = provenanceOf(figure)
  const number =
    figure === 'unknown'
      ? '?'
      : String(typeof figure === 'number' ? figure : figure.value).replace('-', '\u2212')
  return {
    name,
    value: `${number} ${unit}${tolerance ? ` \u00B1 ${tolerance}` : ''}`,
    from: from === 'unknown' ? 'not known: typical stands in' : from,
  }
}

/** Every figure of a stage with where it comes from. */
export const figuresOf = (stage: Stage): SheetFigure[] =>
  Object.entries(stage)
    .filter(
      ([field, value]) =>
        units.some(([pattern]) => pattern.test(field)) &&
        isFigure(value) &&
        !/^gain|^loss|^depth|^lower/.test(field),
    )
    .map(([field, value]) => shown(field, value as Figure))

export const portFigures = (gear: Gear) =>
  gear.ports.map((port) => ({
    port,
    figure: port.impedanceOhm === undefined ? undefined : shown('impedanceOhm', port.impedanceOhm),
  }))
