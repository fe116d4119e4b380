import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces'
import type { Levels } from '@iron-hush/core/levels'
import type { Patch, Shelf } from '@iron-hush/core/model'
import { type SettingsCard, settingsCard } from '@iron-hush/core/report'
import { letterPt, ruled, wrapped, writePdf } from './pdf'

/** Writes the settings card as a PDF of one page and hands it to the browser. */
export const printSettingsCard = (patch: Patch, shelf: Shelf, levels: Levels): Promise<void> =>
  writePdf(cardPage(settingsCard(patch, shelf, levels)), patch.name, 'settings')

/** The card laid out on one page, in the largest letter that fits. */
export function cardPage({ title, boxes, meters }: SettingsCard): TDocumentDefinitions {
  const lines =
    boxes.reduce((sum, { controls }) => sum + Math.max(1, controls.length), 0) +
    meters.reduce((sum, { reading }) => sum + wrapped(reading, 60), 0) +
    10
  const size = letterPt(lines)
  const heading = (text: string): Content => ({
    text,
    bold: true,
    margin: [0, size * 0.8, 0, size * 0.2],
  })
  return {
    pageSize: 'A4',
    pageMargins: [36, 32, 36, 28],
    info: { title: `${title}: settings` },
    defaultStyle: { fontSize: size, lineHeight: 1.1 },
    content: [
      { text: `${title}: settings`, fontSize: size * 1.7, bold: true },
      heading('Every control, as the box marks it'),
      {
        layout: ruled,
        table: {
          headerRows: 0,
          widths: ['30%', '35%', '*'],
          body: boxes.flatMap(({ name, controls }) =>
            controls.map((control, index) => [
              { text: index === 0 ? name : '', bold: true },
              control.name,
              control.stands,
            ]),
          ),
        },
      },
      heading('What each meter should read'),
      {
        layout: ruled,
        table: {
          headerRows: 0,
          widths: ['30%', '*'],
          body: meters.map(({ name, reading }) => [{ text: name, bold: true }, reading]),
        },
      },
      {
        text: 'Send the real voice before the real take, and look whether the meters agree.',
        margin: [0, size, 0, 0],
        color: '#5E6168',
      },
    ],
  }
}
