import { z } from 'zod'

/**
 * A text as it is stored: composed (Unicode NFC), so that what reads alike is alike; without control characters but tab
 * and line feed, and without halves of letters (lone surrogates), which neither JSON in UTF-8 nor the database can hold.
 */
export const clean = (text: string): string =>
  // oxlint-disable-next-line no-control-regex -- control characters are what this is about
  text.replace(/[\u0000-\u0008\u000B-\u001F\u007F-\u009F]|\p{Surrogate}/gu, '').normalize('NFC')

/** A text with a maximum length. Control characters are removed, not refused: nobody typed them. */
export const text = (most: number) => z.string().overwrite(clean).max(most)

/** A text of one line. */
export const line = (most: number) =>
  z
    .string()
    .overwrite((value) => clean(value).replace(/[\t\n]+/g, ' '))
    .trim()
    .max(most)

const longestName = 120

/** A short name a person reads. */
export const Name = line(longestName).min(1)

/** A note. Long enough for a page, short enough to store and show. */
export const Note = text(4000)

const graphemes = new Intl.Segmenter('en', { granularity: 'grapheme' })

/** A name that is not too long, cut between letters as a reader counts them: half an emoji is no letter. */
export function cutToName(name: string, most = longestName): string {
  const whole = clean(name).trim()
  if (whole.length <= most) return whole || 'unnamed'
  let kept = ''
  for (const { segment } of graphemes.segment(whole)) {
    if (kept.length + segment.length > most) break
    kept += segment
  }
  return kept.trim() || 'unnamed'
}

/** The same name where nothing else has it, else with the least number behind it that nothing has: "Bench", "Bench 2". */
export function freeName(name: string, taken: Iterable<string>): string {
  const others = new Set(taken)
  if (!others.has(name)) return name
  let number = 2
  const numbered = () => `${cutToName(name, longestName - 1 - String(number).length)} ${number}`
  while (others.has(numbered())) number++
  return numbered()
}

/** Moments that a calendar of the application holds: from the first recordings to some time from now. */
const [firstYear, lastYear] = [1877, 2200]
const ofOurTime = (iso: string): boolean => {
  const year = Number(iso.slice(0, 4))
  return year >= firstYear && year <= lastYear
}

/** A moment in UTC (ISO 8601), to the millisecond: however fine it was written, the same moment is the same text. */
export const Moment = z.iso
  .datetime()
  .refine(ofOurTime, `give a moment between the years ${firstYear} and ${lastYear}`)
  .overwrite((iso) => (Number.isNaN(Date.parse(iso)) ? iso : new Date(iso).toISOString()))

/** A day (ISO 8601). */
export const Day = z.iso.date().refine(ofOurTime, `give a day between the years ${firstYear} and ${lastYear}`)

/** The largest whole number that a column of the database holds. */
export const largestInteger = 2 ** 31 - 1

/** An identifier inside a document: lower case, figures, hyphens. */
export const Id = z
  .string()
  .min(1)
  .max(64)
  .regex(/^[a-z0-9][a-z0-9-]*$/, 'use lower-case letters, figures and hyphens')

/** An identifier made by a client for a stored thing (UUID, version 7 by our own clients). */
export const Uuid = z.uuid().overwrite((id) => id.toLowerCase())

/** Where a file's description is: editors look there while it is written. */
export const SchemaLine = z.string().max(400).optional().describe('where this description is; for editors')
