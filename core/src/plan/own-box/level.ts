import type { Control, Stage } from '../../model'
import type { LevelAnswer } from './answers'

/** Span assumed for an unmarked scale until it is measured, lowest to highest step, dB. */
const scaleSpanDb = 36
/** Step assumed between named positions such as low, standard, high, dB. */
const namedStepDb = 12

type Amount = Extract<Stage, { kind: 'gain' }>['gainDb']

/** A level as a control with the gain that it brings around a middle, dB; no control where the box sets it itself. */
export function levelControl(
  answer: LevelAnswer,
  id: string,
  label: string,
  middleDb: number,
): { controls: Control[]; gainDb: Amount } {
  switch (answer.by) {
    case 'decibels': {
      const [minimum, maximum] = [Math.min(answer.from, answer.to), Math.max(answer.from, answer.to)]
      const steps = Math.round((maximum - minimum) / 2 / answer.step)
      return {
        controls: [
          {
            kind: 'knob',
            id,
            name: label,
            minimum,
            maximum,
            click: answer.step,
            unit: 'dB',
            initial: minimum + steps * answer.step,
          },
        ],
        gainDb: { control: id, perUnit: 1, offset: 0 },
      }
    }
    case 'scale':
      return {
        controls: [
          { kind: 'scale', id, name: label, steps: answer.steps, initial: Math.floor(answer.steps / 2) },
        ],
        gainDb: {
          control: id,
          perUnit: scaleSpanDb / (answer.steps - 1),
          offset: middleDb - scaleSpanDb / 2,
        },
      }
    case 'names': {
      const positions = answer.names.map((each, step) => ({ id: `step-${step + 1}`, name: each }))
      const middle = (positions.length - 1) / 2
      return {
        controls: [
          { kind: 'switch', id, name: label, positions, initial: positions[Math.floor(middle)]!.id },
        ],
        gainDb: {
          control: id,
          at: Object.fromEntries(
            positions.map((each, step) => [each.id, middleDb + (step - middle) * namedStepDb]),
          ),
        },
      }
    }
    case 'itself':
      return { controls: [], gainDb: middleDb }
  }
}
