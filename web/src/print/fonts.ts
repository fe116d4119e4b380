import type { Font as FontkitFont, FontCollection as FontkitCollection } from 'fontkit'
import arabic from '@fontsource/noto-sans-arabic/files/noto-sans-arabic-arabic-400-normal.woff?url'
import devanagari from '@fontsource/noto-sans/files/noto-sans-devanagari-400-normal.woff?url'
import emoji from '@fontsource/noto-emoji/files/noto-emoji-emoji-400-normal.woff?url'
import hebrew from '@fontsource/noto-sans-hebrew/files/noto-sans-hebrew-hebrew-400-normal.woff?url'
import japanese from '@fontsource/sawarabi-gothic/files/sawarabi-gothic-japanese-400-normal.woff?url'
import korean from '@fontsource/gowun-dodum/files/gowun-dodum-korean-400-normal.woff?url'
import chinese from '@fontsource/zcool-xiaowei/files/zcool-xiaowei-chinese-simplified-400-normal.woff?url'
import thai from '@fontsource/noto-sans-thai/files/noto-sans-thai-thai-400-normal.woff?url'

/** A font that a sheet can be set in, which letters it has, and how wide it sets a text. */
export interface Font {
  name: string
  has: (codePoint: number) => boolean
  /** Of a text, in letters' heights (em). */
  widthEm: (text: string) => number
}

/** A font of a file that was read (fontkit). */
export function fontOf(name: string, font: FontkitFont | FontkitCollection): Font {
  if (!('layout' in font)) throw new Error(`${name} holds several fonts`)
  return {
    name,
    has: (codePoint) => font.hasGlyphForCodePoint(codePoint),
    widthEm: (text) => font.layout(text).advanceWidth / font.unitsPerEm,
  }
}

/** The font of every sheet: Latin, Greek and Cyrillic. */
export const plainFont = 'Roboto'

/** Further fonts, each fetched when a text has letters of its script. Han is looked for in the Japanese one first. */
export const furtherFonts: readonly { name: string; script: RegExp; url: string }[] = [
  { name: 'Arabic', script: /\p{Script=Arabic}/u, url: arabic },
  { name: 'Hebrew', script: /\p{Script=Hebrew}/u, url: hebrew },
  { name: 'Devanagari', script: /\p{Script=Devanagari}/u, url: devanagari },
  { name: 'Thai', script: /\p{Script=Thai}/u, url: thai },
  { name: 'Japanese', script: /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}]/u, url: japanese },
  { name: 'Chinese', script: /\p{Script=Han}/u, url: chinese },
  { name: 'Korean', script: /\p{Script=Hangul}/u, url: korean },
  { name: 'Emoji', script: /\p{Extended_Pictographic}|\p{Regional_Indicator}/u, url: emoji },
]
