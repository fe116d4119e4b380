import type { Facts } from './facts'
import { silenceDb } from './facts-of-sound'
import { type InputPort, type PluggedLink, wayTo } from './link'
import { decibels, type Find, type LinkFinding } from './link-finding'

/** Equal to within this, two gains count as one. */
const sameDb = 0.5
/**
 * Loss at 10 kHz, or at 100 Hz, that begins to be heard beside the same sound without it (one pole that is 1 dB down at
 * 10 kHz is 3 dB down at 20 kHz, the end of hearing), and that anybody hears.
 */
const audibleLossDb = -1
const plainLossDb = -3

/** An input that is asked about, with what is heard on it. */
interface Listened {
  link: PluggedLink
  facts: Facts
  index: number
  input: InputPort
  signals: readonly string[]
  heard: Facts['reaches']
  /** What arrives is of another kind than the input takes. */
  mixed: boolean
}

/** What arrives on each channel of each input asked about, and which way up. */
export function findOnSound(link: PluggedLink, facts: Facts, find: Find): void {
  const signals = [...new Set(facts.reaches.map(({ signal }) => signal))]
  for (const [index, input] of link.inputs.slice(0, link.asked).entries()) {
    const heard = facts.reaches.filter((reach) => reach.input === index && reach.db > silenceDb)
    const mixed = facts.streams.includes(index) !== (input.digital !== undefined)
    const listened: Listened = { link, facts, index, input, signals, heard, mixed }
    for (const signal of signals) {
      const mine = heard.filter((reach) => reach.signal === signal)
      if (mine.length) findOnSignal(listened, signal, mine, find)
      else findLost(listened, signal, find)
    }
    findOpenLegs(listened, find)
    findOnChannels(listened, find)
  }
}

/** Why nothing of a source arrives, and what to do about it. */
interface Cause {
  about: LinkFinding['about']
  why: string
  remedy: string
}

function causeOfSilence(listened: Listened, signal: string): Cause {
  const { link, facts, index, input, mixed } = listened
  const output = link.output.name
  const findAWay = 'Find a way: an adapter brings it to the right contact.'
  if (facts.backwards.includes(index))
    return {
      about: 'wrong way round',
      why: 'It would pass from that end to this one: a converter lies the wrong way round.',
      remedy: 'Use a converter that faces this way.',
    }
  if (mixed)
    return {
      about: 'stream',
      why: input.digital
        ? `${input.name} wants a digital stream, and what is plugged in brings sound as volts.`
        : `${input.name} wants sound as volts, and what is plugged in brings a digital stream.`,
      remedy: 'Use a socket of the same kind, or a converter between.',
    }
  const alike = facts.reaches.find(
    (reach) => reach.input === index && reach.signal === signal && reach.commonDb > silenceDb,
  )
  const open = facts.openLegs.filter((leg) => leg.input === index)
  if (alike && open.length === 0)
    return {
      about: 'cancelled',
      why: `Both legs of ${input.name} carry it alike, at ${signed(alike.commonDb)} dB, and the input takes their difference.`,
      remedy: 'Bring the sound to one leg and ground to the other, or use a box that sums.',
    }
  if (open.length)
    return {
      about: 'open leg',
      why: `${contactsInWords(open)} of ${input.name} is open: nothing closes the circuit.`,
      remedy: 'Use a lead that wires both legs.',
    }
  if (facts.openOutputContacts.length)
    return {
      about: 'open leg',
      why: `Contact ${facts.openOutputContacts.join(' and ')} of ${output} is open: what floats needs both its legs to close the circuit.`,
      remedy: 'Use a lead that wires both legs.',
    }
  const cause = facts.joined.map(([one, other]) => `${one} and ${other}`).join(', ')
  return {
    about: 'dead',
    why: cause ? `The plugs join ${cause} of ${output}.` : `No contact carries it to ${input.name}.`,
    remedy: findAWay,
  }
}

const signed = (db: number) => (db < 0 ? '\u2212' : '') + Math.abs(db).toFixed(1)
const contactsInWords = (legs: Facts['openLegs']) =>
  `Contact ${legs.map(({ contact }) => contact).join(' and ')}`

/** A source of which nothing arrives, and why. */
function findLost(listened: Listened, signal: string, find: Find): void {
  const { link, input, heard } = listened
  const output = link.output.name
  const { about, why, remedy } = causeOfSilence(listened, signal)
  if (heard.length)
    find(
      'degraded',
      'one side',
      input.name,
      `${signal} of ${output} is lost; only ${heard[0]!.signal} arrives on ${input.name}.`,
      why,
      'Put what matters on the side that arrives, or use a lead for both.',
    )
  else find('dead', about, input.name, `Nothing of ${signal} is heard on ${input.name}.`, why, remedy)
}

/** A leg of a differential input that hangs open while sound arrives over the other. */
function findOpenLegs({ facts, index, input, heard }: Listened, find: Find): void {
  const open = facts.openLegs.filter((leg) => leg.input === index)
  const [loudest] = [...heard].sort((one, other) => other.db - one.db)
  if (open.length === 0 || !loudest) return
  find(
    'degraded',
    'open leg',
    input.name,
    `${contactsInWords(open)} of ${input.name} is open: the run is not balanced, and level is lost.`,
    `${signed(loudest.db)} dB arrive over the other leg, with whatever hum the open one picks up.`,
    'Use a lead that wires both legs; from an unbalanced output, one that brings its ground to the second leg.',
  )
}

/** A source that arrives: as what, on how many channels, which way up. */
function findOnSignal(
  { input, signals, mixed }: Listened,
  signal: string,
  mine: Facts['reaches'],
  find: Find,
): void {
  if (mixed)
    find(
      'dead',
      'stream',
      input.name,
      input.digital
        ? `${input.name} wants a digital stream and gets sound as volts: nothing will lock.`
        : `A digital stream runs into ${input.name}, which takes it for sound: loud hiss and no speech.`,
      `The contacts carry it at ${mine[0]!.db.toFixed(1)} dB, and the two sides do not speak alike.`,
      'Use a socket of the same kind, or a converter between.',
    )
  if (mine.every(({ sign }) => sign < 0) && !input.digital)
    find(
      'note',
      'polarity',
      input.name,
      `${signal} arrives upside down on ${input.name}.`,
      `Its sign is reversed on the way, at ${mine[0]!.db.toFixed(1)} dB.`,
      'Alone it is not heard; beside a second microphone on the same voice turn one of them over.',
    )
  const silent = input.channels.length - mine.length
  if (input.channels.length > 1 && silent > 0 && signals.length === 1)
    find(
      'degraded',
      'one side',
      input.name,
      `Only ${mine.map(({ channel }) => channel).join(', ')} of ${input.name} is fed.`,
      `Nothing of ${signal} reaches the other.`,
      'Use a lead that joins tip and ring, or copy the channel in the edit.',
    )
  const [one, other] = mine
  if (one && other && Math.abs(one.db - other.db) < sameDb) {
    if (one.sign !== other.sign)
      find(
        'harmful',
        'polarity',
        input.name,
        `${other.channel} of ${input.name} is upside down against ${one.channel}: their sum is silence.`,
        `Both carry ${signal} at ${one.db.toFixed(1)} dB, with opposite signs.`,
        'Use a lead that feeds both sides from one leg, or turn one over in the edit.',
      )
    else if (signals.length === 1)
      find(
        'note',
        'both sides',
        input.name,
        `Both sides of ${input.name} carry the same.`,
        `${signal} arrives at ${one.db.toFixed(1)} dB on each.`,
        'Nothing, if that is meant; it is no second copy.',
      )
  }
}

/** What meets on each channel: sources that cancel, treble that is lost. */
function findOnChannels({ input, heard }: Listened, find: Find): void {
  for (const channel of input.channels) {
    const mine = heard.filter((reach) => reach.channel === channel.id)
    const [one, other] = mine
    if (mine.length === 2 && one && other && one.sign !== other.sign && Math.abs(one.db - other.db) < sameDb)
      find(
        'harmful',
        'cancelled',
        input.name,
        `What ${one.signal} and ${other.signal} share cancels on ${channel.id}.`,
        `They arrive at ${one.db.toFixed(1)} dB each, with opposite signs.`,
        'Feed the input from one channel, or through a box that sums.',
      )
    if (!input.digital) for (const reach of mine) findLosses(input, reach, find)
  }
}

/** Treble or bass that is lost on the way, with its corner. */
function findLosses(input: InputPort, reach: Facts['reaches'][number], find: Find): void {
  const { signal, trebleDb, cornerHz, bassDb, bassCornerHz } = reach
  const severity = (lossDb: number) => (lossDb <= plainLossDb ? 'degraded' : 'note')
  if (trebleDb <= audibleLossDb)
    find(
      severity(trebleDb),
      'treble',
      input.name,
      `Treble of ${signal} is lost on the way.`,
      `${decibels(trebleDb)} less at 10 kHz${cornerHz === undefined ? '' : `; 3 dB less from ${(cornerHz / 1000).toFixed(1)} kHz`}.`,
      'Use a shorter lead, or drive it from a lower impedance.',
    )
  if (bassDb <= audibleLossDb)
    find(
      severity(bassDb),
      'bass',
      input.name,
      `Bass of ${signal} is lost on the way.`,
      `${decibels(bassDb)} less at 100 Hz${bassCornerHz === undefined ? '' : `; 3 dB less under ${bassCornerHz.toFixed(0)} Hz`}.`,
      'Drive the transformer from a lower impedance, or put a larger capacitor or load there.',
    )
}

/** Two sides that stream: rates in common, and one clock between them. */
export function findOnStreams(link: PluggedLink, facts: Facts, find: Find): void {
  const output = link.output.name
  for (const [index, input] of link.inputs.slice(0, link.asked).entries()) {
    const { digital: gives } = link.output
    const { digital: takes } = input
    const heard = facts.reaches.some((reach) => reach.input === index && reach.db > silenceDb)
    const onTheWay = wayTo(link, index).some((at) =>
      link.pieces[at]!.parts?.some(({ kind }) => kind === 'converter'),
    )
    if (!gives || !takes || !heard || onTheWay) continue
    const rates = (each: typeof gives) => each.ratesHz.map((hz) => `${hz / 1000}`).join(', ')
    if (!gives.ratesHz.some((hz) => takes.ratesHz.includes(hz)))
      find(
        'dead',
        'rate',
        input.name,
        `${output} and ${input.name} have no sampling rate in common.`,
        `One gives ${rates(gives)} kHz, the other takes ${rates(takes)} kHz.`,
        'Set one of them to a rate the other has, or join them by an analogue socket.',
      )
    else if (gives.clock === takes.clock && gives.clock !== 'either')
      find(
        gives.clock === 'own' ? 'degraded' : 'dead',
        'clock',
        input.name,
        gives.clock === 'own'
          ? `${output} and ${input.name} each keep their own clock: a click now and then, and drift.`
          : `${output} and ${input.name} both wait for the other\u2019s clock.`,
        gives.clock === 'own'
          ? 'Two crystals 20 parts in a million apart slip a sample every second or so.'
          : 'A stream needs one side that keeps time.',
        'Let one follow the other, or join them by an analogue socket.',
      )
  }
}
