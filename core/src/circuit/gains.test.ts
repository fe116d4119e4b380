import { describe, expect, it } from 'vitest'
import { balancedInput, cable, dynamic } from '../tests/links'
import { gainsOf, type Piece } from './index'

const db = (ratio: number) => 20 * Math.log10(ratio)
/** So many ohm in each leg. */
const legs = (ohm: number): Piece => ({
  ...cable('xlr-3', 0),
  wires: [
    [
      { end: 0, contact: '1' },
      { end: 1, contact: '1' },
    ],
  ],
  parts: (['2', '3'] as const).map((contact) => ({
    kind: 'resistor' as const,
    from: { end: 0, contact },
    to: { end: 1, contact },
    ohm,
  })),
})
const output = { ...dynamic, channels: [{ ...dynamic.channels[0]!, ohm: 200 }] }

describe('the gain of a link', () => {
  it('is shared out along its pieces: the loss in the source goes to the first, that in the last to the input', () => {
    const [gain] = gainsOf({
      output,
      pieces: [legs(100), legs(300)],
      inputs: [balancedInput(3000, 1e9)],
    })!.gains as [NonNullable<ReturnType<typeof gainsOf>>['gains'][0]]
    // 200 + 200 + 600 + 3000 ohm in a row
    expect(gain).toMatchObject({ db: expect.closeTo(db(3000 / 4000), 3), sign: 1, balanced: true })
    expect(gain.alongDb).toEqual([expect.closeTo(db(3600 / 4000), 3), expect.closeTo(db(3000 / 3600), 3)])
  })
  it('is all in the source where nothing lies between', () => {
    const [gain] = gainsOf({ output, pieces: [], inputs: [balancedInput(800, 1e9)] })!.gains
    expect(gain!.alongDb).toEqual([expect.closeTo(db(800 / 1000), 3)])
    expect(gainsOf({ output, pieces: [], inputs: [] })!.gains).toEqual([])
  })
  it('has no less than -200 dB in the middle of it, where a lead is broken', () => {
    const broken: Piece = { ...cable('xlr-3', 0), wires: [] }
    const [gain] = gainsOf({
      output,
      pieces: [broken, cable('xlr-3', 0)],
      inputs: [balancedInput(800)],
    })!.gains
    for (const each of gain!.alongDb.slice(0, 1)) expect(each).toBeGreaterThanOrEqual(-200)
    expect(gain!.db).toBeLessThan(-90)
  })
})
