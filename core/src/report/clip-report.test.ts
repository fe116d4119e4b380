import { beforeAll, describe, expect, it } from 'vitest'
import { bytesSource } from '../media'
import { measureClip } from '../measure'
import { known, type Measurement } from '../model'
import { standInCard } from '../card'
import { isLong } from '../tests/form'
import { clipLines, findingsCsv } from './index'

async function measured(name: string): Promise<Measurement> {
  const clip = known(
    standInCard.find((each) => each.name.includes(name)),
    'a clip of the card',
  )
  return known(await measureClip(bytesSource(await clip.bytes()), clip.name), 'a measurement')
}
describe.runIf(isLong)('what was found in clips', () => {
  let card: Measurement[]
  beforeAll(async () => {
    card = await Promise.all([measured('F-0131'), measured('R-0007'), measured('F-0132')])
  })
  it('is a table with a line for each place, and one for a clean clip', async () => {
    const rows = findingsCsv(card)
      .slice(1)
      .trimEnd()
      .split('\r\n')
      .map((row) => row.split(','))
    const [head, ...lines] = rows
    const of = (line: string[], column: string) => line[head!.indexOf(column)]
    // the safety track of the first is not a fault, but is reported
    expect(
      lines.filter((line) => of(line, 'clip') === 'recorder F-0131.wav').map((line) => of(line, 'severity')),
    ).toEqual(['note'])
    const gone = lines
      .filter((line) => of(line, 'finding') === 'dropout')
      .map((line) => Number(of(line, 'from s')))
    expect(gone).toHaveLength(2)
    expect(Math.abs(gone[0]! - 4.31)).toBeLessThan(0.05)
    expect(Math.abs(gone[1]! - 9.02)).toBeLessThan(0.05)
    const turned = lines.find((line) => of(line, 'finding') === 'inverted')!
    expect(of(turned, 'severity')).toBe('harmful')
    expect(of(turned, 'time code')).toBe('14:41:00.0')
  })
  it('is a sheet with where each finding is and what to do', async () => {
    const [clean, radio, turned] = clipLines(card)
    expect(clean).toMatchObject({
      mark: '\u2713',
      facts: expect.stringContaining('from 10:02:00.000') as string,
    })
    const gone = radio!.findings.find(({ what }) => what.includes('drops out'))!
    expect(gone.where).toMatch(/^0:04\.3, 0:09\.0$/)
    expect(gone.remedy).toMatch(/receiver nearer/)
    expect(turned!.findings[0]!.where).toBe('all through')
  })
})
