import { type Link, type Patch, type Position, Refusal } from '../model'

/** Common parts of boxes and pieces of links. */
export interface Part {
  id: string
  gear: string
  settings: Record<string, Position>
  locked: string[]
}

/** A box or a piece of a link by its id. Throws a Refusal if there is none. */
export function partOf(patch: Patch, id: string): Part {
  const part =
    patch.boxes.find((box) => box.id === id) ??
    patch.links.flatMap((link) => link.pieces).find((piece) => piece.id === id)
  if (!part) throw notInChain(id)
  return part
}

export function withPart(patch: Patch, id: string, change: (part: Part) => Partial<Part>): Patch {
  const changed = change(partOf(patch, id))
  return {
    ...patch,
    boxes: patch.boxes.map((box) => (box.id === id ? { ...box, ...changed } : box)),
    links: patch.links.map((link) =>
      link.pieces.some((piece) => piece.id === id)
        ? {
            ...link,
            pieces: link.pieces.map((piece) => (piece.id === id ? { ...piece, ...changed } : piece)),
          }
        : link,
    ),
  }
}

export function withBox(
  patch: Patch,
  id: string,
  change: (box: Patch['boxes'][number]) => Patch['boxes'][number],
): Patch {
  return { ...patch, boxes: patch.boxes.map((box) => (box.id === id ? change(box) : box)) }
}

export const findBox = (patch: Patch, id: string) => patch.boxes.find((box) => box.id === id)

/** A link with other pieces between its ends. Throws a Refusal when it is not there. */
export function withPieces(patch: Patch, id: string, pieces: (link: Link) => Link['pieces']): Patch {
  if (!patch.links.some((link) => link.id === id)) throw notInChain(id)
  return {
    ...patch,
    links: patch.links.map((link) => (link.id === id ? { ...link, pieces: pieces(link) } : link)),
  }
}

/** Removes a splitter: links that began at it are plugged into the output; links that ended in it are disconnected. */
export const unbranched = (patch: Patch, piece: string): Patch => ({
  ...patch,
  links: patch.links
    .filter(({ joins }) => joins?.piece !== piece)
    .map((link) => (link.branch?.piece === piece ? { ...link, branch: undefined } : link)),
})

export const notInChain = (id: string): Refusal =>
  new Refusal(`This change was refused: "${id}" is no longer in the chain.`)
