import type { FigureUnit } from '../units'
import type { Figure } from './figure'
import type { Gear } from './gear'
import { type Stage, stageNames } from './stage'

/** A figure of a thing, and its place in it. */
export interface GearFigure {
  /** Steps from the thing down to the figure. */
  path: (string | number)[]
  /** The part it belongs to, as a person would say it: `Capsule`, `phones`. */
  part: string
  name: string
  unit: FigureUnit
  figure: Figure
  /** A bare number of how the thing is made, kept without source and tolerance. */
  plain?: boolean
}

/** Bare numbers that describe how a thing is built, by field: name and unit. */
const plainFields: Record<string, [name: string, unit: FigureUnit]> = {
  lengthM: ['length', 'm'],
  picofaradPerM: ['capacitance', 'pF/m'],
  seriesOhm: ['in line', 'ohm'],
  shuntOhm: ['across', 'ohm'],
  ohm: ['resistance', 'ohm'],
  windingOhm: ['winding', 'ohm'],
  inputOhm: ['input', 'ohm'],
  outputOhm: ['output', 'ohm'],
  microfarad: ['capacitance', '\u00B5F'],
  henry: ['inductance', 'H'],
  ratio: ['ratio', ': 1'],
  volts: ['voltage', 'V'],
  capacitancePf: ['capacitance', 'pF'],
  toleratesVolts: ['bears', 'V'],
  minimumVolts: ['wants at least', 'V'],
  typicalVolts: ['usually gets', 'V'],
  typicalAmperes: ['draws', 'A'],
  powerMw: ['power', 'mW'],
  sensitivityDbm: ['sensitivity', 'dBm'],
  carrierMhz: ['carrier', 'MHz'],
  widthKhz: ['width', 'kHz'],
  linkS: ['time to link', 's'],
  delayMs: ['delay', 'ms'],
  cornerHz: ['corner', 'Hz'],
  gainDb: ['gain', 'dB'],
  lossDb: ['loss', 'dB'],
  depthDb: ['depth', 'dB'],
  threshold: ['threshold', 'dB'],
  target: ['target', 'dB'],
  lowerDb: ['lower by', 'dB'],
  minimumGainDb: ['least gain', 'dB'],
  maximumGainDb: ['most gain', 'dB'],
  attackMs: ['attack', 'ms'],
  holdMs: ['hold', 'ms'],
  releaseMs: ['release', 'ms'],
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
  return { name: inWords(stem), unit }
}

/** Any field of the format in words, with the unit it is in; empty where it has none. */
export function fieldWords(field: string): { name: string; unit: string } {
  const plain = plainFields[field]
  if (plain) return { name: plain[0], unit: plain[1] }
  return figureName(field) ?? { name: inWords(field), unit: '' }
}

const inWords = (camelCase: string): string =>
  camelCase.replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`).replace(/^self /, 'self-')

export const isFigure = (value: unknown): value is Figure =>
  typeof value === 'number' ||
  value === 'unknown' ||
  (typeof value === 'object' && value !== null && 'value' in value && 'from' in value)

/** A bare number, or those of a law that follows a control: where they stand in it, and what tells them apart. */
function bareNumbers(value: unknown): [inside: GearFigure['path'], said: string, number: number][] {
  if (typeof value === 'number') return [[[], '', value]]
  if (typeof value !== 'object' || value === null) return []
  const law = value as { at?: Record<string, number>; perUnit?: number; offset?: number }
  return [
    ...Object.entries(law.at ?? {}).map(([position, number]): ReturnType<typeof bareNumbers>[number] => [
      ['at', position],
      ` at ${position}`,
      number,
    ]),
    ...(['perUnit', 'offset'] as const).flatMap((field): ReturnType<typeof bareNumbers> => {
      const number = law[field]
      const said = field === 'perUnit' ? ' per mark of the control' : ' at its 0'
      return number === undefined ? [] : [[[field], said, number]]
    }),
  ]
}

/** Figures of an object itself. */
const within = (object: object, path: GearFigure['path'], part: string): GearFigure[] =>
  Object.entries(object).flatMap(([field, value]): GearFigure[] => {
    const at = [...path, field]
    const plain = plainFields[field]
    if (plain)
      return bareNumbers(value).map(([inside, said, figure]) => ({
        path: [...at, ...inside],
        part,
        name: `${plain[0]}${said}`,
        unit: plain[1],
        figure,
        plain: true,
      }))
    const named = figureName(field)
    return named && isFigure(value) ? [{ path: at, part, ...named, figure: value }] : []
  })

/** The same of each object in a list, which has names of its own. */
const ofEach = (list: readonly object[] | undefined, path: GearFigure['path'], part: string): GearFigure[] =>
  (list ?? []).flatMap((object, index) => {
    const { name, kind } = object as { name?: string; kind?: string }
    const own = name ?? kind
    return within(object, [...path, index], own ? `${part}, ${own}` : part)
  })

/** Every figure of a thing, ports first, then stage by stage, then what is inside. */
export function figuresOfGear(gear: Gear): GearFigure[] {
  return numbered([
    ...gear.ports.flatMap((port, index) => [
      ...within(port, ['ports', index], port.name),
      ...ofEach(port.supplies, ['ports', index, 'supplies'], port.name),
      ...ofEach(port.needs, ['ports', index, 'needs'], port.name),
    ]),
    ...gear.strips.flatMap((strip, at) =>
      strip.stages.flatMap((stage, index) => {
        const name = stage.name ?? stageNames[stage.kind]
        const part = gear.strips.length > 1 ? `${strip.name ?? strip.id.replaceAll('-', ' ')}, ${name}` : name
        return within(stage, ['strips', at, 'stages', index], part)
      }),
    ),
    ...(gear.passive ? figuresInside(gear.passive) : []),
    ...(gear.radio ? within(gear.radio, ['radio'], 'On the air') : []),
  ])
}

function figuresInside(passive: NonNullable<Gear['passive']>): GearFigure[] {
  const { ladder, parts, converter } = passive
  const rungs = Array.isArray(ladder)
    ? ofEach(ladder, ['passive', 'ladder'], 'Inside')
    : Object.entries(ladder.at).flatMap(([position, each]) =>
        ofEach(each, ['passive', 'ladder', 'at', position], `Inside, at ${position}`),
      )
  return [
    ...within(passive, ['passive'], 'Inside'),
    ...rungs,
    ...ofEach(parts, ['passive', 'parts'], 'Inside'),
    ...(converter ? within(converter, ['passive', 'converter'], 'Converter') : []),
  ]
}

/** Parts of one name are distinguished by number. */
function numbered(figures: readonly GearFigure[]): GearFigure[] {
  const seen = new Map<string, number>()
  return figures.map((each) => {
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
