import { z } from 'zod'
import { text } from './text'

export const Provenance = z.enum(['measured', 'datasheet', 'typical', 'by hand'])
export type Provenance = z.infer<typeof Provenance>

/**
 * A figure of a device: a bare number (taken as typical of its kind), a number with its tolerance (plus or minus,
 * in its own unit) and where it comes from, or `unknown`, which stands for the typical value of the kind and is
 * named as an assumption in every result.
 */
export type Figure =
  | number
  | { value: number; tolerance: number; from: Provenance; note?: string }
  | 'unknown'

function figureIn(minimum: number, maximum: number, unit: string) {
  const value = z.number().min(minimum).max(maximum)
  return z
    .union([
      value.meta({ title: 'a number' }),
      z
        .strictObject({
          value,
          tolerance: z.number().min(0).max(Math.max(60, maximum)),
          from: Provenance,
          note: text(400).optional(),
        })
        .meta({
          title: 'with its source',
          examples: [{ value: Math.max(minimum, Math.min(maximum, 0)), tolerance: 3, from: 'typical' }],
        }),
      z.literal('unknown').meta({ title: 'not known' }),
    ])
    .describe(unit)
}

export const NoiseDbu = figureIn(-160, 0, 'dBu(A), A-weighted RMS, 20 Hz to 20 kHz')
export const NoiseDbfs = figureIn(-200, 0, 'dBFS(A), A-weighted RMS re a full-scale sine')
export const NoiseSpl = figureIn(-20, 80, 'dB(A) SPL, equivalent self-noise')
export const CeilingDbu = figureIn(-90, 60, 'dBu, the largest sine that passes')
export const CeilingSpl = figureIn(60, 180, 'dB SPL, the largest sine that passes')
export const FullScaleDbu = figureIn(-60, 40, 'dBu of the sine that reads 0 dBFS')
export const SensitivityDbvPa = figureIn(-90, 10, 'dBV at 94 dB SPL (1 Pa)')
export const EarSensitivity = figureIn(60, 160, 'dB SPL at 1 V')
export const Ohm = figureIn(0, 10_000_000, 'ohm')
export const MarkDbfs = figureIn(-120, 12, 'dBFS at which a mark of the meter is reached')
export const AnyFigure = figureIn(-1e7, 1e7, 'in the unit of its field')
export const DynamicRangeDb = figureIn(20, 160, 'dB')

/** The value of a figure; `typical` stands in for `unknown`. */
export function valueOf(figure: Figure, typical: number): number {
  if (figure === 'unknown') return typical
  return typeof figure === 'number' ? figure : figure.value
}

/** Where a figure comes from and how sure it is, for a sheet. */
export function provenanceOf(figure: Figure): { from: Provenance | 'unknown'; tolerance?: number } {
  if (figure === 'unknown') return { from: 'unknown' }
  if (typeof figure === 'number') return { from: 'typical' }
  return { from: figure.from, tolerance: figure.tolerance }
}
