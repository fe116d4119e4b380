import type { CircuitFigures, Find, SilenceCause } from '../findings'
import type { Facts } from './facts'
import { leakageDb } from './facts-of-sound'
import { type InputPort, type PluggedLink, wayTo } from './link'

/** Two gains closer than this count as equal, dB. */
const sameDb = 0.5
/**
 * Loss at 10 kHz, or at 100 Hz, that begins to be heard beside the same sound without it (one pole that is 1 dB down at
 * 10 kHz is 3 dB down at 20 kHz, the end of hearing), and that anybody hears.
 */
const audibleLossDb = -1
const plainLossDb = -3

/** An input that is asked about, with the signals on it. */
interface Listened {
  link: PluggedLink
  facts: Facts
  index: number
  input: InputPort
  signals: readonly string[]
  heard: Facts['reaches']
  /** The signal that arrives is of another kind than the input takes. */
  mixed: boolean
}

/** Findings about what arrives on each channel of each input asked about, and its polarity. */
export function findOnSound(link: PluggedLink, facts: Facts, find: Find): void {
  const signals = [...new Set(facts.reaches.map(({ signal }) => signal))]
  for (const [index, input] of link.inputs.slice(0, link.asked).entries()) {
    const heard = facts.reaches.filter((reach) => reach.input === index && reach.db > leakageDb)
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

/** Codes under which a source that is not heard at all is reported, by its cause. */
const silenceCodes = {
  'converter reversed': 'wrong way round',
  'other kind': 'stream',
  'both legs alike': 'cancelled',
  'input open': 'open leg',
  'output open': 'open leg',
  'contacts joined': 'dead',
  'no contact': 'dead',
} as const satisfies Record<SilenceCause['kind'], keyof CircuitFigures>

/** Why nothing of a source arrives. */
function causeOfSilence({ facts, index, input, mixed }: Listened, signal: string): SilenceCause {
  if (facts.backwards.includes(index)) return { kind: 'converter reversed' }
  if (mixed) return { kind: 'other kind', takesStream: input.digital !== undefined }
  const alike = facts.reaches.find(
    (reach) => reach.input === index && reach.signal === signal && reach.commonDb > leakageDb,
  )
  const open = contactsOf(facts.openLegs.filter((leg) => leg.input === index))
  if (alike && open.length === 0) return { kind: 'both legs alike', commonDb: alike.commonDb }
  if (open.length) return { kind: 'input open', contacts: open }
  if (facts.openOutputContacts.length) return { kind: 'output open', contacts: [...facts.openOutputContacts] }
  if (facts.joined.length)
    return { kind: 'contacts joined', pairs: facts.joined.map(([one, other]) => [one, other]) }
  return { kind: 'no contact' }
}

const contactsOf = (legs: Facts['openLegs']): string[] => legs.map(({ contact }) => contact)

/** A source of which nothing arrives, and why. */
function findLost(listened: Listened, signal: string, find: Find): void {
  const { link, input, heard } = listened
  const cause = causeOfSilence(listened, signal)
  const silence = { signal, output: link.output.name, input: input.name, cause }
  const subject = { where: input.name }
  if (heard.length) find('degraded', 'one side', subject, { ...silence, arrives: heard[0]!.signal })
  else find('dead', silenceCodes[cause.kind], subject, silence)
}

/** A leg of a differential input that hangs open while sound arrives over the other. */
function findOpenLegs({ facts, index, input, heard }: Listened, find: Find): void {
  const contacts = contactsOf(facts.openLegs.filter((leg) => leg.input === index))
  const [loudest] = [...heard].sort((one, other) => other.db - one.db)
  if (contacts.length === 0 || !loudest) return
  find('degraded', 'open leg', { where: input.name }, { input: input.name, contacts, db: loudest.db })
}

/** A source that arrives: in which form, on how many channels, with which polarity. */
function findOnSignal(
  { input: { name, channels, digital }, signals, mixed }: Listened,
  signal: string,
  mine: Facts['reaches'],
  find: Find,
): void {
  const subject = { where: name }
  const { db } = mine[0]!
  if (mixed) find('dead', 'stream', subject, { input: name, takesStream: digital !== undefined, db })
  if (mine.every(({ sign }) => sign < 0) && !digital)
    find('note', 'polarity', subject, { input: name, signal, db })
  if (channels.length > 1 && mine.length < channels.length && signals.length === 1)
    find('degraded', 'one side', subject, {
      input: name,
      signal,
      channels: mine.map(({ channel }) => channel),
    })
  const [one, other] = mine
  if (one && other && Math.abs(one.db - other.db) < sameDb) {
    if (one.sign !== other.sign)
      find('harmful', 'polarity', subject, {
        input: name,
        signal,
        db: one.db,
        channels: [one.channel, other.channel],
      })
    else if (signals.length === 1) find('note', 'both sides', subject, { input: name, signal, db: one.db })
  }
}

/** Findings on each channel: sources that cancel, lost treble. */
function findOnChannels({ input, heard }: Listened, find: Find): void {
  for (const { id: channel } of input.channels) {
    const mine = heard.filter((reach) => reach.channel === channel)
    const [one, other] = mine
    if (mine.length === 2 && one && other && one.sign !== other.sign && Math.abs(one.db - other.db) < sameDb)
      find(
        'harmful',
        'cancelled',
        { where: input.name },
        { channel, one: one.signal, other: other.signal, db: one.db },
      )
    if (!input.digital) for (const reach of mine) findLosses(input, reach, find)
  }
}

/** Treble or bass that is lost on the way, with its corner. */
function findLosses(input: InputPort, reach: Facts['reaches'][number], find: Find): void {
  const { signal, trebleDb, cornerHz, bassDb, bassCornerHz } = reach
  const subject = { where: input.name }
  const severity = (lossDb: number) => (lossDb <= plainLossDb ? 'degraded' : 'note')
  if (trebleDb <= audibleLossDb)
    find(severity(trebleDb), 'treble', subject, { signal, lossDb: trebleDb, cornerHz })
  if (bassDb <= audibleLossDb)
    find(severity(bassDb), 'bass', subject, { signal, lossDb: bassDb, cornerHz: bassCornerHz })
}

/** Two sides that stream: rates in common, and one clock between them. */
export function findOnStreams(link: PluggedLink, facts: Facts, find: Find): void {
  const { name: output, digital: gives } = link.output
  for (const [index, { name: input, digital: takes }] of link.inputs.slice(0, link.asked).entries()) {
    const heard = facts.reaches.some((reach) => reach.input === index && reach.db > leakageDb)
    const onTheWay = wayTo(link, index).some((at) =>
      link.pieces[at]!.parts?.some(({ kind }) => kind === 'converter'),
    )
    if (!gives || !takes || !heard || onTheWay) continue
    const subject = { where: input }
    if (!gives.ratesHz.some((hz) => takes.ratesHz.includes(hz)))
      find('dead', 'rate', subject, { output, input, givesHz: gives.ratesHz, takesHz: takes.ratesHz })
    else if (gives.clock === takes.clock && gives.clock !== 'either')
      find(gives.clock === 'own' ? 'degraded' : 'dead', 'clock', subject, {
        output,
        input,
        both: gives.clock,
      })
  }
}
