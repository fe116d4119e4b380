import {
  type Bench,
  controlOfWay,
  type ControlLaw,
  lawOfControl,
  type LevelControl,
  type LineUpStep,
  placedBox,
  toneWays,
} from '@iron-hush/core/lineup'

/** The law of a control as it is known by now, with the step that it belongs to. */
export interface DrawnLaw {
  box: string
  boxName: string
  control: LevelControl
  found: ControlLaw
}

/** The law to be drawn: of the box of the current step, or of the first box that has one. */
export function lawToDraw(bench: Bench, step: LineUpStep | undefined): DrawnLaw | undefined {
  const laws = toneWays(bench).flatMap((way): DrawnLaw[] => {
    const control = controlOfWay(bench, way)
    if (!control || control.marked) return []
    const box = way.run.end.box
    return [{ box, boxName: placedBox(bench, box).name, control, found: lawOfControl(bench, way, control) }]
  })
  return laws.find(({ box }) => box === step?.box) ?? laws[0]
}

/** Edges of a scale that holds some values, at whole tens. */
export function tensAround(values: readonly number[]): { low: number; high: number; lines: number[] } {
  const low = Math.floor(Math.min(...values) / 10) * 10
  const high = Math.max(low + 10, Math.ceil(Math.max(...values) / 10) * 10)
  const lines = Array.from({ length: (high - low) / 10 + 1 }, (_, index) => low + 10 * index)
  return { low, high, lines }
}
