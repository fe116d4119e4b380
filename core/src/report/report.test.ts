import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import type { Take } from '../model'
import { csv, soundReportCsv, takeLengthS } from './index'

/** A reader of CSV after RFC 4180, written for this test alone. */
function read(text: string): string[][] {
  const rows: string[][] = [[]]
  let cell = ''
  let quoted = false
  for (let index = 0; index < text.length; index++) {
    const letter = text[index]!
    if (quoted && letter === '"' && text[index + 1] === '"') cell += text[++index]
    else if (letter === '"') quoted = !quoted
    else if (!quoted && (letter === ',' || letter === '\r')) {
      rows.at(-1)!.push(cell)
      cell = ''
      if (letter === '\r' && text[++index] === '\n') rows.push([])
    } else cell += letter
  }
  return rows.slice(0, -1)
}

describe('CSV', () => {
  it('comes back from any text', () => {
    const text = fc.string().filter((each) => !/^[=+\-@\t\r]/.test(each))
    fc.assert(
      fc.property(
        fc.array(fc.array(text, { minLength: 1, maxLength: 5 }), { minLength: 1, maxLength: 5 }),
        (rows) => {
          expect(read(csv(rows))).toEqual(rows)
        },
      ),
    )
  })
  it('never lets a note run as a formula', () => {
    expect(csv([['=1+1', '@cmd', -3, null]])).toBe("'=1+1,'@cmd,-3,\r\n")
  })
})

describe('the sound report', () => {
  const take: Take = {
    id: '01890000-0000-7000-8000-000000000001',
    scene: '01890000-0000-7000-8000-000000000002',
    number: 2,
    startedAt: '2026-05-04T09:00:00.000Z',
    endedAt: '2026-05-04T09:02:17.000Z',
    verdict: 'good',
    note: 'moved the boom, then "again"',
    marks: [
      { id: '01890000-0000-7000-8000-000000000004', kind: 'rustle', atS: 90.25, channel: 'rec.2', note: '' },
      { id: '01890000-0000-7000-8000-000000000003', kind: 'aircraft', atS: 12, channel: '', note: '' },
    ],
  }
  it('lists takes in order and marks by time, by the names a person knows', () => {
    const rows = read(
      soundReportCsv(
        'The pour',
        [take, { ...take, number: 1, endedAt: null, marks: [] }],
        [{ id: 'rec.2', name: 'Recorder, track 2' }],
      ),
    )
    expect(rows.map((row) => row.slice(1, 5))).toEqual([
      ['take', 'what', 'time', 'length'],
      ['1', 'take', '2026-05-04T09:00:00.000Z', 'running'],
      ['2', 'take', '2026-05-04T09:00:00.000Z', '2:17'],
      ['2', 'aircraft or traffic', '0:12.0', ''],
      ['2', 'rustle', '1:30.3', ''],
    ])
    expect(rows[4]![6]).toBe('Recorder, track 2')
    expect(rows[3]![6]).toBe('all channels')
    expect(rows[2]![7]).toBe(take.note)
  })
  it('knows how long a take was', () => {
    expect(takeLengthS(take)).toBe(137)
    expect(takeLengthS({ ...take, endedAt: null })).toBeUndefined()
  })
})
