import type { Caution, CautionFigures } from '../findings'

const words: { [Code in keyof CautionFigures]: (figures: CautionFigures[Code]) => string } = {
  ears: () => 'Headphones: start low. Tones and plugs being pulled can be loud; hearing loss is permanent.',
  desk: () =>
    'The desk belongs to its operator: ask before plugging in. Mains and house wiring are for a licensed electrician.',
  mains: () => 'If it hums, never lift a protective earth: use an isolating transformer or a battery.',
  phantom: () =>
    'Phantom power: mute before switching, and never into a shorted lead, a ribbon or an output not built for it.',
  radio: () =>
    'Radio: frequencies, power and licences differ by country and change. Follow the local regulator.',
  consent: () => 'Tell people when a body microphone is live, and mind local recording law.',
  runs: ({ longestM }) =>
    `A ${longestM} m run: weight the stand, keep clear of overhead lines and walkways, tape the cable down.`,
  machines: () =>
    'Working machines and hot metal: site rules come first, use breakaway cables, and keep your hands off the controls while moving.',
}

/** A caution as it is shown. */
export const cautionWords = ({ code, figures }: Caution): string =>
  // code and figures belong together: the type of the caution says so
  (words[code] as (figures: unknown) => string)(figures)
