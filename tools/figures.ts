// npm run figures: writes down what is measured of some clips and published of the demo scenes, with which the tests compare:
// after a change of it that was meant.
import { writeFileSync } from 'node:fs'
import { clipFigures } from '../core/src/tests/clip-figures'
import { meterFigures } from '../core/src/tests/meter-figures'
import { levelFigures, placeFigures, wiringFigures } from '../core/src/tests/scene-figures'

const figures: Record<string, unknown> = {}
for (const [name, now] of [
  ...clipFigures,
  ...meterFigures,
  ...wiringFigures,
  ...levelFigures,
  ...placeFigures,
])
  figures[name] = await now()
writeFileSync(new URL('../core/src/tests/known-figures.json', import.meta.url), JSON.stringify(figures))
console.log(`${Object.keys(figures).length} answers`)
