import { describe, expect, it } from 'vitest'
import fc from 'fast-check'
import type { Take } from '../model'
import { unguarded } from './csv'
import { csv, soundReportCsv, takeLengthS } from './index'

/** A reader of CSV after RFC 4180, written for this test alone. */
function read(written: string): string[][] {
  const text = written.replace(/^\uFEFF/, '')
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
  const odd = fc.string({
    unit: fc.constantFrom(...Array.from('=+-@;,\t\r\n"\' a1\uFF1D\uFF0B\uFF0D\uFF20')),
  })
  it('comes back from any text', () => {
    const rowsOf = fc.array(fc.array(fc.oneof(fc.string(), odd), { minLength: 1, maxLength: 5 }), {
      minLength: 1,
      maxLength: 5,
    })
    fc.assert(
      fc.property(rowsOf, (rows) => {
        expect(read(csv(rows)).map((row) => row.map(unguarded))).toEqual(rows)
      }),
    )
  })
  it('never lets a note run as a formula, however a spreadsheet parts cells', () => {
    expect(csv([['=1+1', '@cmd', -3, null]])).toBe("\uFEFF'=1+1,'@cmd,-3,\r\n")
    fc.assert(
      fc.property(odd, (note) => {
        const line = csv([['note', note]])
        for (const separator of [/[;\r\n]/, /[\t\r\n]/])
          for (const cell of line.split(separator).slice(1))
            expect(cell).not.toMatch(/^[ "]*[=+\-@\uFF1D\uFF0B\uFF0D\uFF20]/)
        for (const row of read(line))
          for (const cell of row) expect(cell).not.toMatch(/^[=+\-@\uFF1D\uFF0B\uFF0D\uFF20]/)
      }),
    )
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
    parts: [],
  }
  it('lists takes in order and marks by time, by the names a person knows', () => {
    const rows = read(
      soundReportCsv(
        'The pour',
        [take, { ...take, number: 1, endedAt: null, marks: [] }],
        [{ id: 'rec.2', name: 'Recorder, track 2' }],
        { timeZone: 'Etc/GMT-2' },
      ),
    )
    expect(rows.map((row) => row.slice(1, 6))).toEqual([
      ['take', 'what', 'time', 'local time', 'length'],
      ['1', 'take', '2026-05-04T09:00:00.000Z', '2026-05-04 11:00:00 +02:00', 'running'],
      ['2', 'take', '2026-05-04T09:00:00.000Z', '2026-05-04 11:00:00 +02:00', '2:17'],
      ['2', 'aircraft or traffic', '0:12.0', '2026-05-04 11:00:12 +02:00', ''],
      ['2', 'rustle', '1:30.3', '2026-05-04 11:01:30 +02:00', ''],
    ])
    expect(rows[4]![7]).toBe('Recorder, track 2')
    expect(rows[3]![7]).toBe('all channels')
    expect(rows[2]![8]).toBe(take.note)
    expect(rows[2]![9]).toBe('')
  })
  it('says what changed since the take before', () => {
    const changedBetween = (before: Take, now: Take) => [
      `moved from ${before.number} to ${now.number}`,
      'Camera swapped',
    ]
    const three = [take, { ...take, number: 5 }, { ...take, number: 1 }]
    const rows = read(soundReportCsv('The pour', three, [], { changedBetween }))
    expect(rows[0]!.at(-1)).toBe('changed since the take before')
    expect(rows.filter((row) => row[2] === 'take').map((row) => row.at(-1))).toEqual([
      '',
      'moved from 1 to 2; Camera swapped',
      'moved from 2 to 5; Camera swapped',
    ])
  })
  it('knows how long a take was', () => {
    expect(takeLengthS(take)).toBe(137)
    expect(takeLengthS({ ...take, endedAt: null })).toBeUndefined()
  })
})
