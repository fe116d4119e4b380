import { suppliesPhantom, type WiredLink } from '../circuit'
import type { PreflightItem } from '../findings'
import type { Run } from '../levels'
import {
  partNameOf,
  type Gear,
  gearOf,
  idleControls,
  type Patch,
  piecesOf,
  positionName,
  type Shelf,
  shelfFor,
} from '../model'
import { radioLinksOf } from '../radio'

/** Checks before the first take, from the present chain: from the sources towards the recordings. */
export function preflightOf(
  patch: Patch,
  commonShelf: Shelf,
  runs: readonly Run[],
  wiring: readonly WiredLink[],
): PreflightItem[] {
  const shelf = shelfFor(patch, commonShelf)
  const alive = runs.filter(({ stop }) => !stop)
  const recorded = alive.filter(({ end }) => end.kind === 'recording')
  const recorders = recordersOf(recorded)
  const speech = recorded.some(({ source }) => source.kind === 'speech')
  const heardAt = alive.filter(({ end }) => end.kind === 'listen').map(({ end }) => end.boxName)
  const items: [wanted: boolean, item: PreflightItem][] = [
    [suppliesPhantom(wiring), { kind: 'phantom power' }],
    [recorders.length > 0, { kind: 'cards', recorders }],
    [recorders.length > 0, { kind: 'meters', recorders, speech }],
    [true, { kind: 'listen', boxes: [...new Set(heardAt)] }],
    [recorders.length > 0, { kind: 'start', recorders }],
    [recorded.some(({ entry }) => isMicrophone(patch, entry.part)), { kind: 'consent' }],
  ]
  return [
    ...radios(patch, shelf),
    ...switches(patch, shelf, runs),
    ...ownLevels(recorded),
    ...items.flatMap(([wanted, item]) => (wanted ? [item] : [])),
  ]
}

const everyTime: ReadonlySet<PreflightItem['kind']> = new Set(['radio', 'own level', 'meters', 'start'])
/** Checks before every take: the rest stays as it was left. */
export const isForEveryTake = ({ kind }: PreflightItem): boolean => everyTime.has(kind)

/** Boxes that record, in the order in which they are started: the camera last, for the clap is in its picture. */
function recordersOf(recorded: readonly Run[]): string[] {
  const isCamera = ({ end }: Run) => Number(end.gearKind === 'camera')
  const ordered = [...recorded].sort((one, other) => isCamera(one) - isCamera(other))
  return [...new Set(ordered.map(({ end }) => end.boxName))]
}

const radios = (patch: Patch, shelf: Shelf): PreflightItem[] =>
  radioLinksOf(patch, shelf).map(({ sender, receiver }) => ({
    kind: 'radio',
    sender: sender.name,
    receiver: receiver.name,
    channel: channelOf(patch, shelf, sender.box),
  }))

/** The channel that a set is switched to; undefined where there is one alone. */
function channelOf(patch: Patch, shelf: Shelf, id: string): string | undefined {
  const box = patch.boxes.find((each) => each.id === id)
  const gear = box && gearOf(shelf, box.gear)
  const carrier = gear?.radio?.carrierMhz
  if (!box || !gear || typeof carrier !== 'object') return undefined
  const control = gear.controls.find((each) => each.id === carrier.control)
  return control && positionName(control, box.settings[control.id] ?? control.initial)
}

/** The switches of everything that the sound passes; a desk is its operator's. */
function switches(patch: Patch, shelf: Shelf, runs: readonly Run[]): PreflightItem[] {
  const passed = new Set(runs.flatMap(({ points }) => points.map(({ part }) => part)))
  const channelControl = (gear: Gear) =>
    typeof gear.radio?.carrierMhz === 'object' ? gear.radio.carrierMhz.control : undefined
  const item = (
    name: string,
    gear: Gear,
    settings: Patch['boxes'][number]['settings'],
    idle: ReadonlySet<string> = new Set(),
  ): PreflightItem[] => {
    const set = gear.controls.filter(
      ({ kind, id }) => kind === 'switch' && id !== channelControl(gear) && !idle.has(id),
    )
    return set.length === 0 || gear.kind === 'desk'
      ? []
      : [
          {
            kind: 'switches',
            box: name,
            switches: set.map((control) => ({
              name: control.name,
              position: positionName(control, settings[control.id] ?? control.initial),
            })),
          },
        ]
  }
  return [
    ...patch.boxes
      .filter(({ id }) => passed.has(id))
      .flatMap((box) => {
        const gear = gearOf(shelf, box.gear)
        return item(partNameOf(box, shelf), gear, box.settings, idleControls(patch, box.id, gear))
      }),
    ...piecesOf(patch).flatMap((piece) => {
      const gear = gearOf(shelf, piece.gear)
      return item(gear.name, gear, piece.settings)
    }),
  ]
}

/** Boxes whose automatic gain acts on a recording. */
const ownLevels = (recorded: readonly Run[]): PreflightItem[] =>
  [
    ...new Set(
      recorded.flatMap(({ points }) => points.flatMap((point) => (point.automatic ? [point.partName] : []))),
    ),
  ].map((box) => ({ kind: 'own level', box }))

/** Whether a box picks sound up itself; a desk and a player are fed with it. */
const isMicrophone = ({ boxes }: Patch, part: string): boolean =>
  boxes.some(({ id, source }) => id === part && source === undefined)
