import type { Contact, Shape } from '../model'
import { fits, type Half, type Mating, matings } from './contacts'
import { type PluggedLink, type Tap, tapsOf } from './link'
import { inputNode, inputParts, outputNode, outputParts, pieceParts, terminalNode } from './link-parts'
import type { Netlist, NodeName, Part } from './netlist'

/** One way the plugs of a link may touch: a mating for each joint, from the source on. */
export interface Variant {
  netlist: Netlist
  matings: { at: string; pairs: Mating }[]
}

/** A mismatch of plugs in a row: they do not go into each other. */
export interface Misfit {
  at: string
  one: Half
  other: Half
}

/** Joints of a link, or the first that does not go together. */
function joints(link: PluggedLink): { list: Joint[] } | { misfit: Misfit } {
  const list: Joint[] = []
  const taps = tapsOf(link)
  type Side = { half: Half; node: (contact: Contact) => NodeName; name: string }
  const behind = (tap: Tap): Side | undefined => {
    if (tap === 'output') return { half: link.output, node: outputNode, name: link.output.name }
    const piece = link.pieces[tap.piece]
    const half = piece?.ends[tap.end]
    return (
      half && {
        half,
        node: (contact) => terminalNode(tap.piece, { end: tap.end, contact }),
        name: piece.name,
      }
    )
  }
  const join = (tap: Tap, half: Half, node: Side['node'], name: string): Misfit | undefined => {
    const before = behind(tap)
    if (!before) return { at: `a further end for ${name}`, one: link.output, other: half }
    const at = `${before.name} into ${name}`
    if (!fits(before.half, half)) return { at, one: before.half, other: half }
    const plugFirst = before.half.gender === 'plug'
    list.push({
      at,
      plug: plugFirst ? before.half.shape : half.shape,
      socket: plugFirst ? half.shape : before.half.shape,
      plugNode: plugFirst ? before.node : node,
      socketNode: plugFirst ? node : before.node,
    })
    return undefined
  }
  for (const [index, piece] of link.pieces.entries()) {
    const node = (contact: Contact) => terminalNode(index, { end: 0, contact })
    const misfit = join(taps.pieces[index]!, piece.ends[0]!, node, piece.name)
    if (misfit) return { misfit }
  }
  for (const [index, input] of link.inputs.entries()) {
    const node = (contact: Contact) => inputNode(index, contact)
    const misfit = join(taps.inputs[index]!, input, node, input.name)
    if (misfit) return { misfit }
  }
  return { list }
}

interface Joint {
  at: string
  plug: Shape
  socket: Shape
  plugNode: (contact: Contact) => NodeName
  socketNode: (contact: Contact) => NodeName
}

/** Every way the link may touch, as networks; or the plugs that do not fit. */
export function variantsOf(link: PluggedLink): { variants: Variant[] } | { misfit: Misfit } {
  const found = joints(link)
  if ('misfit' in found) return found
  const fixed = [
    ...outputParts(link.output),
    ...link.pieces.flatMap(pieceParts),
    ...link.inputs.flatMap(inputParts),
  ]
  let variants: Variant[] = [{ netlist: fixed, matings: [] }]
  for (const joint of found.list)
    variants = variants.flatMap((variant) =>
      matings(joint.plug, joint.socket).map((pairs) => ({
        matings: [...variant.matings, { at: joint.at, pairs }],
        netlist: [
          ...variant.netlist,
          ...pairs.map(([plug, socket], index): Part => ({
            kind: 'wire',
            id: `${joint.at} ${index}`,
            from: joint.plugNode(plug),
            to: joint.socketNode(socket),
          })),
        ],
      })),
    )
  return { variants }
}
