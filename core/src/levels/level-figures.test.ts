import { expect, it } from 'vitest'
import { levelFigures } from '../tests/scene-figures'
import figures from '../tests/known-figures.json'

/** Whatever changes the levels of a demo scene is seen. That they are right is tested elsewhere. npm run figures writes them after a change that was meant. */
it.each([...levelFigures])('stays as it was: %s', (name, figuresNow) => {
  expect(figuresNow()).toEqual((figures as Record<string, unknown>)[name])
})
