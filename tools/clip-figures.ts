// npm run figures: writes down what is measured of some clips, after a change of these figures that was meant.
import { writeFileSync } from 'node:fs'
import { figureClips, figuresOf } from '../core/src/tests/clip-figures'

const figures: Record<string, unknown> = {}
for (const [name, make] of Object.entries(figureClips)) figures[name] = await figuresOf(make())
const file = new URL('../core/src/tests/clip-figures.json', import.meta.url)
writeFileSync(file, `${JSON.stringify(figures, undefined, 2)}\n`)
console.log(`${Object.keys(figures).length} clips`)
