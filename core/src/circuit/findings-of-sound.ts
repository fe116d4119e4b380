import { type Facts, silenceDb } from './facts'
import { type InputPort, type PluggedLink, wayTo } from './link'
import { decibels, type Find } from './link-finding'

/** Equal to within this, two gains count as one. */
const sameDb = 0.5
const trebleLossDb = -1

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
    findOnChannels(listened, find)
  }
}

/** A source of which nothing arrives, and why. */
function findLost({ link, facts, index, input, heard, mixed }: Listened, signal: string, find: Find): void {
  const output = link.output.name
  const cause = facts.joined.map(([one, other]) => `${one} and ${other}`).join(', ')
  const why = facts.backwards.includes(index)
    ? 'It would pass from that end to this one: a converter lies the wrong way round.'
    : mixed
      ? input.digital
        ? `${input.name} wants a digital stream, and what is plugged in brings sound as volts.`
        : `${input.name} wants sound as volts, and what is plugged in brings a digital stream.`
      : cause
        ? `The plugs join ${cause} of ${output}.`
        : `No contact carries it to ${input.name}.`
  if (heard.length)
    find(
      'degraded',
      'one side',
      input.name,
      `${signal} of ${output} is lost; only ${heard[0]!.signal} arrives on ${input.name}.`,
      why,
      'Put what matters on the side that arrives, or use a lead for both.',
    )
  else
    find(
      'dead',
      facts.backwards.includes(index) ? 'wrong way round' : mixed ? 'stream' : 'dead',
      input.name,
      `Nothing of ${signal} is heard on ${input.name}.`,
      why,
      'Find a way: an adapter brings it to the right contact.',
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
      `Its sign is turned over on the way, at ${mine[0]!.db.toFixed(1)} dB.`,
      'Alone it is not heard; beside a second microphone on the same voice turn one of them over.',
    )
  const silent = input.channels.length - mine.length
  if (input.channels.length > 1 && silent > 0 && signals.length === 1)
    find(
      'degraded',
      'one side',
      input.name,
      `Only ${mine.map(({ channel }) => channel).join(', ')} of ${input.name} is fed.`,
      `The other hears ${signal} under ${silenceDb} dB.`,
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
    for (const { signal, trebleDb, cornerHz } of mine)
      if (trebleDb < trebleLossDb && !input.digital)
        find(
          'degraded',
          'treble',
          input.name,
          `The treble of ${signal} is lost on the way.`,
          `${decibels(trebleDb)} less at 10 kHz; 3 dB less from ${((cornerHz ?? 0) / 1000).toFixed(1)} kHz.`,
          'Use a shorter lead, or drive it from a lower impedance.',
        )
  }
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
