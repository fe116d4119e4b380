import type { Content, TDocumentDefinitions, TFontDictionary } from 'pdfmake/interfaces'
import type { Font } from './fonts'
import { fontOf, furtherFonts, plainFont } from './fonts'
import { useNotices } from '../state/notices'
import { isNotFetched } from '../sync/not-fetched'
import { useOutbox } from '../sync/outbox'
import { marginPt, setPage } from './set-page'

/** One page of paper: what it says, and how large its letters are. */
export interface Sheet {
  title: string
  sizePt: number
  content: Content[]
}

export type Paper = 'A4' | 'LETTER'

/** Subject of a sheet, and when it was printed. */
export interface Printed {
  scene: string
  revision: number
  at: Date
  paper: Paper
}

/** Writes a sheet as a PDF and hands it to the browser. The writer is large and is loaded when it is used. */
export async function writePdf(sheet: Sheet, printed: Printed, what: string): Promise<void> {
  try {
    await write(sheet, printed, what)
  } catch (error) {
    if (!useOutbox().away && !isNotFetched(error)) throw error
    useNotices().say(
      'The sheet cannot be made while the server is away: what writes it comes from there. Try again when it is back.',
    )
  }
}

async function write(sheet: Sheet, printed: Printed, what: string): Promise<void> {
  const [{ default: pdfMake }, { default: plain }] = await Promise.all([
    import('pdfmake/build/pdfmake'),
    import('pdfmake/build/vfs_fonts'),
  ])
  const page = pageOf(sheet, printed)
  const { fonts, files, dictionary } = await fontsFor(JSON.stringify(page), plain)
  pdfMake.addVirtualFileSystem({ ...plain, ...files })
  pdfMake.addFonts(dictionary)
  const name = printed.scene.replace(/[^\p{L}\p{N}]+/gu, '-').toLowerCase()
  await pdfMake.createPdf(fonts.length ? setPage(page, fonts) : page).download(`${name}-${what}.pdf`)
}

/** A sheet on its paper, with the scene, its revision and the day at the foot. */
export function pageOf(
  { title, sizePt, content }: Sheet,
  { revision, at, paper }: Printed,
): TDocumentDefinitions {
  const day = at.toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })
  const time = at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
  return {
    pageSize: paper,
    pageMargins: [marginPt, 32, marginPt, 40],
    info: { title },
    defaultStyle: { font: plainFont, fontSize: sizePt, lineHeight: 1.1 },
    content: [{ text: title, fontSize: sizePt * 1.7, bold: true }, ...content],
    footer: {
      text: `${title} \u00B7 revision ${revision} \u00B7 printed ${day}, ${time}`,
      fontSize: 8,
      color: '#5E6168',
      margin: [marginPt, 8, marginPt, 0],
    },
  }
}

const bytesOf = (base64: string) => Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0))
function base64Of(bytes: Uint8Array): string {
  let letters = ''
  for (const byte of bytes) letters += String.fromCharCode(byte)
  return btoa(letters)
}

/** Characters that the plain font certainly has, so that no lookup is needed. */
const surelyPlain = /^[\u0020-\u024F\u0391-\u03C9\u0400-\u045F\u2013-\u201E\u2026\u20AC\u2212\s]*$/u

/** Fonts that a text needs beyond the plain one, as the writer wants them; none where it has plain letters only. */
async function fontsFor(text: string, plain: Record<string, string>) {
  const files: Record<string, string> = {}
  const dictionary: TFontDictionary = {}
  const fonts: Font[] = []
  if (surelyPlain.test(text) && !/\S{25}/u.test(text)) return { fonts, files, dictionary }
  const { create } = await import('fontkit')
  const read = (name: string, bytes: Uint8Array): Font =>
    fontOf(name, create(bytes as Parameters<typeof create>[0]))
  fonts.push(read(plainFont, bytesOf(plain['Roboto-Regular.ttf']!)))
  for (const { name, script, url } of furtherFonts) {
    if (!script.test(text)) continue
    const bytes = new Uint8Array(await (await fetch(url)).arrayBuffer())
    const file = `${name}.woff`
    files[file] = base64Of(bytes)
    dictionary[name] = { normal: file, bold: file, italics: file, bolditalics: file }
    fonts.push(read(name, bytes))
  }
  return { fonts, files, dictionary }
}

/** Lines that a page holds in the largest letter; more lines take a smaller one. */
const fullPageLines = 44
const largestPt = 10.5
const smallestPt = 5.5

/** The largest font size at which a number of lines fits on one page, pt. */
export const letterPt = (lines: number): number =>
  Math.max(smallestPt, Math.min(largestPt, (largestPt * fullPageLines) / lines))

/** Lines that a text takes, given how many letters fit on one. */
export const wrapped = (text: string, wide: number): number => Math.ceil(text.length / wide)

/** Tables with a rule under each row. */
export const ruled = 'lightHorizontalLines'

/** Headings of a sheet's parts. */
export const headed =
  (sizePt: number) =>
  (text: string): Content => ({ text, bold: true, margin: [0, sizePt * 0.8, 0, sizePt * 0.2] })
