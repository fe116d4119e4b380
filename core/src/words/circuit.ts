import type { CircuitFigures, CircuitFinding, SilenceCause } from '../findings'
import { connectorNames } from '../model'
import { inMilliamperes, inVolts, plainDecibels, signed } from '../units'
import type { Sentences } from './sentences'

type Words = { [Code in keyof CircuitFigures]: (figures: CircuitFigures[Code]) => Sentences }

const wiresBoth = 'Use a lead that wires both legs.'
const sameKind = 'Use a socket of the same kind, or a converter in between.'
const switchOff = 'Switch the supply off, or put a blocking capacitor or a transformer in between.'
const contactsOpen = (contacts: readonly string[]) => `Contact ${contacts.join(' and ')}`

/** Why nothing arrives, and what to do about it. */
function causeWords(cause: SilenceCause, output: string, input: string): Pick<Sentences, 'why' | 'remedy'> {
  switch (cause.kind) {
    case 'converter reversed':
      return {
        why: 'A converter is the wrong way round: it would work from that end to this one.',
        remedy: 'Use a converter that faces this way.',
      }
    case 'other kind':
      return {
        why: cause.takesStream
          ? `${input} expects a digital signal, and what is plugged in is analogue.`
          : `${input} expects an analogue signal, and what is plugged in is digital.`,
        remedy: sameKind,
      }
    case 'both legs alike':
      return {
        why: `Both legs of ${input} carry the same signal, at ${signed(cause.commonDb)} dB, and the input takes their difference.`,
        remedy: 'Bring the sound to one leg and ground to the other, or use a box that sums.',
      }
    case 'input open':
      return {
        why: `${contactsOpen(cause.contacts)} of ${input} is open: nothing closes the circuit.`,
        remedy: wiresBoth,
      }
    case 'output open':
      return {
        why: `${contactsOpen(cause.contacts)} of ${output} is open: a floating output needs both legs to close the circuit.`,
        remedy: wiresBoth,
      }
    case 'contacts joined':
      return {
        why: `The plugs join ${cause.pairs.map(([one, other]) => `${one} and ${other}`).join(', ')} of ${output}.`,
        remedy: 'Find a way: an adapter brings it to the right contact.',
      }
    case 'no contact':
      return {
        why: `No contact carries it to ${input}.`,
        remedy: 'Find a way: an adapter brings it to the right contact.',
      }
  }
}

const silence = ({ signal, output, input, cause }: CircuitFigures['dead']): Sentences => ({
  what: `Nothing of ${signal} is heard on ${input}.`,
  ...causeWords(cause, output, input),
})

const starved =
  (what: (output: string) => string, remedy: string) =>
  ({ output, need, minimumVolts, volts }: CircuitFigures['supply missing']): Sentences => ({
    what: what(output),
    why: `${need} needs ${inVolts(minimumVolts)} and gets ${inVolts(volts)}.`,
    remedy,
  })

const onPlugs: Pick<Words, 'misfit' | 'two plugs' | 'some sockets' | 'channel'> = {
  misfit: ({ one, other, sameFamily }) => {
    const half = ({ shape, gender }: typeof one) => `a ${gender} of ${connectorNames[shape]}`
    return {
      what: `The plugs do not go together: ${half(one)} and ${half(other)}.`,
      why: sameFamily ? `Two ${one.gender}s face each other.` : 'They are different types of connector.',
      remedy: 'Put an adapter between them.',
    }
  },
  'two plugs': ({ box, port, one, other }) => ({
    what: `Two plugs need the same socket: ${one} and ${other}, both on ${box}, ${port}.`,
    why: 'A socket takes one plug.',
    remedy: 'Add a splitter, or use another socket.',
  }),
  'some sockets': () => ({
    what: 'It works in some sockets and not in others.',
    why: 'The rings of this plug sit where the contacts of real sockets differ.',
    remedy: 'Use an adapter with the right number of contacts.',
  }),
  channel: ({ sender, receiver, sendsMhz, listensMhz }) => ({
    what: `${receiver} gets nothing from ${sender}: they are on different channels.`,
    why: `One sends at ${sendsMhz} MHz, the other listens at ${listensMhz} MHz.`,
    remedy: 'Set both to the same channel.',
  }),
}

const onOutputs: Pick<Words, 'shorted output' | 'overloaded output' | 'half level'> = {
  'shorted output': ({ output, leg, loadOhm, sourceOhm }) => ({
    what: `The ${leg} leg of ${output} is shorted.`,
    why: `It drives ${loadOhm.toFixed(1)} ohm from a source impedance of ${sourceOhm} ohm.`,
    remedy: 'Use a lead that leaves this leg open, or a transformer.',
  }),
  'overloaded output': ({ output, lossDb, loadOhm, sourceOhm, shared, heaviest }) => ({
    what: `${output} is loaded down by ${plainDecibels(lossDb)}.`,
    why: `It drives ${loadOhm.toFixed(0)} ohm from a source impedance of ${sourceOhm} ohm${
      heaviest ? `; ${heaviest.name} takes ${(heaviest.share * 100).toFixed(0)} % of the current` : ''
    }.`,
    remedy: shared
      ? 'Listen at another socket, or put a box with its own output in between.'
      : 'Remove the load, or put a box with its own output in between.',
  }),
  'half level': ({ signal, lossDb }) => ({
    what: `Half the level of ${signal} arrives.`,
    why: `${plainDecibels(lossDb)} are lost: one of the two legs drives nothing.`,
    remedy: 'Allow for 6 dB, or use a transformer.',
  }),
}

const onPower: Pick<Words, 'supply missing' | 'supply weak' | 'supply shorted' | 'foreign supply'> = {
  'supply missing': starved(
    (output) => `${output} gets no power.`,
    'Switch the supply on, or put a supply in between.',
  ),
  'supply weak': starved(
    (output) => `${output} gets too little power.`,
    'Use the supply it is made for; on this one it is quiet and clips early.',
  ),
  'supply shorted': ({ supply, input, openVolts, amperes, contact }) => ({
    what: `${supply} of ${input} runs into ground.`,
    why: `${inVolts(openVolts)} drive ${inMilliamperes(amperes)} through contact ${contact}.`,
    remedy: 'Switch it off before plugging; mute first.',
  }),
  'foreign supply': ({ port, contact, volts, amperes }) => ({
    what: `There is ${inVolts(volts)} of DC on ${port}, which is not built for it.`,
    why:
      amperes === undefined
        ? `It comes through contact ${contact}.`
        : `${inMilliamperes(amperes)} flow into contact ${contact}.`,
    remedy: switchOff,
  }),
}

const onArrival: Pick<
  Words,
  'dead' | 'wrong way round' | 'stream' | 'cancelled' | 'open leg' | 'one side' | 'both sides' | 'polarity'
> = {
  dead: silence,
  'wrong way round': silence,
  stream: (figures) =>
    'cause' in figures
      ? silence(figures)
      : {
          what: figures.takesStream
            ? `${figures.input} expects a digital signal and gets an analogue one: nothing will lock.`
            : `A digital signal runs into ${figures.input}, which treats it as analogue: loud hiss and no speech.`,
          why: `The contacts carry it at ${signed(figures.db)} dB, and the two sides use different kinds of signal.`,
          remedy: sameKind,
        },
  cancelled: (figures) =>
    'cause' in figures
      ? silence(figures)
      : {
          what: `What ${figures.one} and ${figures.other} share cancels on ${figures.channel}.`,
          why: `They arrive at ${signed(figures.db)} dB each, with opposite polarity.`,
          remedy: 'Feed the input from one channel, or through a box that sums.',
        },
  'open leg': (figures) =>
    'cause' in figures
      ? silence(figures)
      : {
          what: `${contactsOpen(figures.contacts)} of ${figures.input} is open: the run is not balanced, and level is lost.`,
          why: `${signed(figures.db)} dB arrive over the other leg, with whatever hum the open one picks up.`,
          remedy:
            'Use a lead that wires both legs; from an unbalanced output, one that brings its ground to the second leg.',
        },
  'one side': (figures) => {
    if ('cause' in figures)
      return {
        what: `${figures.signal} of ${figures.output} is lost; only ${figures.arrives} arrives on ${figures.input}.`,
        why: causeWords(figures.cause, figures.output, figures.input).why,
        remedy: 'Put what matters on the side that arrives, or use a lead for both.',
      }
    if ('missing' in figures)
      return {
        what: `Nothing reaches ${figures.missing} of ${figures.input}.`,
        why: 'No contact carries it there.',
        remedy: 'Use a lead that feeds this side too.',
      }
    return {
      what: `Only ${figures.channels.join(', ')} of ${figures.input} is fed.`,
      why: `Nothing of ${figures.signal} reaches the other.`,
      remedy: 'Use a lead that joins tip and ring, or copy the channel in the edit.',
    }
  },
  'both sides': ({ input, signal, db }) => ({
    what: `Both sides of ${input} carry the same.`,
    why: `${signal} arrives at ${signed(db)} dB on each.`,
    remedy: 'Nothing, if that is intended; it is not a second, independent recording.',
  }),
  polarity: ({ input, signal, db, channels }) =>
    channels
      ? {
          what: `${channels[1]} of ${input} has the opposite polarity to ${channels[0]}: they sum to silence.`,
          why: `Both carry ${signal} at ${signed(db)} dB, with opposite polarity.`,
          remedy: 'Use a lead that feeds both sides from one leg, or invert one in the edit.',
        }
      : {
          what: `${signal} arrives with inverted polarity on ${input}.`,
          why: `Its polarity is reversed on the way, at ${signed(db)} dB.`,
          remedy:
            'On its own this is inaudible; next to a second microphone on the same voice, invert one of them.',
        },
}

const kilohertz = (hz: number) => `${(hz / 1000).toFixed(1)} kHz`
const onQuality: Pick<Words, 'unbalanced' | 'treble' | 'bass' | 'rate' | 'clock'> = {
  unbalanced: ({ lengthM, long, quietDbu, nearMainsDbu, nearMotorsDbu }) => {
    const [quiet, mains, motors] = [quietDbu, nearMainsDbu, nearMotorsDbu].map(
      (level) => `${signed(level, 0)} dBu`,
    )
    return {
      what: `${lengthM} m run unbalanced.`,
      why: `An estimate: ${quiet} of hum in a quiet place, ${mains} near mains, ${motors} near dimmers and motors; balanced 60 dB less.`,
      remedy: long
        ? 'Keep it short, or use a transformer at its end. Never lift a protective earth.'
        : 'Keep it as short as it is.',
    }
  },
  treble: ({ signal, lossDb, cornerHz }) => ({
    what: `Treble of ${signal} is lost on the way.`,
    why: `${plainDecibels(lossDb)} less at 10 kHz${cornerHz === undefined ? '' : `; 3 dB less from ${kilohertz(cornerHz)}`}.`,
    remedy: 'Use a shorter lead, or drive it from a lower impedance.',
  }),
  bass: ({ signal, lossDb, cornerHz }) => ({
    what: `Bass of ${signal} is lost on the way.`,
    why: `${plainDecibels(lossDb)} less at 100 Hz${cornerHz === undefined ? '' : `; 3 dB less under ${cornerHz.toFixed(0)} Hz`}.`,
    remedy: 'Drive the transformer from a lower impedance, or put a larger capacitor or load there.',
  }),
  rate: ({ output, input, givesHz, takesHz }) => {
    const rates = (all: readonly number[]) => all.map((hz) => `${hz / 1000}`).join(', ')
    return {
      what: `${output} and ${input} have no sampling rate in common.`,
      why: `One sends ${rates(givesHz)} kHz, the other accepts ${rates(takesHz)} kHz.`,
      remedy: 'Set one of them to a rate the other has, or connect them through analogue sockets.',
    }
  },
  clock: ({ output, input, both }) => ({
    what:
      both === 'own'
        ? `${output} and ${input} each run on their own clock: occasional clicks, and drift.`
        : `${output} and ${input} both wait for the other\u2019s clock.`,
    why:
      both === 'own'
        ? 'Two crystals 20 parts in a million apart slip a sample every second or so.'
        : 'A digital link needs one side to be the clock.',
    remedy: 'Let one follow the other, or connect them through analogue sockets.',
  }),
}

const onSwitches: Pick<Words, 'switched off'> = {
  'switched off': ({ box, stage }) => ({
    what: `${stage} of ${box} blocks it: it is switched to something else.`,
    why: 'What is not selected there is not recorded.',
    remedy: `Switch ${stage} of ${box} to it, or plug it in elsewhere.`,
  }),
}

const words: Words = { ...onPlugs, ...onOutputs, ...onPower, ...onArrival, ...onQuality, ...onSwitches }

/** Location of a circuit finding: a socket, and its contact. */
export const whereWords = ({ where = '', contact }: CircuitFinding['subject']): string =>
  contact === undefined ? where : `${where}, contact ${contact}`

/** Whether a finding is one of the circuit: no code is used twice. */
export const isOfCircuit = (finding: { code: string }): finding is CircuitFinding => finding.code in words

/** Words for a finding about a link's circuit. */
export function circuitWords({ code, figures, someSocketsOnly }: CircuitFinding): Sentences {
  // code and figures belong together: the type of the finding says so
  const said = (words[code] as (figures: unknown) => Sentences)(figures)
  return someSocketsOnly ? { ...said, what: `In some sockets: ${said.what}` } : said
}
