import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { figuresOfGear, parseJson, Refusal, ShelfFile, shelfOf, withFigure } from '../model'
import { sheetUnits } from '../units'
import { cases } from '../tests/form'
import { gearCsv, gearJson, readGearCsv, readGearJson } from './index'

const gear = parseJson(
  ShelfFile,
  readFileSync(new URL('../../../demo/shelf.json', import.meta.url), 'utf8'),
  'shelf',
).gear
const shelf = shelfOf(gear)
const gun = shelf.get('oriel-short-gun')!
const head = 'thing,like,name,maker,kind,owned,price,part,figure,value,unit,tolerance,from'.split(',')
const line = (cells: Partial<Record<(typeof head)[number], string>>) =>
  head.map((column) => cells[column] ?? '')
const read = (...lines: Parameters<typeof line>[0][]) => readGearCsv([head, ...lines.map(line)], shelf)
const onlyLine = (cells: Parameters<typeof line>[0]) => read(cells).lines[0]!

/** CSV back into cells, for what we write ourselves. */
const cellsOf = (text: string) =>
  text
    .trim()
    .split('\r\n')
    .map((row) =>
      [...row.matchAll(/("(?:[^"]|"")*"|[^,]*)(?:,|$)/g)]
        .map(([, cell]) => cell!.replace(/^"|"$/g, '').replaceAll('""', '"'))
        .slice(0, head.length),
    )

describe('a shelf as a file', () => {
  it('comes back from JSON as it went, and says of what is there that it is', () => {
    const text = gearJson(gear)
    expect(parseJson(ShelfFile, text, 'it').gear).toEqual(gear)
    const here = readGearJson(text, shelf)
    expect(here.gear).toEqual([])
    expect(here.lines.every(({ taken }) => taken)).toBe(true)
    expect(readGearJson(text, new Map()).gear).toEqual(gear)
  })
  it('comes back from a table with every figure, and of what is there as no change', () => {
    const some = gear.filter((_, index) => index % cases(1, 5) === 0)
    const rows = cellsOf(gearCsv(some))
    expect(rows.length).toBe(1 + some.length + some.flatMap(figuresOfGear).length)
    const back = readGearCsv(rows, shelf)
    expect(back.lines.filter(({ taken }) => !taken)).toEqual([])
    expect(back.gear).toEqual([])
    // onto a shelf whose figures are others, each line brings its figure
    const value = (figure: unknown) =>
      typeof figure === 'object' && figure ? (figure as { value: number }).value : figure
    const turned = shelfOf(
      some.map((thing) =>
        figuresOfGear(thing)
          .filter(({ figure, plain }) => !plain && figure !== 'unknown')
          .reduce(
            (all, { path, figure }) =>
              withFigure(all, path, { value: Number(value(figure)) + 1e-3, tolerance: 0, from: 'typical' }),
            thing,
          ),
      ),
    )
    const brought = new Map(readGearCsv(rows, turned).gear.map((thing) => [thing.id, thing]))
    for (const thing of some)
      for (const [index, { figure, plain }] of figuresOfGear(thing).entries()) {
        if (plain || figure === 'unknown') continue
        const there = figuresOfGear(brought.get(thing.id) ?? turned.get(thing.id)!)[index]!.figure
        expect(value(there), `${thing.id} ${index}`).toBeCloseTo(Number(value(figure)), 9)
      }
  })
  it('takes a line that says less than what is known for no change', () => {
    const [known] = figuresOfGear(gun).filter(({ figure }) => typeof figure === 'object')
    const { part, name, unit, figure } = known!
    const same = {
      thing: gun.id,
      part,
      figure: name,
      value: String((figure as { value: number }).value),
      unit,
    }
    expect(read(same).gear).toEqual([])
    expect(read({ ...same, from: 'measured' }).gear).toHaveLength(1)
  })
  it('takes good things and tells of the bad ones, one by one', () => {
    const file = {
      format: 'iron-hush/shelf',
      version: 2,
      gear: [
        { ...gun, id: 'my-gun', name: 'My gun' },
        { ...gun, id: 'odd', name: 'Odd', ports: [{ ...gun.ports[1]!, impedanceOhm: -20 }] },
        { ...gun, id: 'twin' },
        { ...gun, price: 1 },
        { ...gun, id: 'my-gun', name: 'Another' },
        17,
      ],
    }
    const { gear: taken, lines } = readGearJson(JSON.stringify(file), shelf)
    expect(taken.map(({ id }) => id)).toEqual(['my-gun'])
    expect(lines.map((each) => each.taken)).toEqual([true, false, false, false, false, false])
    expect(lines[1]!.what).toMatch(/Odd was refused.*impedanceOhm.*at least 0/)
    expect(lines[2]!.what).toMatch(/already a "Short gun" by Oriel & Thwaite/)
    expect(lines[3]!.what).toMatch(/on the shelf already with other figures/)
    expect(lines[4]!.what).toMatch(/in the file twice/)
  })
  it('refuses what is no shelf, and more than ten thousand lines, as a whole', () => {
    expect(() => readGearJson('{', shelf)).toThrow(Refusal)
    expect(() => readGearJson('{"gear": []}', shelf)).toThrow(/not an Iron Hush shelf/)
    expect(() => readGearCsv([['a', 'b']], shelf)).toThrow(/must name the columns/)
    expect(() => readGearCsv([[...head, 'colour']], shelf)).toThrow(/column "colour"/)
    expect(() => readGearCsv([head, ...Array.from({ length: 10_001 }, () => line({}))], shelf)).toThrow(
      /10001 lines/,
    )
  })
})

describe('a table of figures', () => {
  const sensitivity = { thing: gun.id, part: 'Capsule', figure: 'sensitivity' }
  const value = (cells: Parameters<typeof line>[0]) => {
    const [thing] = read(cells).gear
    const { figure } = figuresOfGear(thing!).find(({ name }) => name === 'sensitivity')!
    return typeof figure === 'object' ? figure : undefined
  }
  it('changes a figure with where it comes from, in any unit that sheets print', () => {
    expect(value({ ...sensitivity, value: '-33', tolerance: '1.5', from: 'measured' })).toEqual({
      value: -33,
      tolerance: 1.5,
      from: 'measured',
    })
    expect(value({ ...sensitivity, value: '25', unit: 'mV/Pa' })!.value).toBeCloseTo(-32.04, 2)
    expect(value({ ...sensitivity, value: '\u221240' })!.value).toBe(-40)
  })
  it('changes how a thing is made, a bare number, in any unit that sheets print', () => {
    const pad = shelf.get('mini-pad-40')!
    const rung = figuresOfGear(pad).find(({ plain, unit }) => plain && unit === 'ohm')!
    const cells = { thing: pad.id, part: rung.part, figure: rung.name }
    const readRung = (more: Parameters<typeof line>[0]) => onlyLine({ ...cells, ...more })
    const thing = readGearCsv([head, line({ ...cells, value: '4.7', unit: 'kohm' })], shelf).gear[0]!
    expect(figuresOfGear(thing).find(({ path }) => path.join() === rung.path.join())!.figure).toBeCloseTo(
      4700,
    )
    expect(readRung({ value: '4.7', unit: 'V' }).what).toMatch(/"V" is not a unit of/)
    expect(readRung({ value: 'unknown' }).what).toMatch(/is not a number/)
  })
  it('refuses wrong units, formulas, impossible figures and unknown sources in a sentence each', () => {
    expect(onlyLine({ ...sensitivity, value: '-33', unit: 'ohm' }).what).toMatch(
      /"ohm" is not a unit of sensitivity. Use dBV\/Pa, mV\/Pa/,
    )
    expect(onlyLine({ ...sensitivity, value: '=1+1' }).what).toMatch(
      /"=1\+1" is not a number.*formulas are not run/,
    )
    expect(onlyLine({ ...sensitivity, value: '' }).taken).toBe(false)
    expect(onlyLine({ ...sensitivity, value: '0', unit: 'mV/Pa' }).what).toMatch(/is not a valid figure/)
    expect(onlyLine({ thing: gun.id, part: 'XLR', figure: 'impedance', value: '-20' }).what).toMatch(
      /at least 0/,
    )
    expect(onlyLine({ ...sensitivity, value: '-33', from: 'hearsay' }).what).toMatch(
      /"hearsay" is not a source/,
    )
    expect(onlyLine({ ...sensitivity, figure: 'colour', value: '1' }).what).toMatch(
      /no figure "Capsule: colour". It has/,
    )
    expect(onlyLine({ figure: 'x' }).what).toMatch(/This line names nothing/)
    expect(onlyLine({ thing: 'nobody' }).what).toMatch(/say in "like"/)
    expect(onlyLine({ thing: gun.id, kind: 'camera' }).what).toMatch(/cannot become a "camera"/)
  })
  it('makes new things like those that are there', () => {
    const { gear: made, lines } = read(
      { thing: 'my-gun', like: gun.id, name: 'My gun, measured', owned: '1' },
      { thing: 'my-gun', figure: 'self noise', value: '16', from: 'measured', tolerance: '0.5' },
      { thing: 'copy', like: gun.id },
      { thing: gun.id, like: 'saltmarsh-ribbon' },
    )
    expect(lines.map(({ taken }) => taken)).toEqual([true, true, false, false])
    expect(lines[2]!.what).toMatch(/already a "Short gun"/)
    expect(made).toHaveLength(1)
    expect(made[0]).toMatchObject({ id: 'my-gun', name: 'My gun, measured', owned: 1 })
    expect(figuresOfGear(made[0]!).find(({ name }) => name === 'self-noise')!.figure).toEqual({
      value: 16,
      tolerance: 0.5,
      from: 'measured',
    })
  })
  it('keeps a text that looks like a formula a text, out and in', () => {
    const odd = { ...gun, name: '=SUM(A1)' }
    const text = gearCsv([odd])
    expect(text).toContain("'=SUM(A1)")
    const [thing] = readGearCsv(cellsOf(text), shelf).gear
    expect(thing!.name).toBe('=SUM(A1)')
  })
})

describe('units of datasheets', () => {
  const into = (unit: keyof typeof sheetUnits, name: string, printed: number) =>
    sheetUnits[unit].find((each) => each.name === name)!.into(printed)
  it('agree with tables that everyone has', () => {
    expect(into('dBV/Pa', 'mV/Pa', 10)).toBeCloseTo(-40, 6)
    expect(into('dBV/Pa', 'dB re 1 V/\u00B5bar', -60)).toBeCloseTo(-40, 6)
    expect(into('dBu', 'V RMS', 0.7746)).toBeCloseTo(0, 3)
    expect(into('dBu', 'dBV', -10)).toBeCloseTo(-7.78, 2)
    expect(into('dBu', 'V peak to peak', 2.191)).toBeCloseTo(0, 2)
    expect(into('dB SPL', 'Pa', 20)).toBeCloseTo(120, 1)
    expect(into('dB(A) SPL', 'dB signal-to-noise re 94 dB, A', 79)).toBeCloseTo(15, 6)
    expect(into('ohm', 'kohm', 2.2)).toBeCloseTo(2200, 6)
    expect(into('dB SPL at 1 V', 'dB SPL at 1 mW, 32 ohm', 100)).toBeCloseTo(114.95, 2)
  })
  it('noise of a 150 ohm resistor: 1.56 nV in a root hertz is -131 dBu over 20 kHz, 2.05 less when weighted', () => {
    expect(into('dBu(A)', 'nV/\u221AHz', 1.56)).toBeCloseTo(-130.9 - 2.05, 1)
    expect(into('dBu(A)', 'dBu, not weighted', -129)).toBeCloseTo(-131.05, 2)
    expect(into('dBFS(A)', 'dB dynamic range, A', 112)).toBe(-112)
  })
  it('leave our own unit as it is', () => {
    for (const [unit, list] of Object.entries(sheetUnits)) {
      expect(list[0]!.name).toBe(unit)
      expect(list[0]!.into(-12.5)).toBe(-12.5)
    }
  })
})
