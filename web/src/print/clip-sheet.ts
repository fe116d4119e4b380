import type { Measurement } from '@iron-hush/core/model'
import { type ClipLine, clipLines } from '@iron-hush/core/report'
import { letterPt, type Printed, ruled, type Sheet, wrapped, writePdf } from './pdf'

/** Writes what was found in clips as a PDF of one page and hands it to the browser. */
export const printClips = (measurements: readonly Measurement[], printed: Printed): Promise<void> =>
  writePdf(clipSheet(clipLines(measurements), printed.scene), printed, 'clips')

/** Approximate number of lines per clip. */
const linesOf = ({ findings }: ClipLine): number =>
  2 +
  Math.max(
    1,
    findings.reduce((sum, { what, where, remedy }) => sum + wrapped(`${what} ${where} ${remedy}`, 66), 0),
  )

/** The findings laid out on one page, in the largest letter that fits. */
export function clipSheet(lines: readonly ClipLine[], scene: string): Sheet {
  const sizePt = letterPt(lines.reduce((sum, line) => sum + linesOf(line), 6))
  return {
    title: `${scene}: what is in the clips`,
    sizePt,
    content: [
      {
        layout: ruled,
        table: {
          headerRows: 0,
          widths: ['36%', '*'],
          body: lines.map(({ mark, clip, facts, levels, findings }) => [
            {
              stack: [
                { text: `${mark === '\u2713' ? '' : '! '}${clip}`, bold: true },
                { text: `${facts}; ${levels}`, color: '#5E6168', fontSize: sizePt * 0.85 },
              ],
            },
            findings.length
              ? {
                  stack: findings.map(({ what, where, remedy }) => ({
                    text: `${what} ${where === 'all through' ? 'All through.' : `At ${where}.`} ${remedy}`,
                  })),
                }
              : 'Nothing was found.',
          ]),
        },
      },
      {
        text: 'Not looked for: echo, distortion in a codec, what is said. Listen to what you use.',
        margin: [0, sizePt, 0, 0],
        color: '#5E6168',
      },
    ],
  }
}
