import { expect, it } from 'vitest'
import { placeFigures } from '../tests/scene-figures'
import figures from '../tests/known-figures.json'

/** Whatever changes what is said of places in a demo scene is seen. That it is right is tested elsewhere. npm run figures writes them after a change that was meant. */
it.each([...placeFigures])('stays as it was: %s', (name, figuresNow) => {
  expect(figuresNow()).toEqual((figures as Record<string, unknown>)[name])
})
