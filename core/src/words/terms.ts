/** A term of the field as it is used here. */
export interface Term {
  name: string
  means: string
}

/** The terms on screen, each in a sentence or two. The docs explain the words of the code apart from these. */
export const terms: readonly Term[] = [
  {
    name: 'headroom',
    means:
      'How much louder it could get before something clips: from the loudest peak up to the ceiling, in dB.',
  },
  {
    name: 'ceiling',
    means:
      'The level above which a stage clips, overloads or limits. Each stage has its own; the lowest one counts.',
  },
  {
    name: 'noise floor',
    means:
      'The hiss that is there when nobody speaks: of the boxes, and of the place. Weighted as the ear hears it, dB(A).',
  },
  {
    name: 'self-noise',
    means: 'The hiss that a microphone makes by itself, given as the sound level that would read the same.',
  },
  {
    name: 'speech-to-noise',
    means:
      'How far the voice stands above what is heard in its pauses, boxes and place together, in dB(A). From about 20 dB a voice is clear; 40 dB is quiet. Of a bell or a machine it is called signal-to-noise.',
  },
  {
    name: 'clipping',
    means:
      'A peak that does not fit is cut off. At full scale it is cut flat; in an amplifier it bends, through a transformer or capacitor it sags. It cannot be repaired afterwards.',
  },
  {
    name: 'sensitivity',
    means:
      'The voltage a microphone gives for a known sound, in mV/Pa: 94 dB SPL is one pascal. More sensitivity needs less gain.',
  },
  {
    name: 'pad',
    means:
      'An attenuator: it takes away level before an input that would be overloaded. Hiss made before it goes down too.',
  },
  {
    name: 'low-cut',
    means:
      'A filter that takes away rumble, wind and handling below the voice. It works only where it stands before what overloads.',
  },
  {
    name: 'phantom power',
    means:
      'Supply for studio microphones over the three pins of an XLR: 48 V, sometimes 24 or 12. Dynamic microphones are not affected; ribbons may be.',
  },
  {
    name: 'plug-in power',
    means:
      'Supply for small microphones over a mini jack: 2 to 5 V through a resistor. It is not phantom power and does not replace it.',
  },
  {
    name: 'line level',
    means:
      'What desks and players give out, around a volt: some 40 dB more than a microphone. A microphone input needs a pad for it.',
  },
  {
    name: 'microphone level',
    means: 'What a microphone gives: a few millivolts for a voice.',
  },
  {
    name: 'balanced',
    means: 'Sent on two wires against each other, so that what both pick up on the way cancels.',
  },
  {
    name: 'full scale',
    means: 'The largest number a file can hold, 0 dBFS. Peaks are planned to stay below it.',
  },
  {
    name: 'dBFS',
    means: 'Level in a file, in dB below full scale. \u221212 dBFS is a common place for the loudest peaks.',
  },
  { name: 'dBu', means: 'Level on a wire, in dB above 0.775 V. Professional line level is +4 dBu.' },
  {
    name: 'dB SPL',
    means: 'Sound pressure where the microphone stands. A voice at an arm\u2019s length is about 65 dB SPL.',
  },
  {
    name: 'automatic gain',
    means:
      'A camera that sets its level by itself: it turns down after loud moments and brings up the hiss in pauses. Switch it off where that is possible.',
  },
  {
    name: 'limiter',
    means:
      'Turns down what would clip, quickly. It saves a loud moment and costs a little shape; it does not help what clipped before it.',
  },
  {
    name: 'safety track',
    means: 'The same microphone recorded again some dB lower, for the moment when the first one clips.',
  },
  {
    name: 'run',
    means: 'The path of one source to one recording or to headphones. Each run has its own verdict.',
  },
  {
    name: 'balance',
    means:
      'Settings for all controls together: nothing clips, peaks lie where they should, and the hiss is as low as it can be.',
  },
  {
    name: 'peak target',
    means:
      'Where the loudest peaks should lie in the file. A cautious one leaves more headroom and costs a little noise.',
  },
  {
    name: 'spill',
    means: 'A source that is heard in a recording meant for another. It needs no level of its own there.',
  },
]

export const termOf = (name: string): Term | undefined => terms.find((each) => each.name === name)

/** A stretch of a text, and the term that it is if it is one. */
export interface TermedStretch {
  text: string
  term?: string
}

// longer names first: "microphone level" before any shorter one in it
const named = new RegExp(
  `\\b(${[...terms]
    .sort((one, other) => other.name.length - one.name.length)
    .map(({ name }) => name)
    .join('|')})\\b`,
  'gi',
)

/** A text with the terms in it distinguished, each where it first appears. */
export function termedText(text: string): TermedStretch[] {
  const met = new Set<string>()
  return text
    .split(named)
    .map((part, index) => {
      const term = terms.find(({ name }) => name.toLowerCase() === part.toLowerCase())
      if (index % 2 === 0 || !term || met.has(term.name)) return { text: part }
      met.add(term.name)
      return { text: part, term: term.name }
    })
    .filter((stretch) => stretch.text)
}
