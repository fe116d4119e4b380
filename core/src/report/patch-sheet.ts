import { type WiredLink, wiringFindings } from '../circuit'
import { channelsOf, type Levels, monoLosses } from '../levels'
import {
  type Link,
  type Patch,
  positionName,
  type Shelf,
  shelfFor,
  partNameOf,
  endOf,
  gearOf,
} from '../model'
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
  /** Findings that are at least degraded, worst first. */
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
  const recorded = channelsOf(levels)
  const lost = monoLosses(recorded).map(
    ({ boxName, tracks, source }) =>
      `${boxName}: summed to mono, ${source} cancels between ${tracks.join(' and ')}.`,
  )
  const wrong = wiringFindings(wiring)
    .filter(({ severity }) => severity !== 'note')
    .map((finding) => {
      const { what, remedy } = circuitWords(finding)
      return `${what} ${remedy}`
    })
  return {
    title: patch.name,
    note: patch.note,
    plugs: plugsOf(patch, shelf),
    settings: settingsOf(patch, shelf),
    channels: recorded.map(({ name, holds }) => ({
      name,
      holds: holds
        .map(
          ({ source, by, sign, spillDb, behindDb }) =>
            `${sign < 0 ? '\u2212 ' : ''}${spillDb === undefined ? '' : 'spill of '}${source} by ${by}${behindDb === undefined ? '' : `, ${behindDb.toFixed(0)} dB softer`}`,
        )
        .join(' + '),
    })),
    warnings: [...new Set([...wrong, ...lost])],
    cautions: cautionsOf(patch, commonShelf, wiring).map(cautionWords),
  }
}

/** Every link from plug to plug, with what lies between. */
function plugsOf({ boxes, links }: Patch, shelf: Shelf): PatchSheet['plugs'] {
  const end = (at: Link['from']) => {
    const { boxName, port } = endOf({ boxes }, shelf, at)
    return `${boxName}: ${port.name}`
  }
  const pieceName = (id: string) => {
    const piece = links.flatMap(({ pieces }) => pieces).find((each) => each.id === id)
    return piece ? gearOf(shelf, piece.gear).name : id
  }
  return links.map(({ from, to, pieces, branch, joins }) => {
    const through = [
      ...(branch ? [`other end of ${pieceName(branch.piece)}`] : []),
      ...pieces.map(
        ({ gear, reversed }) => `${gearOf(shelf, gear).name}${reversed ? ' (turned round)' : ''}`,
      ),
      ...(joins ? [`other socket of ${pieceName(joins.piece)}`] : []),
    ]
    return { from: end(from), through: through.join(', '), to: end(to) }
  })
}

/** Every box and piece with controls, each as it is set. */
function settingsOf({ boxes, links }: Patch, shelf: Shelf): PatchSheet['settings'] {
  const parts = [
    ...boxes.map((box) => ({ ...box, name: partNameOf(box, shelf) })),
    ...links.flatMap(({ pieces }) =>
      pieces.map((piece) => ({ ...piece, name: gearOf(shelf, piece.gear).name })),
    ),
  ]
  return parts.flatMap(({ gear, settings, name }) => {
    const set = gearOf(shelf, gear).controls.map(
      (control) => `${control.name} ${positionName(control, settings[control.id] ?? control.initial)}`,
    )
    return set.length ? [{ box: name, set }] : []
  })
}
