import { formatVersion, type Link, Patch } from '@iron-hush/core/model'

type PortName = readonly [gear: string, port: string]

/** A patch of nothing but two things of the shelf, and the link between two of their sockets. */
export function pairPatch(from: PortName, to: PortName): { patch: Patch; link: Link } {
  const link: Link = {
    id: 'asked',
    from: { box: 'one', port: from[1] },
    to: { box: 'other', port: to[1] },
    pieces: [],
  }
  const patch = Patch.parse({
    format: 'iron-hush/patch',
    version: formatVersion,
    name: 'Which lead?',
    brief: {
      sources: [{ kind: 'line', id: 'any', name: 'any', levelsDbu: { quietest: 0, typical: 0, loudest: 0 } }],
      picture: { framing: 'wide', focalLengthMm: 24, sensor: 'APS-C' },
      room: { name: 'any', volumeM3: 100, reverberationS: 0.5 },
    },
    boxes: [
      { id: 'one', gear: from[0] },
      { id: 'other', gear: to[0] },
    ],
    links: [link],
  })
  return { patch, link }
}
