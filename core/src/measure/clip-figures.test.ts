import { expect, it } from 'vitest'
import { clipFigures } from '../tests/clip-figures'
import figures from '../tests/known-figures.json'

/** Whatever changes what is measured of a clip is seen. That it is right is tested elsewhere. npm run figures writes them after a change that was meant. */
it.each([...clipFigures])('stays as it was: %s', async (name, figuresNow) => {
  expect(await figuresNow()).toEqual((figures as Record<string, unknown>)[name])
})
