import { describe, expect, it } from 'vitest'
import { answersOf, outlineOf, sceneNames } from '../tests/scene-figures'
import figures from '../tests/scene-figures.json'

/**
 * Wiring and levels of the demo scenes as they were when somebody last looked: whatever changes one of them is seen. That
 * they are right is tested elsewhere. After a change that was meant: npm run figures.
 */
describe('every published figure of a scene stays as it was', () => {
  it.each(sceneNames)('%s', (name) => {
    expect(outlineOf(answersOf(name))).toEqual((figures as Record<string, unknown>)[name])
  })
})
