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

/**
 * A text as it is set: every letter in the first font that has it, letters that no font has by their number, so that
 * none vanishes; what runs from right to left in the order in which it is seen.
 */
export function setText(text: string, fonts: readonly Font[]): SetRun[] {
  const runs: SetRun[] = []
  const put = (part: string, font: string) => {
    const last = runs.at(-1)
    if (last?.font === font) last.text += part
    else runs.push({ text: part, font })
  }
  for (const { segment } of graphemes.segment(breakable(inSeenOrder(text)))) {
    const shaped = pointsOf(segment).filter((point) => !shapeless.test(String.fromCodePoint(point)))
    const hasAll = (font: Font) => shaped.every(font.has)
    const now = fonts.find(({ name }) => name === runs.at(-1)?.font)
    // a figure or a full stop stays with the word it stands in, so that lines are not broken there
    const stays = now && hasAll(now) && /^[^\p{L}\s]+$/u.test(segment)
    const font = stays ? now : fonts.find(hasAll)
    if (font) put(segment, font.name)
    else for (const point of shaped) put(numbered(point), fonts[0]!.name)
  }
  return runs
}

/** Letters after which a word that has no gap may be broken all the same: it would run over the edge of a column. */
const longestWord = 24

/** A text whose longest words may be broken (a zero-width space is where; UAX 14, class ZW). */
export const breakable = (text: string): string =>
  text.replace(new RegExp(`\\S{${longestWord}}(?=\\S)`, 'gu'), '$&\u200B')

/** Code points of a text, which are more than its letters. */
const pointsOf = (text: string): number[] => Array.from(text, (letter) => letter.codePointAt(0) ?? 0)

const numbered = (point: number): string => `[U+${point.toString(16).toUpperCase().padStart(4, '0')}]`

const bidi = bidiFactory()

/**
 * The words of a line from left to right as they are seen (UAX 9, rule L2, on whole words: the letters within one are
 * turned when its font lays them out).
 */
export function inSeenOrder(text: string): string {
  const { levels } = bidi.getEmbeddingLevels(text, 'ltr')
  const words: { text: string; level: number }[] = []
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
  return words.map((word) => word.text).join('')
}
