import type { WiredLink } from '../circuit'
import { type Patch, type Shelf, shelfFor } from '../model'

/** A caution with what of this patch calls for it. */
export interface Caution {
  about: 'ears' | 'mains' | 'desk' | 'phantom' | 'radio' | 'consent' | 'runs' | 'machines'
  text: string
}

/** A lead this long crosses somebody's way. */
const trippingM = 3
const phantomVolts = 12
/** Noise that comes from a machine at work rather than from a fan. */
const machineDba = 75

/** The usual cautions, each once, where this patch calls for them. */
export function cautionsOf(patch: Patch, commonShelf: Shelf, wiring: readonly WiredLink[]): Caution[] {
  const shelf = shelfFor(patch, commonShelf)
  const gear = patch.boxes.flatMap(({ gear: id }) => shelf.get(id) ?? [])
  const stages = gear.flatMap(({ strips }) => strips.flatMap((strip) => strip.stages))
  const findings = wiring.flatMap(({ report }) => report.findings)
  const facts = wiring.flatMap(({ report }) => report.variants[0]?.facts ?? [])
  const desks = gear.some(({ kind }) => kind === 'desk')
  const longest = Math.max(
    0,
    ...patch.links.map(({ pieces }) =>
      pieces.reduce((sum, piece) => sum + (shelf.get(piece.gear)?.passive?.lengthM ?? 0), 0),
    ),
  )
  const radio = gear.some(({ ports }) => ports.some(({ connector }) => connector === 'radio'))
  const found: [boolean, Caution][] = [
    [
      stages.some(({ kind }) => kind === 'listen'),
      {
        about: 'ears',
        text: 'Headphones: start low. Tones and pulled plugs can be loud; hearing loss is permanent.',
      },
    ],
    [
      desks,
      {
        about: 'desk',
        text: 'The desk belongs to its operator: ask before plugging in. Mains and house wiring are for a licensed electrician.',
      },
    ],
    [
      desks || findings.some(({ about, severity }) => about === 'unbalanced' && severity === 'degraded'),
      {
        about: 'mains',
        text: 'If it hums, never lift a protective earth: use an isolating transformer or a battery.',
      },
    ],
    [
      facts.some(({ supplies }) => supplies.some(({ openVolts }) => openVolts > phantomVolts)),
      {
        about: 'phantom',
        text: 'Phantom power: mute before switching, and never into a shorted lead, a ribbon or an output not built for it.',
      },
    ],
    [
      radio,
      {
        about: 'radio',
        text: 'Radio: frequencies, power and licences differ by country and change. Follow the local regulator.',
      },
    ],
    [
      radio && gear.some(({ kind }) => kind === 'microphone'),
      {
        about: 'consent',
        text: 'Tell people when a body microphone is live, and mind local recording law.',
      },
    ],
    [
      longest >= trippingM,
      {
        about: 'runs',
        text: `A ${longest} m run: weight the stand, keep clear of overhead lines and walkways, tape the cable down.`,
      },
    ],
    [
      patch.brief.noises.some(({ inPicture, levelDba }) => inPicture && levelDba >= machineDba) ||
        patch.brief.sources.some(({ kind }) => kind === 'machine'),
      {
        about: 'machines',
        text: 'Working machines and hot metal: site rules come first, cables that let go, and no hand on a control while moving.',
      },
    ],
  ]
  return found.flatMap(([applies, caution]) => (applies ? [caution] : []))
}
