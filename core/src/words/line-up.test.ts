import { describe, expect, it } from 'vitest'
import { benchOf, lineUpSteps } from '../lineup'
import { known } from '../model'
import { scene, shelf } from '../tests/demo'
import { stepDetail, stepTitle } from './index'

describe('a step of Line-up', () => {
  const steps = lineUpSteps(benchOf(scene('4-bells-in-the-town-hall'), shelf)).filter(
    ({ kind }) => kind === 'voice',
  )
  const said = (kind: string) => {
    const step = known(
      steps.find(({ source }) => source?.kind === kind),
      kind,
    )
    return `${stepTitle(step)}. ${stepDetail(step)}`
  }
  it('asks for the loudest of what is there: of a desk its operator, of a bell no words', () => {
    expect(said('line')).toMatch(/at its loudest, on .+ask its operator/)
    expect(said('strike')).toMatch(/at its loudest, on .+The real sound/)
    const [spoken] = lineUpSteps(benchOf(scene('1-the-founder-at-the-bench'), shelf)).filter(
      ({ kind }) => kind === 'voice',
    )
    expect(`${stepTitle(spoken!)}. ${stepDetail(spoken!)}`).toMatch(
      /Founder: the loudest line, on .+real words/,
    )
  })
})
