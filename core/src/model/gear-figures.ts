import type { FigureUnit } from '../units'
import type { Figure } from './figure'
import type { Gear } from './gear'
import type { Stage } from './stage'

/** A figure of a thing with where it stands in it. */
export interface GearFigure {
  /** Steps from the thing down to the figure. */
  path: (string | number)[]
  /** The part it belongs to, as a person would say it: `Capsule`, `phones`. */
  part: string
  name: string
  unit: FigureUnit
  figure: Figure
}

const unitBySuffix: readonly [string, FigureUnit][] = [
  ['DbvPa', 'dBV/Pa'],
  ['DbuA', 'dBu(A)'],
  ['DbfsA', 'dBFS(A)'],
  ['DbSplAtVolt', 'dB SPL at 1 V'],
  ['DbSpl', 'dB SPL'],
  ['Dba', 'dB(A) SPL'],
  ['Dbu', 'dBu'],
  ['RangeDb', 'dB'],
  ['Ohm', 'ohm'],
]

/** A field as words and unit: `inputNoiseDbuA` is `input noise` in dBu(A); undefined where it is no figure. */
export function figureName(field: string): { name: string; unit: FigureUnit } | undefined {
  const found = unitBySuffix.find(([suffix]) => field.endsWith(suffix))
  if (!found) return undefined
  const [suffix, unit] = found
  const stem = field.slice(0, -(suffix === 'RangeDb' ? 2 : suffix.length))
  return { name: stem.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`), unit }
}

export const isFigure = (value: unknown): value is Figure =>
  typeof value === 'number' ||
  value === 'unknown' ||
  (typeof value === 'object' && value !== null && 'value' in value && 'from' in value)

/** Every figure of a thing, ports first, then stage by stage. */
export function figuresOfGear(gear: Gear): GearFigure[] {
  const within = (object: object, path: GearFigure['path'], part: string): GearFigure[] =>
    Object.entries(object).flatMap(([field, value]) => {
      const named = figureName(field)
      return named && isFigure(value) ? [{ path: [...path, field], part, ...named, figure: value }] : []
    })
  const all = [
    ...gear.ports.flatMap((port, index) => within(port, ['ports', index], port.name)),
    ...gear.strips.flatMap((strip, at) =>
      strip.stages.flatMap((stage, index) => {
        const name = stage.name ?? stage.kind
        const part = gear.strips.length > 1 ? `${strip.name ?? strip.id.replaceAll('-', ' ')}, ${name}` : name
        return within(stage, ['strips', at, 'stages', index], part)
      }),
    ),
    ...(gear.passive?.converter ? within(gear.passive.converter, ['passive', 'converter'], 'Converter') : []),
  ]
  // parts of one name are told apart by number
  const seen = new Map<string, number>()
  return all.map((each) => {
    const key = `${each.part}: ${each.name}`
    const count = (seen.get(key) ?? 0) + 1
    seen.set(key, count)
    return count > 1 ? { ...each, part: `${each.part} ${count}` } : each
  })
}

/** The thing with one figure changed. */
export function withFigure(gear: Gear, path: GearFigure['path'], figure: Figure): Gear {
  const put = (value: unknown, [step, ...rest]: GearFigure['path']): unknown => {
    if (step === undefined) return figure
    if (Array.isArray(value)) return value.map((each, index) => (index === step ? put(each, rest) : each))
    const object = value as Record<string, unknown>
    return { ...object, [step]: put(object[step], rest) }
  }
  return put(gear, path) as Gear
}

/** The stage of a thing that a node of a chain is, by its id `part.strip.index`; undefined for any other node. */
export function stageOfNode(gear: Gear, node: string): Stage | undefined {
  const [, strip, index] = node.split('.')
  return gear.strips.find(({ id }) => id === strip)?.stages[Number(index)]
}
