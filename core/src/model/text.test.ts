import { describe, expect, it } from 'vitest'
import { clean, cutToName, Day, freeName, Moment, Name, Note } from './text'

describe('a text as it is stored', () => {
  it('has no control characters and no halves of letters, and is composed', () => {
    expect(clean('a\u0000b\u0007c\uD800d\u009Fe')).toBe('abcde')
    expect(clean('Ku\u0308che')).toBe('K\u00FCche')
    expect(clean('\u{1F514} two\tlines\nhere')).toBe('\u{1F514} two\tlines\nhere')
  })
  it('is cleaned and not refused, and a name is one line', () => {
    expect(Name.parse(' a\u0000 bell\nhere ')).toBe('a bell here')
    expect(Note.parse('one\r\ntwo')).toBe('one\ntwo')
    expect(Name.safeParse('\u0000').success).toBe(false)
    expect(Name.safeParse('x'.repeat(121)).success).toBe(false)
  })
  it('is cut between letters as a reader counts them', () => {
    const family = '\u{1F468}\u200D\u{1F469}\u200D\u{1F467}'
    expect(cutToName(family.repeat(3), 2 * family.length + 3)).toBe(family.repeat(2))
    expect(cutToName('x'.repeat(300))).toHaveLength(120)
    expect(cutToName('\u0000')).toBe('unnamed')
  })
})

describe('a name that is to differ', () => {
  it('is numbered where it is taken, and stays a name', () => {
    expect(freeName('Bench', [])).toBe('Bench')
    expect(freeName('Bench', ['Bench', 'Bench 3'])).toBe('Bench 2')
    expect(freeName('Bench', ['Bench', 'Bench 2', 'bench 3'])).toBe('Bench 3')
    const long = 'x'.repeat(120)
    expect(Name.parse(freeName(long, [long]))).toBe(`${'x'.repeat(118)} 2`)
  })
})

describe('a moment', () => {
  it('is of our time, so that the database and every calendar can hold it', () => {
    expect(Moment.safeParse('2026-11-28T10:00:00.123Z').success).toBe(true)
    for (const far of ['0000-01-01T00:00:00Z', '9999-12-31T23:59:59.9999999Z', '1500-01-01T00:00:00Z'])
      expect(Moment.safeParse(far).success, far).toBe(false)
    expect(Day.safeParse('2026-02-30').success).toBe(false)
    expect(Day.safeParse('2201-01-01').success).toBe(false)
  })
})
