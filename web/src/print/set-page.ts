import type { TDocumentDefinitions } from 'pdfmake/interfaces'
import type { Font } from './fonts'
import { type Room, setText } from './set-text'

/** Page margin on either side. */
export const marginPt = 36
const paperWidthsPt = { A4: 595.28, LETTER: 612 }
/** Gap on either side of a table column. */
const gutterPt = 8
/** Share of the width used before a line is broken: bold letters are slightly wider. */
const usedOfWidth = 0.96
/** Width of a bullet, em. */
const bulletEm = 1.5

/** A page with every text of it, wherever it is, in fonts that have its letters. */
export function setPage(page: TDocumentDefinitions, fonts: readonly Font[]): TDocumentDefinitions {
  const widthPt = paperWidthsPt[page.pageSize as keyof typeof paperWidthsPt] - 2 * marginPt
  return setIn(page, fonts, { widthPt, sizePt: page.defaultStyle?.fontSize ?? 12 }) as TDocumentDefinitions
}

/** Where a bare string is a text. */
const texts = new Set(['content', 'body', 'ul', 'stack', 'columns'])

function setIn(node: unknown, fonts: readonly Font[], room: Room, key = ''): unknown {
  if (typeof node === 'string') return texts.has(key) ? { text: set(node, fonts, room) } : node
  if (Array.isArray(node)) return node.map((each) => setIn(each, fonts, room, key))
  if (typeof node !== 'object' || node === null) return node
  if (isTable(node)) return { ...node, body: bodyIn(node, fonts, room) }
  const sizePt = 'fontSize' in node && typeof node.fontSize === 'number' ? node.fontSize : room.sizePt
  const here = { ...room, sizePt }
  return Object.fromEntries(
    Object.entries(node).map(([name, value]) => {
      if (name === 'info' || name === 'defaultStyle') return [name, value]
      if (name === 'text' && typeof value === 'string') return [name, set(value, fonts, here)]
      return [name, setIn(value, fonts, name === 'ul' ? bulleted(here) : here, name)]
    }),
  )
}

const set = (text: string, fonts: readonly Font[], { widthPt, sizePt }: Room) =>
  setText(text, fonts, { sizePt, widthPt: widthPt * usedOfWidth })

const bulleted = ({ widthPt, sizePt }: Room): Room => ({ widthPt: widthPt - bulletEm * sizePt, sizePt })

interface Table {
  widths: string[]
  body: unknown[][]
}
const isTable = (node: object): node is Table => 'widths' in node && 'body' in node

const bodyIn = ({ widths, body }: Table, fonts: readonly Font[], room: Room) => {
  const columnsPt = columnWidthsPt(widths, room.widthPt)
  return body.map((row) =>
    row.map((cell, column) => setIn(cell, fonts, { ...room, widthPt: columnsPt[column]! }, 'body')),
  )
}

/** How wide the columns of a table are, as the writer lays them out: a share of the page, or what is left. */
export function columnWidthsPt(widths: readonly string[], pagePt: number): number[] {
  const gutters = widths.map((_, at) => gutterPt * (Number(at > 0) + Number(at < widths.length - 1)))
  const fixed = widths.map((width, at) =>
    width.endsWith('%') ? (Number.parseFloat(width) / 100) * pagePt - gutters[at]! : undefined,
  )
  const sum = (all: readonly (number | undefined)[]) => all.reduce<number>((so, each = 0) => so + each, 0)
  const left = pagePt - sum(gutters) - sum(fixed)
  const shared = widths.filter((width) => width === '*').length
  return fixed.map((width) => width ?? left / shared)
}
