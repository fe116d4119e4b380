// npm run figures: writes down what is measured of some clips, after a change of these figures that was meant.
import { writeFileSync } from 'node:fs'
import { figureClips, figuresOf } from '../core/src/tests/clip-figures'

const figures: Record<string, unknown> = {}
for (const name of Object.keys(figureClips)) figures[name] = await figuresOf(name)
const file = new URL('../core/src/tests/clip-figures.json', import.meta.url)
writeFileSync(file, `${JSON.stringify(figures, undefined, 2)}\n`)
console.log(`${Object.keys(figures).length} clips`)
