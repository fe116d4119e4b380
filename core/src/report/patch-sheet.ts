import { type WiredLink, wiringFindings } from '../circuit'
import { channelsOf, type Levels, monoLosses } from '../levels'
import { type Link, type Patch, positionName, type Shelf, shelfFor } from '../model'
import { cautionWords, circuitWords } from '../words'
import { cautionsOf } from './cautions'

/** A patch on one page: what plugs where, how everything is set, what lands where, what to mind. */
export interface PatchSheet {
  title: string
  note: string
  /** From the sources on; a plug on a splitter names it. */
  plugs: { from: string; through: string; to: string }[]
  settings: { box: string; set: string[] }[]
  channels: { name: string; holds: string }[]
  /** What is wrong at least to a degree, worst first. */
  warnings: string[]
  cautions: string[]
}

/** Writes a patch out for the cage of the camera. */
export function patchSheet(
  patch: Patch,
  commonShelf: Shelf,
  wiring: readonly WiredLink[],
  levels: Levels,
): PatchSheet {
  const shelf = shelfFor(patch, commonShelf)
  const end = ({ box: id, port }: Link['from']) => {
    const box = patch.boxes.find((each) => each.id === id)!
    const gear = shelf.get(box.gear)!
    return { name: box.name ?? gear.name, port: gear.ports.find((each) => each.id === port)!.name }
  }
  const pieceName = (id: string) =>
    patch.links
      .flatMap(({ pieces }) => pieces)
      .filter((piece) => piece.id === id)
      .map(({ gear }) => shelf.get(gear)!.name)[0] ?? id
  const plugs = patch.links.map((link) => {
    const [from, to] = [end(link.from), end(link.to)]
    const pieces = link.pieces.map(
      ({ gear, reversed }) => `${shelf.get(gear)!.name}${reversed ? ' (turned round)' : ''}`,
    )
    if (link.branch) pieces.unshift(`other end of ${pieceName(link.branch.piece)}`)
    if (link.joins) pieces.push(`other socket of ${pieceName(link.joins.piece)}`)
    return {
      from: `${from.name}: ${from.port}`,
      through: pieces.join(', '),
      to: `${to.name}: ${to.port}`,
    }
  })
  const parts = [
    ...patch.boxes.map((box) => ({ part: box, name: box.name ?? shelf.get(box.gear)!.name })),
    ...patch.links.flatMap(({ pieces }) =>
      pieces.map((piece) => ({ part: piece, name: shelf.get(piece.gear)!.name })),
    ),
  ]
  const settings = parts.flatMap(({ part, name }) => {
    const { controls } = shelf.get(part.gear)!
    return controls.length
      ? [
          {
            box: name,
            set: controls.map(
              (control) =>
                `${control.name} ${positionName(control, part.settings[control.id] ?? control.initial)}`,
            ),
          },
        ]
      : []
  })
  const recorded = channelsOf(levels)
  const lost = monoLosses(recorded).map(
    ({ boxName, tracks, source }) =>
      `${boxName}: summed to mono, ${source} cancels between ${tracks.join(' and ')}.`,
  )
  const said = new Set<string>()
  return {
    title: patch.name,
    note: patch.note,
    plugs,
    settings,
    channels: recorded.map(({ name, holds }) => ({
      name,
      holds: holds
        .map(({ source, by, sign }) => `${sign < 0 ? '\u2212 ' : ''}${source} by ${by}`)
        .join(' + '),
    })),
    warnings: [
      ...wiringFindings(wiring)
        .filter(({ severity }) => severity !== 'note')
        .flatMap((finding) => {
          const { what, remedy } = circuitWords(finding)
          return said.has(what) ? [] : (said.add(what), [`${what} ${remedy}`])
        }),
      ...lost,
    ],
    cautions: cautionsOf(patch, commonShelf, wiring).map(cautionWords),
  }
}
