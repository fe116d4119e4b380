import type { Levels } from '@iron-hush/core/levels'
import type { Patch, Shelf } from '@iron-hush/core/model'
import { type SettingsCard, settingsCard } from '@iron-hush/core/report'
import { headed, letterPt, type Printed, ruled, type Sheet, wrapped, writePdf } from './pdf'

/** Writes the settings card as a PDF of one page and hands it to the browser. */
export const printSettingsCard = (
  patch: Patch,
  shelf: Shelf,
  levels: Levels,
  printed: Printed,
): Promise<void> => writePdf(cardOf(settingsCard(patch, shelf, levels)), printed, 'settings')

/** The card laid out on one page, in the largest letter that fits. */
export function cardOf({ title, boxes, meters }: SettingsCard): Sheet {
  const lines =
    boxes.reduce((sum, { controls }) => sum + Math.max(1, controls.length), 0) +
    meters.reduce((sum, { reading }) => sum + wrapped(reading, 60), 0) +
    10
  const sizePt = letterPt(lines)
  const heading = headed(sizePt)
  return {
    title: `${title}: settings`,
    sizePt,
    content: [
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
              control.position,
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
        text: 'Send the real voice before the real take, and check that the meters agree.',
        margin: [0, sizePt, 0, 0],
        color: '#5E6168',
      },
    ],
  }
}
