import {
  betweenKinds,
  boxOf,
  type Gear,
  gearOf,
  isPiece,
  type Patch,
  type Shelf,
  shelfFor,
  thingsOf,
} from '../model'
import { type Chain, ChainBuilder, pluggable } from './chains'
import { type Begun, fedInto, straight, between } from './joining'
import { balanced, type Planned } from './planned'
import { harmOf } from './worth'

/** The boxes between the microphones and the camera. */
export type KitWay =
  | { kind: 'as it is' }
  | { kind: 'straight in' }
  | { kind: 'between'; thing: string }
  | { kind: 'alone'; thing: string }

/** One way to use a kit, with its powers on and its controls at their best positions. */
export interface KitOption {
  way: KitWay
  planned: Planned
}

/**
 * The ways to use a kit for one scene, side by side: as it stands, straight into the camera, by each preamplifier, mixer or
 * recorder that is owned or in the chain, and each such recorder without the camera. Microphones, radios and places stay.
 * Every one is joined by leads of the shelf, powered and balanced; what cannot be joined without harm is left out.
 *
 * @param progress calls back with the share that was tried, and with each as it is found
 * @returns all of them; undefined when cancelled
 */
export function kitOptions(
  patch: Patch,
  commonShelf: Shelf,
  {
    cancelled = () => false,
    progress,
  }: { cancelled?: () => boolean; progress?: (share: number, found?: KitOption) => void } = {},
): KitOption[] | undefined {
  const tries = triesOf(patch, commonShelf)
  const found: KitOption[] = []
  for (const [at, { way, chains }] of tries.entries()) {
    if (cancelled()) return undefined
    const [best] = chains()
      .flatMap((chain) => balanced(chain, commonShelf, false) ?? [])
      .sort(
        (one, other) => one.dead - other.dead || harmOf(one) - harmOf(other) || other.worstDb - one.worstDb,
      )
    const option = best && { way, planned: best }
    if (option) found.push(option)
    progress?.((at + 1) / tries.length, option)
  }
  return found
}

interface Try {
  way: KitWay
  chains: () => Chain[]
}

function triesOf(patch: Patch, commonShelf: Shelf): Try[] {
  const asItIs: Try = { way: { kind: 'as it is' }, chains: () => [{ patch, missing: [], through: [] }] }
  const shelf = shelfFor(patch, commonShelf)
  const begun = barePart(patch, commonShelf)
  if (!begun) return [asItIs]
  const camera = gearOf(shelf, boxOf(patch, begun.camera).gear)
  const used = new Set(patch.boxes.map(({ gear }) => gear))
  const things = thingsOf(shelf).filter(
    (thing) => betweenKinds.has(thing.kind) && !isPiece(thing) && (thing.owned > 0 || used.has(thing.id)),
  )
  return [
    asItIs,
    { way: { kind: 'straight in' }, chains: () => straight(begun, camera) },
    ...things.map((thing): Try => ({
      way: { kind: 'between', thing: thing.name },
      chains: () => between([thing], begun, camera),
    })),
    ...things
      .filter((thing) => records(thing) && pluggable(thing, 'in').length >= begun.outputs.length)
      .map((thing): Try => ({
        way: { kind: 'alone', thing: thing.name },
        chains: () => {
          const { fed } = fedInto(thing, begun)
          return fed ? [alone(fed.done())] : []
        },
      })),
  ]
}

const records = ({ strips }: Gear): boolean =>
  strips.some(({ stages }) => stages.some(({ kind }) => kind === 'recording'))

/** Only the recorder counts; the camera films without its own sound. */
const alone = (chain: Chain): Chain => ({
  ...chain,
  patch: { ...chain.patch, plan: { ...chain.patch.plan, counts: 'recorder first' } },
})

/** The scene with everything between taken out: what feeds it, and the camera. Undefined where no camera is fed. */
function barePart(patch: Patch, commonShelf: Shelf): Begun | undefined {
  const shelf = shelfFor(patch, commonShelf)
  const kindOf = (box: string) => gearOf(shelf, boxOf(patch, box).gear).kind
  const cameras = patch.boxes.filter(({ id }) => kindOf(id) === 'camera')
  const camera = cameras.find(({ id }) => patch.links.some(({ to }) => to.box === id)) ?? cameras[0]
  if (!camera) return undefined
  const isOut = ({ id }: Patch['boxes'][number]) =>
    betweenKinds.has(kindOf(id)) ||
    kindOf(id) === 'headphones' ||
    (kindOf(id) === 'camera' && id !== camera.id)
  const kept = new Set(patch.boxes.filter((box) => !isOut(box)).map(({ id }) => id))
  const outputs = patch.links.flatMap(({ from, to }) =>
    kept.has(from.box) && (!kept.has(to.box) || to.box === camera.id) ? [from] : [],
  )
  const bare: Patch = {
    ...patch,
    boxes: patch.boxes.filter(({ id }) => kept.has(id)),
    links: patch.links.filter(
      ({ from, to }) => kept.has(from.box) && kept.has(to.box) && to.box !== camera.id,
    ),
  }
  const ports = [...new Map(outputs.map((each) => [`${each.box}.${each.port}`, each])).values()]
  // boxes stand apart: a cable joins them, not plug in socket
  return { builder: new ChainBuilder(bare, commonShelf, bare), camera: camera.id, outputs: ports, by: 'lead' }
}
