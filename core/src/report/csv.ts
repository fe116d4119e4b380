type Cell = string | number | null

/** Without it some spreadsheets take UTF-8 for the letters of another age. */
const byteOrderMark = '\uFEFF'

/**
 * Rows as CSV after RFC 4180, with a byte order mark. Where a spreadsheet would take a text for a formula, also one that
 * parts cells at semicolons or tabs and does not know our quotes, an apostrophe is put in front, so that a note can never
 * run as one.
 */
export const csv = (rows: readonly (readonly Cell[])[]): string =>
  byteOrderMark + rows.map((row) => row.map(cell).join(',') + '\r\n').join('')

function cell(value: Cell): string {
  if (value === null) return ''
  if (typeof value === 'number') return String(value)
  const text = guarded(value)
  return /[",;\t\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text
}

/** Start of a cell followed by a character that would begin a formula, full-width forms included. */
const start = '(^|[;\\t\\r\\n])'
const formula = `[^\\S\\t\\r\\n]*["' ]*[=+\\-@\uFF1D\uFF0B\uFF0D\uFF20]`
const guarded = (text: string): string => text.replace(new RegExp(`${start}(?=${formula})`, 'g'), "$1'")

/** A text as it was before an apostrophe kept it from running as a formula. */
export const unguarded = (text: string): string =>
  text.replace(new RegExp(`${start}'(?=${formula})`, 'g'), '$1')
