// npm run figures: writes down what is measured of some clips and answered of the demo scenes, with which the tests compare:
// after a change of it that was meant.
import { writeFileSync } from 'node:fs'
import { figureClips, figuresOf, otherFigures, otherFiguresOf } from '../core/src/tests/clip-figures'
import { answersOf, outlineOf, sceneNames } from '../core/src/tests/scene-figures'

function write(name: string, figures: Record<string, unknown>): void {
  const file = new URL(`../core/src/tests/${name}.json`, import.meta.url)
  writeFileSync(file, `${JSON.stringify(figures)}\n`)
  console.log(`${name}: ${Object.keys(figures).length}`)
}
const clips: Record<string, unknown> = {}
for (const name of Object.keys(figureClips)) clips[name] = await figuresOf(name)
for (const name of Object.keys(otherFigures)) clips[name] = await otherFiguresOf(name)
write('clip-figures', clips)
write('scene-figures', Object.fromEntries(sceneNames.map((name) => [name, outlineOf(answersOf(name))])))
