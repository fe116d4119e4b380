import { suppliesPhantom, type WiredLink } from '../circuit'
import type { Caution } from '../findings'
import { type Patch, type Shelf, shelfFor } from '../model'

/** A lead longer than this is a tripping hazard, m. */
const trippingM = 3
/** Noise that comes from a machine at work rather than from a fan. */
const machineDba = 75

/** The usual cautions, each once, where this patch calls for them. */
export function cautionsOf(patch: Patch, commonShelf: Shelf, wiring: readonly WiredLink[]): Caution[] {
  const shelf = shelfFor(patch, commonShelf)
  const gear = patch.boxes.flatMap(({ gear: id }) => shelf.get(id) ?? [])
  const stages = gear.flatMap(({ strips }) => strips.flatMap((strip) => strip.stages))
  const findings = wiring.flatMap(({ report }) => report.findings)
  const desks = gear.some(({ kind }) => kind === 'desk')
  const longestM = Math.max(
    0,
    ...patch.links.map(({ pieces }) =>
      pieces.reduce((sum, piece) => sum + (shelf.get(piece.gear)?.passive?.lengthM ?? 0), 0),
    ),
  )
  const radio = gear.some(({ ports }) => ports.some(({ connector }) => connector === 'radio'))
  const machines =
    patch.brief.noises.some(({ inPicture, levelDba }) => inPicture && levelDba >= machineDba) ||
    patch.brief.sources.some(({ kind }) => kind === 'machine')
  const unbalanced = findings.some(({ code, severity }) => code === 'unbalanced' && severity === 'degraded')
  const phantom = suppliesPhantom(wiring)
  const caution = (code: Exclude<Caution['code'], 'runs'>): Caution => ({
    code,
    severity: 'note',
    subject: {},
    figures: {},
  })
  return [
    ...(stages.some(({ kind }) => kind === 'listen') ? [caution('ears')] : []),
    ...(desks ? [caution('desk')] : []),
    ...(desks || unbalanced ? [caution('mains')] : []),
    ...(phantom ? [caution('phantom')] : []),
    ...(radio ? [caution('radio')] : []),
    ...(radio && gear.some(({ kind }) => kind === 'microphone') ? [caution('consent')] : []),
    ...(longestM >= trippingM ? [runs(longestM)] : []),
    ...(machines ? [caution('machines')] : []),
  ]
}

const runs = (longestM: number): Caution => ({
  code: 'runs',
  severity: 'note',
  subject: {},
  figures: { longestM },
})
