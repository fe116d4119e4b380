import { clean, cutToName, type StreamFacts } from '../model'
import { clock } from '../units'
import { viewOf } from './riff-chunks'
import { bytesText } from './text-bytes'

/** Largest piece of text that is read. */
export const longestText = 1 << 15
const longestShown = 1000

/** Text up to the first zero, without what a database cannot hold. */
const textIn = (bytes: Uint8Array, from: number, count: number): string => {
  const part = bytes.subarray(from, from + count)
  const end = part.indexOf(0)
  return shown(bytesText(end < 0 ? part : part.subarray(0, end)))
}
const shown = (text: string): string => (clean(text).trim() ? cutToName(text, longestShown) : '')

const daySeconds = 86_400

/** The `bext` chunk of a recorder (EBU Tech 3285): description, device, date, and the time of its first sample. */
export function broadcastFacts(bytes: Uint8Array, rateHz: number): StreamFacts {
  if (bytes.length < 346) return { texts: [] }
  const frames = viewOf(bytes).getBigUint64(338, true)
  const startS = Number(frames) / rateHz
  const recordedAt = [textIn(bytes, 320, 10), textIn(bytes, 330, 8)].filter(Boolean).join(' ')
  return {
    ...(startS > 0 && startS < 2 * daySeconds && { startS, timeCode: timeOfDay(startS) }),
    ...(recordedAt && { recordedAt }),
    texts: labelled([
      ['description', textIn(bytes, 0, 256)],
      ['written by', textIn(bytes, 256, 32)],
    ]),
  }
}
const timeOfDay = (seconds: number): string =>
  `${String(Math.floor(seconds / 3600)).padStart(2, '0')}:${clock(seconds % 3600, 3).padStart(9, '0')}`

/** Elements of iXML worth showing to a person, and their names here. */
const elements = [
  ['PROJECT', 'project'],
  ['SCENE', 'scene'],
  ['TAKE', 'take'],
  ['TAPE', 'roll'],
  ['NOTE', 'note'],
  ['CIRCLED', 'circled'],
] as const

const entities: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'" }
const plainOf = (xml: string): string =>
  shown(
    xml
      .replace(/^\s*<!\[CDATA\[([\s\S]*?)\]\]>\s*$/, '$1')
      .replace(/&(#x?[\da-f]+|\w+);/gi, (whole, name: string) => {
        if (!name.startsWith('#')) return entities[name] ?? whole
        const point = /^#x/i.test(name) ? Number.parseInt(name.slice(2), 16) : Number(name.slice(1))
        return point > 0 && point <= 0x10ffff ? String.fromCodePoint(point) : ''
      }),
  )

/** The text of the first element of a name. */
const inside = (name: string, within: string): string =>
  plainOf(new RegExp(`<${name}>([^]*?)</${name}>`).exec(within)?.[1] ?? '')

/** The iXML chunk: scene, take, note, and track names. Only plain elements are read. */
export function ixmlTexts(bytes: Uint8Array): StreamFacts['texts'] {
  const xml = bytesText(bytes)
  const tracks = [...xml.matchAll(/<TRACK>([^]*?)<\/TRACK>/g)].flatMap(
    ([, track], index): [string, string][] => [
      [`track ${inside('CHANNEL_INDEX', track!) || index + 1}`, inside('NAME', track!)],
    ],
  )
  const head = xml.replace(/<TRACK_LIST>[^]*<\/TRACK_LIST>/, '')
  return labelled([
    ...elements.map(([name, label]): [string, string] => [label, inside(name, head)]),
    ...tracks.slice(0, 24),
  ])
}

/** Channel names of an iXML chunk, in file order; undefined if it names none. */
export function ixmlChannelNames(bytes: Uint8Array): string[] | undefined {
  const names: string[] = []
  let position = 0
  for (const [, track] of bytesText(bytes).matchAll(/<TRACK>([^]*?)<\/TRACK>/g)) {
    const index = Number.parseInt(inside('INTERLEAVE_INDEX', track!), 10)
    position = index > 0 ? index : position + 1
    if (position <= mostChannels) names[position - 1] = inside('NAME', track!).slice(0, longestName)
  }
  return names.some(Boolean) ? Array.from(names, (name) => name ?? '') : undefined
}
const mostChannels = 64
const longestName = 40

const labelled = (pairs: readonly (readonly [string, string])[]): StreamFacts['texts'] =>
  pairs.flatMap(([label, text]) => (text ? [{ label: label.slice(0, 40), text }] : []))
