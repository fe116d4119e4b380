import { aWeightingDb } from '../units'
import { family } from './contacts'
import { type Facts, factsOf } from './facts'
import { type PluggedLink, wayTo } from './link'
import { variantsOf } from './variants'

export type LinkSeverity = 'dead' | 'harmful' | 'degraded' | 'note'

/** Something that the circuit says of a link: what, where, why in figures, how bad, what to do. */
export interface LinkFinding {
  severity: LinkSeverity
  about:
    | 'misfit'
    | 'dead'
    | 'one side'
    | 'both sides'
    | 'polarity'
    | 'cancelled'
    | 'half level'
    | 'shorted output'
    | 'overloaded output'
    | 'supply missing'
    | 'supply weak'
    | 'supply shorted'
    | 'foreign supply'
    | 'unbalanced'
    | 'treble'
    | 'some sockets'
    | 'wrong way round'
    | 'stream'
    | 'rate'
    | 'clock'
    | 'two plugs'
  what: string
  where: string
  why: string
  remedy: string
}

/** A link solved: what it comes to in each kind of socket, and what there is to say. */
export interface LinkReport {
  variants: { touching: string[]; facts: Facts; findings: LinkFinding[] }[]
  findings: LinkFinding[]
}

const audibleDb = -60
/** Equal to within this, two gains count as one. */
const sameDb = 0.5
const shortedShare = 0.02
const overloadedShare = 1
/** An input bears so much DC behind the capacitor that nearly every one has. */
const usualInputBearsVolts = 10
/** DC that an output bears without a word. */
const harmlessVolts = 0.05
/** DC so many times over what an output bears does harm. */
const gravelyOver = 5
const trebleLossDb = -1
/** Magnetic and electric fields pick up about so much, volts a metre; balanced runs a thousandth of it. */
const quietFieldVoltsPerM = 1e-6
const nearMainsVoltsPerM = 10e-6
const nearMotorsVoltsPerM = 100e-6

const order: readonly LinkSeverity[] = ['dead', 'harmful', 'degraded', 'note']
const bySeverity = (one: LinkFinding, other: LinkFinding) =>
  order.indexOf(one.severity) - order.indexOf(other.severity)
const decibels = (db: number) => `${Math.abs(db).toFixed(1)} dB`
const volts = (value: number) =>
  Math.abs(value) < 1 ? `${(value * 1000).toFixed(0)} mV` : `${value.toFixed(2)} V`
const milliamperes = (amperes: number) => `${(Math.abs(amperes) * 1000).toFixed(2)} mA`

const humDbu = (picked: number): number => 20 * Math.log10(picked / Math.sqrt(0.6))
const humHz = 50

/** Hum that an unbalanced run picks up in a quiet place, A-weighted: an estimate by its length in metres. */
export const humDbuA = (lengthM: number): number =>
  humDbu(quietFieldVoltsPerM * lengthM) + aWeightingDb(humHz)

/** Solves a link in every kind of socket and says what follows. */
export function reportOf(link: PluggedLink): LinkReport {
  const found = variantsOf(link)
  if ('misfit' in found) {
    const { at, one, other } = found.misfit
    const half = ({ shape, gender }: typeof one) => `${shape} ${gender}`
    const finding: LinkFinding = {
      severity: 'dead',
      about: 'misfit',
      what: `The plugs do not go together: ${half(one)} and ${half(other)}.`,
      where: at,
      why:
        family(one.shape) === family(other.shape)
          ? `Two ${one.gender}s face each other.`
          : 'They are of different families.',
      remedy: 'Put an adapter between them.',
    }
    return { variants: [], findings: [finding] }
  }
  const variants = found.variants.map((variant) => {
    const facts = factsOf(link, variant)
    return {
      touching: variant.matings.map(
        ({ at, pairs }) =>
          `${at}: ${pairs.map(([plug, socket]) => (plug === socket ? plug : `${plug} on ${socket}`)).join(', ')}`,
      ),
      facts,
      findings: findingsIn(link, facts).sort(bySeverity),
    }
  })
  return { variants, findings: together(variants.map((variant) => variant.findings)) }
}

/** Findings of all variants as one list; what is only said of some is said to be so. */
function together(all: LinkFinding[][]): LinkFinding[] {
  if (all.length === 1) return all[0]!
  const key = ({ about, where }: LinkFinding) => `${about} ${where}`
  const everywhere = all[0]!.filter((finding) =>
    all.every((list) => list.some((each) => key(each) === key(finding))),
  )
  const known = new Set(everywhere.map(key))
  const sometimes = all.flatMap((list) =>
    list.filter((finding) => !known.has(key(finding)) && known.add(key(finding))),
  )
  const some = sometimes.map((finding): LinkFinding => ({
    ...finding,
    what: `In some sockets: ${finding.what}`,
  }))
  const worst = sometimes.filter(({ severity }) => severity === 'dead' || severity === 'harmful')
  const note: LinkFinding[] = worst.length
    ? [
        {
          severity: 'degraded',
          about: 'some sockets',
          what: 'It works in some sockets and not in others.',
          where: worst[0]!.where,
          why: 'The rings of this plug lie where springs of real sockets differ.',
          remedy: 'Use an adapter with the right number of contacts.',
        },
      ]
    : []
  return [...everywhere, ...some, ...note].sort(bySeverity)
}

/**
 * DC on an output that can do something there. A coil or transformer that floats does not feel what both its legs
 * share: only what stands across it, and drives a current through it.
 */
function troublingDc({ output }: PluggedLink, { outputDc }: Facts): Facts['outputDc'] {
  const on = (contact: string) => outputDc.find((each) => each.contact === contact)?.volts ?? 0
  return outputDc.flatMap((each) => {
    const coil = output.channels.find(
      ({ drive, hot, cold }) => drive === 'floating' && (hot === each.contact || cold === each.contact),
    )
    if (coil?.cold === undefined) return [each]
    const across = on(coil.hot) - on(coil.cold)
    return each.contact === coil.hot ? [{ ...each, volts: across, amperes: across / coil.ohm }] : []
  })
}

/** Names what takes most of an output that several things hang on. */
function heaviest(link: PluggedLink, { loads }: Facts): string {
  if (link.inputs.length < 2) return ''
  const most = loads.reduce((one, other) => (other.share > one.share ? other : one))
  return `; ${link.inputs[most.input]!.name} takes ${(most.share * 100).toFixed(0)} % of the current`
}

function findingsIn(link: PluggedLink, facts: Facts): LinkFinding[] {
  const found: LinkFinding[] = []
  const find = (
    severity: LinkSeverity,
    about: LinkFinding['about'],
    where: string,
    what: string,
    why: string,
    remedy: string,
  ) => found.push({ severity, about, where, what, why, remedy })
  const output = link.output.name

  for (const leg of facts.legs) {
    const share = leg.loadOhm / leg.sourceOhm
    const where = `${output}, contact ${leg.contact}`
    if (share < shortedShare)
      find(
        'harmful',
        'shorted output',
        where,
        `The ${leg.leg} leg of ${output} is shorted.`,
        `It works into ${leg.loadOhm.toFixed(1)} ohm with ${leg.sourceOhm} ohm behind it.`,
        'Use a lead that leaves this leg open, or a transformer.',
      )
    else if (share < overloadedShare)
      find(
        'degraded',
        'overloaded output',
        where,
        `${output} is loaded down by ${decibels(20 * Math.log10(share / (1 + share)))}.`,
        `It works into ${leg.loadOhm.toFixed(0)} ohm with ${leg.sourceOhm} ohm behind it${heaviest(link, facts)}.`,
        link.inputs.length > 1
          ? 'Listen at another socket, or put a box with its own output between.'
          : 'Take the load off, or put a box with its own output between.',
      )
  }

  const signals = [...new Set(facts.reaches.map(({ signal }) => signal))]
  for (const [index, input] of link.inputs.slice(0, link.asked).entries()) {
    const here = facts.reaches.filter((reach) => reach.input === index)
    const heard = here.filter(({ db }) => db > audibleDb)
    for (const signal of signals) {
      const mine = heard.filter((reach) => reach.signal === signal)
      const cause = facts.joined.map(([one, other]) => `${one} and ${other}`).join(', ')
      if (mine.length === 0) {
        const mixed = facts.streams.includes(index) !== (input.digital !== undefined)
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
        continue
      }
      if (facts.streams.includes(index) !== (input.digital !== undefined))
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
          `The other hears ${signal} under ${audibleDb} dB.`,
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
    for (const channel of input.channels) {
      const mine = heard.filter((reach) => reach.channel === channel.id)
      const [one, other] = mine
      if (
        mine.length === 2 &&
        one &&
        other &&
        one.sign !== other.sign &&
        Math.abs(one.db - other.db) < sameDb
      )
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
  for (const channel of link.output.channels) {
    const cold = facts.legs.find((leg) => leg.signal === channel.signal && leg.leg === 'cold')
    const [reach] = facts.reaches.filter(({ signal, db }) => signal === channel.signal && db > audibleDb)
    if (cold && reach && cold.loadOhm / cold.sourceOhm < shortedShare && reach.db < -5)
      find(
        'note',
        'half level',
        output,
        `Half the level of ${channel.signal} arrives.`,
        `${decibels(reach.db)} are lost: one of two legs drives nothing.`,
        'Allow for 6 dB, or use a transformer.',
      )
  }

  for (const need of facts.needs) {
    if (need.volts < need.leastVolts * 0.2)
      find(
        'dead',
        'supply missing',
        output,
        `${output} gets no power.`,
        `${need.name} wants ${volts(need.leastVolts)} and gets ${volts(need.volts)}.`,
        'Switch the supply on, or put a supply between.',
      )
    else if (need.volts < need.leastVolts)
      find(
        'degraded',
        'supply weak',
        output,
        `${output} gets too little power.`,
        `${need.name} wants ${volts(need.leastVolts)} and gets ${volts(need.volts)}.`,
        'Use the supply it is made for; it will be quiet and clip early.',
      )
  }
  for (const supply of facts.supplies) {
    const input = link.inputs[supply.input]!.name
    if (Math.abs(supply.volts) < 0.02 * supply.openVolts)
      find(
        supply.openVolts > 12 ? 'harmful' : 'degraded',
        'supply shorted',
        `${input}, contact ${supply.contact}`,
        `${supply.name} of ${input} runs into ground.`,
        `${volts(supply.openVolts)} drive ${milliamperes(supply.amperes)} through contact ${supply.contact}.`,
        'Switch it off before plugging; mute first.',
      )
  }
  if (!link.output.needs?.length) {
    const bears = link.output.bearsVolts ?? 3 / gravelyOver
    for (const { contact, volts: on, amperes } of troublingDc(link, facts))
      if (Math.abs(on) > Math.max(link.output.bearsVolts ?? 0, harmlessVolts))
        find(
          Math.abs(on) > Math.min(3, gravelyOver * bears) ? 'harmful' : 'degraded',
          'foreign supply',
          `${output}, contact ${contact}`,
          `${volts(on)} of DC stand on ${output}, which was not built for it.`,
          `${milliamperes(amperes)} flow into contact ${contact}.`,
          'Switch the supply off, or put a blocking capacitor or a transformer between.',
        )
  }

  for (const { input: index, contact, volts: on } of facts.inputDc) {
    const input = link.inputs[index]!
    if (Math.abs(on) > (input.bearsVolts ?? usualInputBearsVolts))
      find(
        Math.abs(on) > 3 ? 'harmful' : 'degraded',
        'foreign supply',
        `${input.name}, contact ${contact}`,
        `${volts(on)} of DC stand on ${input.name}, which was not built for it.`,
        `They come over contact ${contact}.`,
        'Switch the supply off, or put a blocking capacitor or a transformer between.',
      )
  }
  for (const [index, input] of link.inputs.slice(0, link.asked).entries()) {
    const { digital: gives } = link.output
    const { digital: takes } = input
    const heard = facts.reaches.some((reach) => reach.input === index && reach.db > audibleDb)
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

  const lengthM = wayTo(link, 0).reduce((sum, index) => sum + (link.pieces[index]!.lengthM ?? 0), 0)
  const open = facts.balanced.filter(({ input, balanced }) => !balanced && !facts.streams.includes(input))
  if (open.length && lengthM > 0) {
    const hum = (field: number) =>
      `${humDbu(field * lengthM)
        .toFixed(0)
        .replace('-', '\u2212')} dBu`
    find(
      lengthM > 3 ? 'degraded' : 'note',
      'unbalanced',
      link.inputs[open[0]!.input]!.name,
      `${lengthM} m run unbalanced.`,
      `An estimate: ${hum(quietFieldVoltsPerM)} of hum in a quiet place, ${hum(nearMainsVoltsPerM)} near mains, ${hum(nearMotorsVoltsPerM)} near dimmers and motors; balanced 60 dB less.`,
      lengthM > 3
        ? 'Keep it short, or use a transformer at its end. Never lift a protective earth.'
        : 'Keep it as short as it is.',
    )
  }
  return found
}
