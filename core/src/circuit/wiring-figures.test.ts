import { expect, it } from 'vitest'
import { wiringFigures } from '../tests/scene-figures'
import figures from '../tests/known-figures.json'

/** Whatever changes the wiring of a demo scene is seen. That it is right is tested elsewhere. npm run figures writes them after a change that was meant. */
it.each([...wiringFigures])('stays as it was: %s', (name, figuresNow) => {
  expect(figuresNow()).toEqual((figures as Record<string, unknown>)[name])
})
