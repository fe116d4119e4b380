import { controlsOf } from '../chain'
import type { Levels } from '../levels'
import { type Patch, type Shelf, shelfFor } from '../model'

/** Controls of level that change no recording and nothing anyone hears, "Gain 2 of Recorder". */
export function deadControls(patch: Patch, commonShelf: Shelf, { reach }: Pick<Levels, 'reach'>): string[] {
  const shelf = shelfFor(patch, commonShelf)
  return Object.entries(reach).flatMap(([key, runs]) => {
    if (runs.length > 0) return []
    const dot = key.indexOf('.')
    const [part, id] = [key.slice(0, dot), key.slice(dot + 1)]
    const box = patch.boxes.find((each) => each.id === part)
    const gear = box && shelf.get(box.gear)
    // a switch for power has no level to reach anything with
    const forSound = gear?.strips.some(({ stages }) => stages.some((stage) => controlsOf(stage).includes(id)))
    const control = gear?.controls.find((each) => each.id === id)
    return box && gear && control && forSound ? [`${control.name} of ${box.name ?? gear.name}`] : []
  })
}
