import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces'
import type { WiredLink } from '@iron-hush/core/circuit'
import type { Levels } from '@iron-hush/core/levels'
import type { Patch, Shelf } from '@iron-hush/core/model'
import { type PatchSheet, patchSheet } from '@iron-hush/core/report'
import { letterPt, ruled, wrapped, writePdf } from './pdf'

/** Writes the patch sheet as a PDF of one page and hands it to the browser. */
export async function printPatchSheet(
  patch: Patch,
  shelf: Shelf,
  wiring: readonly WiredLink[],
  levels: Levels,
): Promise<void> {
  await writePdf(pageOf(patchSheet(patch, shelf, wiring, levels)), patch.name, 'patch')
}

/** The sheet laid out on one page, in the largest letter that fits. */
export function pageOf(sheet: PatchSheet): TDocumentDefinitions {
  const { plugs, settings, channels, warnings, cautions } = sheet
  const lines =
    plugs.reduce(
      (sum, plug) => sum + Math.max(...[plug.from, plug.through, plug.to].map((text) => wrapped(text, 30))),
      0,
    ) +
    settings.reduce((sum, { set }) => sum + wrapped(set.join(', '), 70), 0) +
    channels.length +
    [...warnings, ...cautions].reduce((sum, text) => sum + wrapped(text, 95), 0) +
    12
  const size = letterPt(lines)
  const heading = (text: string): Content => ({ text, bold: true, margin: [0, size * 0.8, 0, size * 0.2] })
  return {
    pageSize: 'A4',
    pageMargins: [36, 32, 36, 28],
    info: { title: sheet.title },
    defaultStyle: { fontSize: size, lineHeight: 1.1 },
    content: [
      { text: sheet.title, fontSize: size * 1.7, bold: true },
      ...(sheet.note ? [{ text: sheet.note, color: '#5E6168' }] : []),
      heading('What plugs where'),
      {
        layout: ruled,
        table: {
          headerRows: 0,
          widths: ['*', '*', '*'],
          body: plugs.map(({ from, through, to }) => [from, through || 'straight in', to]),
        },
      },
      ...(settings.length
        ? [
            heading('Settings'),
            {
              layout: ruled,
              table: {
                headerRows: 0,
                widths: ['28%', '*'],
                body: settings.map(({ box, set }) => [box, set.join(', ')]),
              },
            } satisfies Content,
          ]
        : []),
      ...(channels.length
        ? [
            heading('What lands where'),
            {
              layout: ruled,
              table: {
                headerRows: 0,
                widths: ['40%', '*'],
                body: channels.map(({ name, holds }) => [name, holds]),
              },
            } satisfies Content,
          ]
        : []),
      ...(warnings.length ? [heading('Not right yet'), { ul: warnings } satisfies Content] : []),
      ...(cautions.length ? [heading('Mind'), { ul: cautions } satisfies Content] : []),
    ],
  }
}
