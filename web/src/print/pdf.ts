import type { TDocumentDefinitions } from 'pdfmake/interfaces'

/** Writes a page as a PDF and hands it to the browser. The writer is large and is loaded when it is used. */
export async function writePdf(page: TDocumentDefinitions, scene: string, what: string): Promise<void> {
  const [{ default: pdfMake }, { default: fonts }] = await Promise.all([
    import('pdfmake/build/pdfmake'),
    import('pdfmake/build/vfs_fonts'),
  ])
  pdfMake.addVirtualFileSystem(fonts)
  const name = scene.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase()
  await pdfMake.createPdf(page).download(`${name}-${what}.pdf`)
}

/** Lines that a page holds in the largest letter; more lines take a smaller one. */
const fullPageLines = 46
const largestPt = 10.5
const smallestPt = 5.5

/** The largest letter in which so many lines fit on one page, pt. */
export const letterPt = (lines: number): number =>
  Math.max(smallestPt, Math.min(largestPt, (largestPt * fullPageLines) / lines))

/** Lines that a text takes where so many letters fit on one. */
export const wrapped = (text: string, wide: number): number => Math.ceil(text.length / wide)

/** Tables with a rule under each row. */
export const ruled = 'lightHorizontalLines'
