const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' })

/**
 * A short form of a name: cut after a number of letters as a reader counts them, never inside an emoji, and
 * kept apart from the text beside it where it runs from right to left (Unicode Bidirectional Algorithm, UAX 9, 2.4).
 */
export function shortName(name: string, most = 26): string {
  const letters = [...graphemes.segment(name)].map(({ segment }) => segment)
  return isolated(
    letters.length <= most
      ? name
      : `${letters
          .slice(0, most - 1)
          .join('')
          .trimEnd()}\u2026`,
  )
}

/** A name inside a sentence that may run the other way. */
export const isolated = (name: string): string => (leftToRight.test(name) ? name : `\u2068${name}\u2069`)
const leftToRight =
  /^[\p{Script=Latin}\p{Script=Greek}\p{Script=Cyrillic}\p{Script=Common}\p{Script=Inherited}]*$/u

/** A name in which a figure stays on one line with its unit. */
export const withUnits = (name: string): string => name.replace(/(\d) (?=dB|m\b)/g, '$1\u00A0')
