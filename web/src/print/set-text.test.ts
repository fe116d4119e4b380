// @vitest-environment node
import { readFileSync } from 'node:fs'
import path from 'node:path'
import { create } from 'fontkit'
import fonts from 'pdfmake/build/vfs_fonts'
import { describe, expect, it } from 'vitest'
import { type Font, fontOf, furtherFonts, plainFont } from './fonts'
import { columnWidthsPt } from './set-page'
import { type Room, setText } from './set-text'

const root = path.resolve(import.meta.dirname, '../../..')
const read = (name: string, bytes: Buffer): Font => fontOf(name, create(bytes))
const all = [
  read(plainFont, Buffer.from(fonts['Roboto-Regular.ttf']!, 'base64')),
  ...furtherFonts.map(({ name, url }) => read(name, readFileSync(path.join(root, url.replace(/\?.*/, ''))))),
]
const fontsOf = (text: string) => setText(text, all).map(({ text: part, font }) => `${font}: ${part}`)

describe('a text on a sheet', () => {
  it.each([
    ['Recorder 2, \u221224 dB', 'Roboto'],
    ['\u041C\u0438\u043A\u0440\u043E\u0444\u043E\u043D', 'Roboto'],
    ['\u039C\u03B9\u03BA\u03C1\u03CC\u03C6\u03C9\u03BD\u03BF', 'Roboto'],
    ['\u062C\u0631\u0633', 'Arabic'],
    ['\u05E4\u05E2\u05DE\u05D5\u05DF', 'Hebrew'],
    ['\u0930\u093F\u0915\u0949\u0930\u094D\u0921\u0930', 'Devanagari'],
    ['\u0E23\u0E30\u0E06\u0E31\u0E07', 'Thai'],
    ['\u9418\u306E\u5DE5\u5834', 'Japanese'],
    ['\u949F\u94F8', 'Chinese'],
    ['\uC885\uC18C\uB9AC', 'Korean'],
    ['\u{1F514}\u{1F525}', 'Emoji'],
  ])('%s is set in letters that there are', (text, font) => {
    expect(setText(text, all)).toEqual([{ text, font }])
  })
  it('takes a font for each script, and a word whole', () => {
    expect(fontsOf('Boom \u9418 2 in')).toEqual(['Roboto: Boom ', 'Japanese: \u9418', 'Roboto:  2 in'])
  })
  it('loses nothing: what no font has stands there by its number', () => {
    expect(fontsOf('a \u{1780}')).toEqual(['Roboto: a [U+1780]'])
  })
  it('breaks a word that no column can hold', () => {
    expect(setText('Aufnahmeger\u00E4tehalterungsklemme', all)[0]!.text).toBe(
      'Aufnahmeger\u00E4tehalterungs\u200Bklemme',
    )
  })
  it('keeps an emoji of several parts together', () => {
    expect(fontsOf('\u{1F468}\u200D\u{1F527} x')).toEqual(['Emoji: \u{1F468}\u200D\u{1F527}', 'Roboto:  x'])
  })
})

describe('words from right to left', () => {
  const [one, two, three] = ['\u05D0\u05D1', '\u05D2\u05D3', '\u05D4\u05D5']
  /** As it is seen from left to right, a line each. */
  const seen = (text: string, room?: Room) =>
    setText(text, all, room)
      .map((run) => run.text)
      .join('')
  it('stand in the order in which they are seen, figures among them as they are read', () => {
    expect(seen(`${one} ${two} ${three}`)).toBe(`${three} ${two} ${one}`)
    expect(seen(`mic ${one} ${two} in`)).toBe(`mic ${two} ${one} in`)
    expect(seen(`${one} 12 ${two}`)).toBe(`${two} 12 ${one}`)
  })
  it('have their commas and brackets on their side, also where their font has none', () => {
    expect(seen(`${one}, ${two}`)).toBe(`${two} ,${one}`)
    expect(seen(`${one} (${two}) ${three}`)).toBe(`${three} (${two}) ${one}`)
    expect(setText(`${one}, ${two}`, all).at(-1)).toEqual({ text: one, font: 'Hebrew' })
  })
  it('are broken into lines as they are read, and each line is turned by itself', () => {
    const wide = (text: string) => all.find(({ name }) => name === 'Hebrew')!.widthEm(text) * 10
    const roomForTwo = wide(`${one}${two}`) + 6
    expect(seen(`${one} ${two} ${three}`, { widthPt: roomForTwo, sizePt: 10 })).toBe(
      `${two} ${one}\n${three}`,
    )
    expect(seen(`${one} ${two} ${three}`, { widthPt: 500, sizePt: 10 })).toBe(`${three} ${two} ${one}`)
    // one word alone is wider than there is room: it stands there all the same
    expect(seen(`${one} ${two}`, { widthPt: 1, sizePt: 10 })).toBe(`${one}\n${two}`)
    expect(seen(`${one}\n${two} ${three}`)).toBe(`${one}\n${three} ${two}`)
  })
  it('leave what runs from left to right as it is, and its lines to the writer', () => {
    expect(seen('Boom, 6 m: 12 dB', { widthPt: 20, sizePt: 10 })).toBe('Boom, 6 m: 12 dB')
  })
})

describe('columns of a table', () => {
  it('share the page as the writer lays them out, the gutters left out', () => {
    expect(columnWidthsPt(['*', '*', '*'], 332)).toEqual([100, 100, 100])
    expect(columnWidthsPt(['25%', '*'], 400)).toEqual([92, 292])
  })
})
