import { describe, expect, it } from 'vitest'
import { figureClips, figuresOf, otherFigures, otherFiguresOf } from '../tests/clip-figures'
import figures from '../tests/clip-figures.json'

/**
 * What is measured of some clips as it was when somebody last looked: whatever changes one of these figures is seen. That
 * they are right is tested elsewhere. After a change that was meant: npm run figures.
 */
describe('every figure of a clip stays as it was', () => {
  it.each(Object.keys(figureClips))('%s', async (name) => {
    expect(await figuresOf(name)).toEqual((figures as Record<string, unknown>)[name])
  })
  it.each(Object.keys(otherFigures))('%s', async (name) => {
    expect(await otherFiguresOf(name)).toEqual((figures as Record<string, unknown>)[name])
  })
})
