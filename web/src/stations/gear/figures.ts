import { withMinus } from '@iron-hush/core/units'
import {
  type Control,
  type Figure,
  type GearFigure,
  positionName,
  positionsOf,
  provenanceOf,
} from '@iron-hush/core/model'

/** A figure as a sheet shows it. */
export interface SheetFigure {
  name: string
  value: string
  from: string
}

const signed = (value: number): string => withMinus(Number(value.toFixed(2)))

/** A number of how a thing is made, with as many places as it has. */
const plainly = (value: number): string => withMinus(Number(value.toPrecision(6)))

export function shownFigure({ name, unit, figure, plain }: GearFigure): SheetFigure {
  if (plain && typeof figure === 'number') return { name, value: `${plainly(figure)} ${unit}`, from: '' }
  const { from, tolerance } = provenanceOf(figure)
  const number = figure === 'unknown' ? '?' : signed(typeof figure === 'number' ? figure : figure.value)
  return {
    name,
    value: `${number} ${unit}${tolerance ? ` \u00B1 ${signed(tolerance)}` : ''}`,
    from: from === 'unknown' ? 'not known: typical stands in' : from,
  }
}

/** A figure taken apart for editing: a bare number is typical, with no tolerance stated. */
export function statedFigure(figure: Figure): { value: number; tolerance: number; from: string } {
  if (figure === 'unknown') return { value: 0, tolerance: 0, from: 'unknown' }
  return typeof figure === 'number' ? { value: figure, tolerance: 0, from: 'typical' } : figure
}

/** Where a control can stand: each position of a switch, the ends of what turns. */
export function positionsWords(control: Control): string {
  const names = positionsOf(control).map((position) => positionName(control, position))
  return control.kind === 'switch' ? names.join(' / ') : `${names[0]} to ${names.at(-1)}`
}

/** Whether a figure is below a place of its thing. */
export const isUnder = ({ path }: GearFigure, start: GearFigure['path']): boolean =>
  start.every((step, index) => path[index] === step)
