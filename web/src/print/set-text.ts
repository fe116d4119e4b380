import bidiFactory from 'bidi-js'
import type { Font } from './fonts'

/** A stretch of text in one font. */
export interface SetRun {
  text: string
  font: string
}

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' })
/** Joiners and selectors: without a shape of their own, and of use only to a font that knows them. */
const shapeless = /[\p{Default_Ignorable_Code_Point}]/u

/** Where a text is on a page. */
export interface Room {
  widthPt: number
  sizePt: number
}

/**
 * A text as it is set: every letter in the first font that has it, letters that no font has by their number, so that
 * none vanishes; what runs from right to left in the order in which it is seen, line by line where it has room for
 * several.
 */
export function setText(text: string, fonts: readonly Font[], room?: Room): SetRun[] {
  const lines = breakable(text)
    .split('\n')
    .flatMap((line) => linesOf(line, fonts, room))
  return joined(
    lines.flatMap((line, at) => [
      ...(at > 0 ? [{ text: '\n', font: fonts[0]!.name }] : []),
      ...stretchesOf(line).flatMap((stretch) => runsOfStretch(stretch, fonts)),
    ]),
  )
}

/** One run for those that follow each other in one font; two words that were turned stay apart. */
function joined(all: readonly (SetRun & { isTurned?: boolean })[]): SetRun[] {
  const runs: (SetRun & { isTurned?: boolean })[] = []
  for (const run of all) {
    const last = runs.at(-1)
    if (last?.font === run.font && !last.isTurned && !run.isTurned) last.text += run.text
    else runs.push({ ...run })
  }
  return runs.map(({ text, font }) => ({ text, font }))
}

/** A part of a line: a word from right to left, or what runs from left to right up to the next of those. */
function stretchesOf(line: readonly Word[]): Word[] {
  const stretches: Word[] = []
  for (const word of line) {
    const last = stretches.at(-1)
    if (last && last.level % 2 === 0 && word.level % 2 === 0) last.text += word.text
    else stretches.push({ ...word })
  }
  return stretches
}

/** A font turns the letters of a word from right to left; the parts of a word that takes several are turned here. */
function runsOfStretch({ text, level }: Word, fonts: readonly Font[]): (SetRun & { isTurned?: boolean })[] {
  const runs = runsOf(text, fonts)
  if (level % 2 === 0) return runs
  return runs.reverse().map((run) => ({
    ...run,
    text: /[\p{L}\p{N}]/u.test(run.text) ? run.text : mirrored(run.text),
    isTurned: true,
  }))
}

/** Signs without letters as they stand in text from right to left: the last one first, brackets the other way round. */
const mirrored = (signs: string): string =>
  Array.from(signs, (sign) => bidi.getMirroredCharacter(sign) ?? sign)
    .reverse()
    .join('')

/** A text in the order it is given, in fonts that have its letters. */
function runsOf(text: string, fonts: readonly Font[]): SetRun[] {
  const runs: SetRun[] = []
  const put = (part: string, font: string) => {
    const last = runs.at(-1)
    if (last?.font === font) last.text += part
    else runs.push({ text: part, font })
  }
  for (const { segment } of graphemes.segment(text)) {
    const shaped = pointsOf(segment).filter((point) => !shapeless.test(String.fromCodePoint(point)))
    const hasAll = (font: Font) => shaped.every(font.has)
    const now = fonts.find(({ name }) => name === runs.at(-1)?.font)
    // a figure or a full stop stays with its word, so that lines are not broken there
    const stays = now && hasAll(now) && /^[^\p{L}\s]+$/u.test(segment)
    const font = stays ? now : fonts.find(hasAll)
    if (font) put(segment, font.name)
    else for (const point of shaped) put(numbered(point), fonts[0]!.name)
  }
  return runs
}

/** Longest word that is not broken; a longer one would run over the edge of a column. */
const longestWord = 24

/** A text whose longest words may be broken (a zero-width space is where; UAX 14, class ZW). */
export const breakable = (text: string): string =>
  text.replace(new RegExp(`\\S{${longestWord}}(?=\\S)`, 'gu'), '$&\u200B')

/** Code points of a text, which are more than its letters. */
const pointsOf = (text: string): number[] => Array.from(text, (letter) => letter.codePointAt(0) ?? 0)

const numbered = (point: number): string => `[U+${point.toString(16).toUpperCase().padStart(4, '0')}]`

const bidi = bidiFactory()

/**
 * A text in lines as they are seen. The writer breaks lines by itself, but in the order in which it is given a text:
 * what runs from right to left is broken here first, where it is read.
 */
function linesOf(text: string, fonts: readonly Font[], room: Room | undefined): Word[][] {
  const { levels } = bidi.getEmbeddingLevels(text, 'ltr')
  if (!room || levels.every((level) => level === 0)) return [wordsInSeenOrder(text, levels)]
  const lines: Word[][] = []
  let from = 0
  const end = (to: number) => {
    const line = text.slice(from, to).trimEnd()
    lines.push(wordsInSeenOrder(line, levels.subarray(from, from + line.length)))
    from = to
  }
  let fitting = 0
  for (const { 0: word, index } of text.matchAll(/.+?(?:\s+|\u200B|$)/gu)) {
    const to = index + word.length
    const isTooWide = widthPt(text.slice(from, to).trimEnd(), fonts, room.sizePt) > room.widthPt
    if (isTooWide && fitting > from) end(fitting)
    fitting = to
  }
  end(text.length)
  return lines
}

const widthPt = (text: string, fonts: readonly Font[], sizePt: number): number =>
  runsOf(text, fonts).reduce(
    (sum, run) => sum + (fonts.find(({ name }) => name === run.font)?.widthEm(run.text) ?? 0) * sizePt,
    0,
  )

/** A word or a gap, with its embedding level: from right to left where that is odd. */
interface Word {
  text: string
  level: number
}

/**
 * The words of a line from left to right as they are seen (UAX 9, rule L2, on whole words: the letters within one are
 * turned when its font lays them out).
 */
function wordsInSeenOrder(text: string, levels: Uint8Array): Word[] {
  const words: Word[] = []
  for (let index = 0; index < text.length; index++) {
    const level = levels[index]!
    const letter = text[index]!
    const last = words.at(-1)
    if (last && last.level === level && /\s/.test(letter) === /\s$/.test(last.text)) last.text += letter
    else words.push({ text: letter, level })
  }
  const highest = Math.max(0, ...words.map(({ level }) => level))
  for (let level = highest; level > 0; level--)
    for (let from = 0; from < words.length; from++) {
      let to = from
      while (to < words.length && words[to]!.level >= level) to++
      if (to - from > 1) words.splice(from, to - from, ...words.slice(from, to).reverse())
      from = Math.max(from, to)
    }
  return words
}
