type Cell = string | number | null

/**
 * Rows as CSV after RFC 4180. A text that a spreadsheet would take for a formula gets an apostrophe in front, so
 * that a note can never run as one.
 */
export function csv(rows: readonly (readonly Cell[])[]): string {
  return rows.map((row) => row.map(cell).join(',') + '\r\n').join('')
}

function cell(value: Cell): string {
  if (value === null) return ''
  if (typeof value === 'number') return String(value)
  const text = /^[=+\-@\t\r]/.test(value) ? `'${value}` : value
  return /[",\r\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text
}
