import { wiringOf } from '../circuit'
import { levelsOfPatch } from '../levels'
import type { Patch } from '../model'
import { levelsAnswer, wiringAnswer } from '../report'
import { scenes, shelf } from './demo'
import { type Outline, outlineOf } from './outline'

const named = (kind: string, answerOf: (patch: Patch) => unknown): [string, () => Outline][] =>
  scenes.map((patch) => [`${kind} of ${patch.name}`, () => outlineOf(answerOf(patch))])

/** Everything published of the wiring of the demo scenes. */
export const wiringFigures = new Map(
  named('wiring', (patch) => wiringAnswer(patch, wiringOf(patch, shelf), levelsOfPatch(patch, shelf))),
)
/** Everything published of their levels. */
export const levelFigures = new Map(
  named('levels', (patch) => levelsAnswer(patch, levelsOfPatch(patch, shelf))),
)
