import {
  checkGear,
  currentFormat,
  type Figure,
  figuresOfGear,
  formatVersion,
  Gear,
  type GearFigure,
  Provenance,
  Refusal,
  sentenceOf,
  type Shelf,
  type ShelfFile,
  withFigure,
} from '../model'
import { sheetUnits } from '../units'
import { csv, unguarded } from './csv'

/** Result for one line, or one thing, of a gear file. */
export interface LineReport {
  /** Line of a CSV file; number of the thing in a JSON file. From 1. */
  line: number
  taken: boolean
  what: string
}

/** New and changed things of a file, and the result for each line. Nothing is stored yet. */
export interface GearReading {
  gear: Gear[]
  lines: LineReport[]
}

const mostLines = 10_000
const columns = [
  'thing',
  'like',
  'name',
  'maker',
  'kind',
  'owned',
  'price',
  'part',
  'figure',
  'value',
  'unit',
  'tolerance',
  'from',
] as const
type Column = (typeof columns)[number]

/** A shelf as a JSON file in the published form. */
export const gearJson = (gear: readonly Gear[]): string =>
  JSON.stringify(
    { format: 'iron-hush/shelf', version: formatVersion, gear } satisfies { [K in keyof ShelfFile]: unknown },
    null,
    2,
  )

/** A shelf as a table: a line for each thing, then one for each of its figures. */
export function gearCsv(gear: readonly Gear[]): string {
  const rows = gear.flatMap((thing) => [
    [
      thing.id,
      '',
      thing.name,
      thing.maker,
      thing.kind,
      thing.owned,
      thing.price ?? null,
      '',
      '',
      '',
      '',
      '',
      '',
    ],
    ...figuresOfGear(thing).map(({ part, name, unit, figure }) => {
      const stated = typeof figure === 'object' ? figure : undefined
      return [
        thing.id,
        ...['', '', '', '', '', ''],
        part,
        name,
        figure === 'unknown' ? 'unknown' : typeof figure === 'number' ? figure : figure.value,
        unit,
        stated?.tolerance ?? null,
        stated?.from ?? '',
      ]
    }),
  ])
  return csv([[...columns], ...rows])
}

/** Reads a JSON file thing by thing. Throws a Refusal when it is no shelf at all. */
export function readGearJson(text: string, shelf: Shelf): GearReading {
  let file: unknown
  try {
    file = JSON.parse(text)
  } catch {
    throw new Refusal('This file was refused: it is not JSON. Nothing was imported.')
  }
  const things = (file as { gear?: unknown } | null)?.gear
  if ((file as { format?: unknown } | null)?.format !== 'iron-hush/shelf' || !Array.isArray(things))
    throw new Refusal(
      'This file was refused: it is not an Iron Hush shelf ("format": "iron-hush/shelf"). Nothing was imported.',
    )
  refuseTooMany(things.length)
  const reading: GearReading = { gear: [], lines: [] }
  for (const [index, thing] of things.entries()) {
    const say = (taken: boolean, what: string) => reading.lines.push({ line: index + 1, taken, what })
    const name = (thing as { name?: unknown } | null)?.name
    const called = typeof name === 'string' ? name : `Thing ${index + 1}`
    const parsed = Gear.safeParse(currentFormat(thing), { reportInput: true })
    if (!parsed.success) {
      say(false, sentenceOf(parsed.error, called))
      continue
    }
    const [problem] = checkGear(parsed.data)
    const clash = clashOf(parsed.data, shelf, reading.gear)
    if (problem ?? clash) say(false, `${called} was refused: ${problem ?? clash}`)
    else if (shelf.has(parsed.data.id)) say(true, `${called} is already on the shelf, with the same figures.`)
    else {
      reading.gear.push(parsed.data)
      say(true, `${called} is new.`)
    }
  }
  return reading
}

/** Why a new thing conflicts with existing ones; undefined if it does not. */
function clashOf(thing: Gear, shelf: Shelf, read: readonly Gear[]): string | undefined {
  const there = shelf.get(thing.id)
  if (there)
    return JSON.stringify(there) === JSON.stringify(thing)
      ? undefined
      : `"${thing.id}" is on the shelf already with other figures. Give it another id, or delete that one first.`
  if (read.some(({ id }) => id === thing.id))
    return `"${thing.id}" is in the file twice. Give one another id.`
  const same = [...shelf.values(), ...read].find(
    ({ name, maker }) => name === thing.name && maker === thing.maker,
  )
  return same && `there is already a "${thing.name}" by ${thing.maker} ("${same.id}"). Give it another name.`
}

/**
 * Reads a table line by line: figures of things on the shelf, and new things made like one that is there. A line
 * that cannot be used is refused with its reason, and the others are taken.
 *
 * @param rows cells of each line, the first with the names of the columns
 */
export function readGearCsv(rows: readonly (readonly string[])[], shelf: Shelf): GearReading {
  const [head, ...lines] = rows
  const names = head?.map((cell) => cell.trim().toLowerCase()) ?? []
  const unknown = names.filter((name) => name && !(columns as readonly string[]).includes(name))
  if (!names.includes('thing'))
    throw new Refusal(
      `This table was refused: its first line must name the columns (${columns.join(', ')}). Nothing was imported.`,
    )
  if (unknown.length)
    throw new Refusal(
      `This table was refused: column "${unknown[0]}" is not one of ${columns.join(', ')}. Nothing was imported.`,
    )
  refuseTooMany(lines.length)
  const changed = new Map<string, Gear>()
  const reports: LineReport[] = []
  for (const [index, cells] of lines.entries()) {
    const cell = (column: Column) => unguarded(cells[names.indexOf(column)]?.trim() ?? '')
    if (cells.every((each) => each.trim() === '')) continue
    const line = index + 2
    try {
      const thing = lineOf(cell, shelf, changed)
      changed.set(thing.gear.id, thing.gear)
      reports.push({ line, taken: true, what: thing.what })
    } catch (error) {
      if (!(error instanceof Refusal)) throw error
      reports.push({ line, taken: false, what: error.message })
    }
  }
  const gear = [...changed.values()].filter(
    (thing) => JSON.stringify(shelf.get(thing.id)) !== JSON.stringify(thing),
  )
  return { gear, lines: reports }
}

function refuseTooMany(count: number): void {
  if (count > mostLines)
    throw new Refusal(
      `This file was refused: it has ${count} lines and ${mostLines} are the most at once. Split it. Nothing was imported.`,
    )
}

/** A thing with what one line says of it. Throws a Refusal with the reason. */
function lineOf(
  cell: (column: Column) => string,
  shelf: Shelf,
  changed: ReadonlyMap<string, Gear>,
): { gear: Gear; what: string } {
  const id = cell('thing')
  if (!id) throw new Refusal('This line names nothing. Write the id of the thing in the first column.')
  const like = cell('like')
  const known = changed.get(id) ?? shelf.get(id)
  if (like && known)
    throw new Refusal(
      `"${id}" is there already and cannot be made like "${like}". Give the new one another id.`,
    )
  const model = known ?? shelf.get(like) ?? changed.get(like)
  if (!model)
    throw new Refusal(
      like
        ? `Nothing on the shelf has the id "${like}".`
        : `Nothing on the shelf has the id "${id}". To make it new, say in "like" which thing it is like.`,
    )
  const said = withWords(known ? model : { ...model, id, owned: 0 }, cell)
  if (!known) {
    const clash = clashOf(said, shelf, [...changed.values()])
    if (clash) throw new Refusal(`Refused: ${clash}`)
  }
  const figure = cell('figure')
  if (!figure)
    return { gear: sound(said), what: known ? `${said.name}.` : `${said.name} is new, like ${model.name}.` }
  const wanted = figureAt(said, cell('part'), figure)
  const stated = figureIn(wanted, cell)
  if (saysTheSame(wanted.figure, stated, cell))
    return { gear: sound(said), what: `${said.name}, ${wanted.part}: ${wanted.name} as it is.` }
  const gear = sound(withFigure(said, wanted.path, stated), `${said.name}, ${wanted.part}: ${wanted.name}`)
  const value = typeof stated === 'object' ? stated.value : stated
  const shown = typeof value === 'number' ? `${Number(value.toFixed(6))} ${wanted.unit}` : 'not known'
  return { gear, what: `${gear.name}, ${wanted.part}: ${wanted.name} ${shown}.` }
}

/** Relative error allowed when a figure is converted to another unit and back. */
const sameWithin = 1e-9

/** Whether a line states the existing figure; empty cells mean unchanged. */
function saysTheSame(there: Figure, stated: Figure, cell: (column: Column) => string): boolean {
  if (there === 'unknown' || stated === 'unknown') return there === stated
  const before = typeof there === 'number' ? { value: there, tolerance: 0, from: 'typical' } : there
  const after = typeof stated === 'number' ? { value: stated, tolerance: 0, from: 'typical' } : stated
  return (
    Math.abs(before.value - after.value) <= sameWithin * Math.max(1, Math.abs(before.value)) &&
    (!cell('tolerance') || before.tolerance === after.tolerance) &&
    (!cell('from') || before.from === after.from)
  )
}

/** Name, maker and count where the line states them. */
function withWords(gear: Gear, cell: (column: Column) => string): Gear {
  const number = (column: 'owned' | 'price') => {
    const text = cell(column)
    return text ? { [column]: numberIn(text, column) } : {}
  }
  const kind = cell('kind')
  if (kind && kind !== gear.kind)
    throw new Refusal(
      `${gear.name} is a ${gear.kind} and cannot become a "${kind}". Make it like one that is.`,
    )
  return {
    ...gear,
    ...(cell('name') ? { name: cell('name') } : {}),
    ...(cell('maker') ? { maker: cell('maker') } : {}),
    ...number('owned'),
    ...number('price'),
  }
}

/** Names are the same in small letters and capitals, with a hyphen or without. */
const spelt = (name: string): string => name.toLowerCase().replaceAll('-', ' ')

function figureAt(gear: Gear, part: string, name: string): GearFigure {
  const all = figuresOfGear(gear)
  const matching = all.filter(
    (each) => spelt(each.name) === spelt(name) && (!part || each.part.toLowerCase() === part.toLowerCase()),
  )
  const [found] = matching
  if (!found) {
    const there = all.map((each) => `${each.part}: ${each.name}`).slice(0, 12)
    throw new Refusal(
      `${gear.name} has no figure "${part ? `${part}: ` : ''}${name}". It has ${there.join('; ') || 'none'}.`,
    )
  }
  if (matching.length > 1 && !part)
    throw new Refusal(
      `${gear.name} has "${name}" in ${matching.map((each) => each.part).join(', ')}. Say which in "part".`,
    )
  return found
}

/** The figure of a line, turned into our unit. */
function figureIn({ name, unit, plain }: GearFigure, cell: (column: Column) => string): Figure {
  const value = cell('value')
  if (value === 'unknown' && !plain) return 'unknown'
  const printed = numberIn(value, name)
  const stated = cell('unit') || unit
  const conversion = sheetUnits[unit].find((each) => each.name === stated)
  if (!conversion)
    throw new Refusal(
      `"${stated}" is not a unit of ${name}. Use ${sheetUnits[unit].map((each) => each.name).join(', ')}.`,
    )
  const converted = conversion.into(printed)
  if (!Number.isFinite(converted)) throw new Refusal(`${name}: ${value} ${stated} is not a valid figure.`)
  if (plain) return converted
  const from = Provenance.safeParse(cell('from') || 'typical')
  if (!from.success)
    throw new Refusal(`"${cell('from')}" is not a source of a figure. Use ${Provenance.options.join(', ')}.`)
  const tolerance = cell('tolerance')
  return { value: converted, tolerance: tolerance ? numberIn(tolerance, 'tolerance') : 0, from: from.data }
}

function numberIn(text: string, what: string): number {
  const value = Number(text.replace('\u2212', '-'))
  if (text === '' || !Number.isFinite(value))
    throw new Refusal(
      `${what}: "${text.slice(0, 40)}" is not a number. A table is read as text; formulas are not run.`,
    )
  return value
}

/** The thing, when it is still whole; otherwise a Refusal, about the figure that was changed. */
function sound(gear: Gear, figure?: string): Gear {
  const parsed = Gear.safeParse(gear, { reportInput: true })
  if (!parsed.success) {
    const sentence = sentenceOf(parsed.error, figure ?? gear.name)
    // a person knows the figure by its name, not by its path
    throw new Refusal(figure ? sentence.replace(/refused: [\w.[\]]+: /, 'refused: it ') : sentence)
  }
  const [problem] = checkGear(parsed.data)
  if (problem) throw new Refusal(problem)
  return parsed.data
}
