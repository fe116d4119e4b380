import type { Content } from 'pdfmake/interfaces'
import type { WiredLink } from '@iron-hush/core/circuit'
import type { Levels } from '@iron-hush/core/levels'
import type { Patch, Shelf } from '@iron-hush/core/model'
import { type PatchSheet, patchSheet } from '@iron-hush/core/report'
import { headed, letterPt, type Printed, ruled, type Sheet, wrapped, writePdf } from './pdf'

/** Writes the patch sheet as a PDF of one page and hands it to the browser. */
export async function printPatchSheet(
  patch: Patch,
  shelf: Shelf,
  wiring: readonly WiredLink[],
  levels: Levels,
  printed: Printed,
): Promise<void> {
  await writePdf(sheetOf(patchSheet(patch, shelf, wiring, levels)), printed, 'patch')
}

/** Approximate number of lines of the sheet. */
function linesOf({ plugs, settings, channels, warnings, cautions }: PatchSheet): number {
  return (
    plugs.reduce(
      (sum, plug) => sum + Math.max(...[plug.from, plug.through, plug.to].map((text) => wrapped(text, 30))),
      0,
    ) +
    settings.reduce((sum, { box, set }) => sum + Math.max(wrapped(box, 24), wrapped(set.join(', '), 70)), 0) +
    channels.reduce((sum, { name, holds }) => sum + Math.max(wrapped(name, 36), wrapped(holds, 56)), 0) +
    [...warnings, ...cautions].reduce((sum, text) => sum + wrapped(text, 95), 0) +
    12
  )
}

const table = (widths: string[], body: string[][]): Content => ({
  layout: ruled,
  table: { headerRows: 0, widths, body },
})

/** The sheet laid out on one page, in the largest letter that fits. */
export function sheetOf(sheet: PatchSheet): Sheet {
  const { plugs, settings, channels, warnings, cautions } = sheet
  const sizePt = letterPt(linesOf(sheet))
  const heading = headed(sizePt)
  return {
    title: sheet.title,
    sizePt,
    content: [
      ...(sheet.note ? [{ text: sheet.note, color: '#5E6168' }] : []),
      heading('What plugs where'),
      table(
        ['*', '*', '*'],
        plugs.map(({ from, through, to }) => [from, through || 'straight in', to]),
      ),
      ...(settings.length
        ? [
            heading('Settings'),
            table(
              ['28%', '*'],
              settings.map(({ box, set }) => [box, set.join(', ')]),
            ),
          ]
        : []),
      ...(channels.length
        ? [
            heading('What lands where'),
            table(
              ['40%', '*'],
              channels.map(({ name, holds }) => [name, holds]),
            ),
          ]
        : []),
      ...(warnings.length ? [heading('Not right yet'), { ul: warnings } satisfies Content] : []),
      ...(cautions.length ? [heading('Mind'), { ul: cautions } satisfies Content] : []),
    ],
  }
}
