import { z } from 'zod'
import { typedAmount } from '../units/amount'
import { Id, Name, text } from './text'

/** Other programs write 0.30000000000000004 where a knob is set to 0.3. */
const clickGrid = 1e6
const round = (value: number): number => Math.round(value * clickGrid) / clickGrid
const knobPosition = z.number().overwrite(round)

/** A control as the real box has it. Positions are numbers on a knob or scale and names on a switch. */
export const Control = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('knob').describe('clicks in its own unit, usually dB'),
    id: Id,
    name: Name,
    minimum: z.number().min(-200).max(200),
    maximum: z.number().min(-200).max(200),
    click: z.number().positive().max(100).describe('distance of neighbouring positions'),
    unit: text(12).default('dB'),
    initial: knobPosition,
  }),
  z.strictObject({
    kind: z.literal('scale').describe('a level scale with numbered steps and no marks in dB'),
    id: Id,
    name: Name,
    steps: z.number().int().min(2).max(10_000).describe('positions run from 0 to steps - 1'),
    initial: z.number().int().min(0),
  }),
  z.strictObject({
    kind: z.literal('switch'),
    id: Id,
    name: Name,
    positions: z
      .array(z.strictObject({ id: Id, name: Name }))
      .min(2)
      .max(24),
    initial: Id,
  }),
])
export type Control = z.infer<typeof Control>

export const Position = z.union([knobPosition, Id])
export type Position = z.infer<typeof Position>

/** Most positions of a control: no hand could set more. */
export const mostPositions = 10_000

/** How many positions a control has, without laying them out. */
export const positionCount = (control: Control): number =>
  control.kind === 'switch'
    ? control.positions.length
    : control.kind === 'scale'
      ? control.steps
      : Math.floor((control.maximum - control.minimum) / control.click + 1e-9) + 1

/** All positions of a control, lowest first. A knob's are rounded so that 0.1 + 0.2 reads 0.3. */
export function positionsOf(control: Control): Position[] {
  if (control.kind === 'switch') return control.positions.map((position) => position.id)
  if (control.kind === 'scale') return Array.from({ length: control.steps }, (_, step) => step)
  return Array.from({ length: positionCount(control) }, (_, step) =>
    round(control.minimum + step * control.click),
  )
}

/** The position `steps` away, held at the ends. */
export function turned(control: Control, from: Position, steps: number): Position {
  if (control.kind === 'knob') {
    const wanted = round(Number(from) + steps * control.click)
    const last = positionsOf(control).at(-1) as number
    return Math.min(last, Math.max(control.minimum, wanted))
  }
  const positions = positionsOf(control)
  const index = positions.indexOf(from) + steps
  return positions[Math.min(positions.length - 1, Math.max(0, index))]!
}

/** The position nearest to what a person typed; undefined beyond the ends or if it is not a number. */
export function typedPosition(control: Control, typed: string): Position | undefined {
  if (control.kind === 'switch') return undefined
  const amount = typedAmount(typed.replace(/ of .*/, ''), control.kind === 'knob' ? control.unit : '')
  if (amount === undefined) return undefined
  const [least, click, count] =
    control.kind === 'knob' ? [control.minimum, control.click, positionCount(control)] : [0, 1, control.steps]
  const step = (amount - least) / click
  // half a click beyond the end is still meant to be the end
  if (step < -0.5 || step > count - 0.5) return undefined
  return turned(control, least, Math.min(count - 1, Math.max(0, Math.round(step))))
}

/** Whether the control can stand there. */
export function hasPosition(control: Control, position: Position): boolean {
  if (control.kind === 'switch') return control.positions.some(({ id }) => id === position)
  if (typeof position !== 'number') return false
  if (control.kind === 'scale') return Number.isInteger(position) && position >= 0 && position < control.steps
  const step = Math.round((position - control.minimum) / control.click)
  return (
    step >= 0 && step < positionCount(control) && position === round(control.minimum + step * control.click)
  )
}

/** The position as the box marks it: `+42 dB`, `3 of 32`, `low-cut`. */
export function positionName(control: Control, position: Position): string {
  if (control.kind === 'switch')
    return control.positions.find(({ id }) => id === position)?.name ?? `${position}`
  if (control.kind === 'scale') return `${position} of ${control.steps - 1}`
  const value = Number(position)
  const digits = Number.isInteger(control.click) && Number.isInteger(control.minimum) ? 0 : 1
  const sign = value > 0 && control.minimum < 0 ? '+' : value < 0 ? '\u2212' : ''
  return `${sign}${Math.abs(value).toFixed(digits)} ${control.unit}`
}
