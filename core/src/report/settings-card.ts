import { signed } from '../units'
import type { Levels, Run } from '../levels'
import { type Patch, positionName, type Shelf, shelfFor, partNameOf, gearOf } from '../model'

/** The settings of a whole patch on one page: position of each control, and expected meter readings. */
export interface SettingsCard {
  title: string
  /** Boxes and pieces that have controls, in order of the chain. */
  boxes: { name: string; controls: { name: string; position: string }[] }[]
  meters: { name: string; reading: string }[]
}

const whole = (value: number): string => signed(value, 0)

/** Lists all positions, with the expected readings. */
export function settingsCard(patch: Patch, commonShelf: Shelf, levels: Levels): SettingsCard {
  const shelf = shelfFor(patch, commonShelf)
  const parts = [
    ...patch.boxes.map((box) => ({ ...box, shown: partNameOf(box, shelf) })),
    ...patch.links.flatMap(({ pieces }) =>
      pieces.map((piece) => ({ ...piece, shown: gearOf(shelf, piece.gear).name })),
    ),
  ]
  const boxes = parts.flatMap(({ gear, settings, shown }) => {
    const controls = gearOf(shelf, gear).controls.map((control) => ({
      name: control.name,
      position: positionName(control, settings[control.id] ?? control.initial),
    }))
    return controls.length ? [{ name: shown, controls }] : []
  })
  const byEnd = new Map<string, Run[]>()
  for (const run of levels.runs) {
    const name = `${run.end.boxName}, ${run.end.name}`
    byEnd.set(name, (byEnd.get(name) ?? []).concat(run))
  }
  return {
    title: patch.name,
    boxes,
    meters: [...byEnd].map(([name, runs]) => ({
      name,
      reading: runs
        .map(({ source, typicalDb, peakDb, end }) =>
          end.kind === 'listen'
            ? `${source.name} about ${whole(typicalDb)} dB SPL at the ear`
            : `${source.name} about ${whole(typicalDb)} dBFS, loudest peaks ${whole(peakDb)} dBFS`,
        )
        .join('; '),
    })),
  }
}
