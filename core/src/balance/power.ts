import { pluggedLink, reportOf, starves } from '../circuit'
import { type Reason, reason } from '../findings'
import { type Patch, type Shelf, shelfFor, boxOf, gearOf, linkOf, partNameOf } from '../model'

/** A patch with the supplies on that its microphones want, and a reason for each that was switched. */
export interface Powered {
  patch: Patch
  reasons: Reason[]
}

/**
 * Switches on what feeds a thing that gets no power: the first position of a supply's switch that feeds it, unless the
 * switch is locked or the supply would harm something.
 */
export function suppliesOn(patch: Patch, commonShelf: Shelf): Powered {
  let powered: Powered = { patch, reasons: [] }
  for (const { id } of patch.links) powered = suppliedOver(powered, id, commonShelf)
  return powered
}

/** Whether something gets no power even with everything switched on. */
export function isUnfed(patch: Patch, commonShelf: Shelf): boolean {
  const { patch: powered } = suppliesOn(patch, commonShelf)
  return powered.links.some(({ id }) => isStarved(powered, id, commonShelf))
}

function suppliedOver({ patch, reasons }: Powered, linkId: string, commonShelf: Shelf): Powered {
  const link = linkOf(patch, linkId)
  const plugged = pluggedLink(patch, link, commonShelf)
  const same = { patch, reasons }
  if (!plugged?.output.needs?.length || !isStarved(patch, linkId, commonShelf)) return same
  const shelf = shelfFor(patch, commonShelf)
  const box = boxOf(patch, link.to.box)
  const gear = gearOf(shelf, box.gear)
  const supplies = gear.ports.find(({ id }) => id === link.to.port)?.supplies ?? []
  for (const { name, when } of supplies) {
    const control = gear.controls.find(({ id }) => id === when?.control)
    if (!when || !control || box.locked.includes(when.control)) continue
    for (const position of when.is) {
      const next: Patch = {
        ...patch,
        boxes: patch.boxes.map((each) =>
          each.id === box.id ? { ...each, settings: { ...each.settings, [when.control]: position } } : each,
        ),
      }
      if (isStarved(next, linkId, commonShelf) || harms(patch, next, commonShelf)) continue
      return {
        patch: next,
        reasons: withPowered(
          reasons,
          name,
          box.name ?? gear.name,
          partNameOf(boxOf(patch, link.from.box), shelf),
        ),
      }
    }
  }
  return same
}

/** Reasons with one more thing that a supply of a box feeds; all that it feeds are named together. */
function withPowered(reasons: readonly Reason[], supply: string, box: string, output: string): Reason[] {
  const isSame = (each: Reason): each is Extract<Reason, { code: 'powered' }> =>
    each.code === 'powered' && each.figures.supply === supply && each.figures.box === box
  const before = reasons.find(isSame)
  const outputs = [...new Set([...(before?.figures.outputs ?? []), output])]
  const now = reason('powered', { supply, box, outputs })
  return before ? reasons.map((each) => (each === before ? now : each)) : [...reasons, now]
}

function isStarved(patch: Patch, link: string, shelf: Shelf): boolean {
  const plugged = pluggedLink(patch, linkOf(patch, link), shelf)
  return plugged !== undefined && (reportOf(plugged).variants[0]?.facts.needs.some(starves) ?? false)
}

/** Whether a change brings a harmful or deadly finding that was not there. */
function harms(before: Patch, after: Patch, shelf: Shelf): boolean {
  const faults = (patch: Patch) =>
    new Set(
      patch.links.flatMap((link) => {
        const plugged = pluggedLink(patch, link, shelf)
        return (plugged ? reportOf(plugged).findings : []).flatMap(({ severity, code }) =>
          severity === 'harmful' || severity === 'dead' ? [`${link.id} ${code}`] : [],
        )
      }),
    )
  const known = faults(before)
  return [...faults(after)].some((fault) => !known.has(fault))
}
