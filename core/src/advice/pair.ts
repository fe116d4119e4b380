import { formatVersion, type Gear, type Link, Patch, type Position, type Shelf } from '../model'

/** A socket of a thing of the shelf. */
export interface ThingPort {
  gear: string
  port: string
}

/**
 * A patch of nothing but two things of the shelf, each a box by its id, and the link between two of their sockets, with the supplies of the
 * input switched on where the output needs power.
 */
export function pairPatch(from: ThingPort, to: ThingPort, shelf: Shelf): { patch: Patch; link: Link } {
  const [one, other] = [from.gear, to.gear === from.gear ? `${to.gear}-other` : to.gear]
  const link: Link = {
    id: 'asked',
    from: { box: one, port: from.port },
    to: { box: other, port: to.port },
    pieces: [],
  }
  const output = shelf.get(from.gear)?.ports.find(({ id }) => id === from.port)
  const patch = Patch.parse({
    format: 'iron-hush/patch',
    version: formatVersion,
    name: 'two things',
    brief: {
      sources: [{ kind: 'line', id: 'any', name: 'any', levelsDbu: { quietest: 0, typical: 0, loudest: 0 } }],
      picture: { framing: 'wide', focalLengthMm: 24, sensor: 'APS-C' },
      room: { name: 'any', volumeM3: 100, reverberationS: 0.5 },
    },
    boxes: [
      { id: one, gear: from.gear },
      {
        id: other,
        gear: to.gear,
        settings: output?.needs?.length ? suppliesOnAt(shelf.get(to.gear), to.port) : {},
      },
    ],
    links: [link],
  })
  return { patch, link }
}

/** Settings that switch the supplies of a socket on. */
const suppliesOnAt = (gear: Gear | undefined, port: string): Record<string, Position> =>
  Object.fromEntries(
    (gear?.ports.find(({ id }) => id === port)?.supplies ?? []).flatMap(({ when }) =>
      when ? [[when.control, when.is[0]!]] : [],
    ),
  )
