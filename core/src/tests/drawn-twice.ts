import fc from 'fast-check'
import { ground, type Netlist, type NodeName, type Part, leakageDb, pluggedLink, tones } from '../circuit'
import { Gear, type GearInput, type Passive, Patch, type Rung, type Shelf } from '../model'
import { pairOf } from './demo'
import { first } from './links'

/*
 * Links made at random, each drawn twice: as gear in a patch, the way a user writes it, and as a circuit drawn here by
 * hand from what the docs say of each figure. Nothing of the circuit room draws the second.
 */

type Three = 'xlr-3' | 'ta-3' | 'jack-3'
type Stage =
  | {
      kind: 'cable'
      lengthM: number
      shieldPf?: number
      corePf?: number
      shield: 'both' | 'from' | 'to' | 'neither'
    }
  | { kind: 'pad'; rungs: Rung[]; across?: 'pair' | 'each' }
  | {
      kind: 'transformer'
      ratio: number
      ohm: number
      secondOhm?: number
      henry: number
      leakage?: number
      earth: boolean
    }
  | { kind: 'capacitors'; microfarad: number }
  | { kind: 'splitter' }

interface Recipe {
  shape: Three
  output: {
    drive: 'floating' | 'symmetric' | 'impedance-balanced' | 'single-ended'
    ohm: number
    /** Current that it wants at 48 V, amperes; 0 for none. */
    wants: number
  }
  stages: Stage[]
  /** Ends in a stereo socket of 3.5 mm over a lead; the stages go on on that side. */
  mini?: {
    ring: boolean
    stages: Exclude<Stage, { kind: 'transformer' | 'splitter' }>[]
    ohm: number
    plugIn: boolean
  }
  input: { ohm: number; legOhm?: number; phantom: boolean }
  beside: { ohm: number; legOhm: number }
}

const ohm = fc.integer({ min: 5, max: 60 }).map((exponent) => Math.round(10 ** (exponent / 12)) + 20)
const series = ohm.map((seriesOhm): Rung => ({ seriesOhm }))
const shunt = ohm.map((shuntOhm): Rung => ({ shuntOhm }))
const maybe = <T>(arbitrary: fc.Arbitrary<T>) => fc.option(arbitrary, { nil: undefined })
const across = fc.constantFrom(undefined, 'pair' as const, 'each' as const)
const farads = fc.integer({ min: 30, max: 250 })

const cable = fc.record({
  kind: fc.constant('cable' as const),
  lengthM: fc.integer({ min: 1, max: 120 }),
  shieldPf: maybe(farads),
  corePf: maybe(farads),
  shield: fc.constantFrom(
    'both' as const,
    'both' as const,
    'from' as const,
    'to' as const,
    'neither' as const,
  ),
})
const pad = fc.record({
  kind: fc.constant('pad' as const),
  rungs: fc.array(fc.oneof(series, shunt), { minLength: 1, maxLength: 5 }),
  across,
})
const capacitors = fc.record({
  kind: fc.constant('capacitors' as const),
  microfarad: fc.constantFrom(1, 4.7, 10, 47, 220),
})
const transformer = fc.record({
  kind: fc.constant('transformer' as const),
  ratio: fc.constantFrom(0.1, 0.5, 1, 2, 10),
  ohm: fc.integer({ min: 1, max: 150 }),
  secondOhm: maybe(fc.integer({ min: 1, max: 900 })),
  henry: fc.constantFrom(0.5, 2, 12, 40),
  leakage: maybe(fc.constantFrom(1e-4, 1e-3, 5e-3)),
  earth: fc.boolean(),
})

/** Recipes of every kind of output and input, over leads, pads, splitters, transformers and capacitors. */
const recipes: fc.Arbitrary<Recipe> = fc.record({
  shape: fc.constantFrom<Three[]>('xlr-3', 'xlr-3', 'ta-3', 'jack-3'),
  output: fc.record({
    drive: fc.constantFrom(
      'floating' as const,
      'symmetric' as const,
      'impedance-balanced' as const,
      'single-ended' as const,
    ),
    ohm: fc.oneof(ohm, fc.constant(0)),
    wants: fc.constantFrom(0, 0, 0.001, 0.004, 0.008),
  }),
  stages: fc.array(
    fc.oneof(cable, pad, capacitors, transformer, fc.constant({ kind: 'splitter' as const })),
    { maxLength: 4 },
  ),
  mini: maybe(
    fc.record({
      ring: fc.boolean(),
      stages: fc.array(fc.oneof(cable, pad, capacitors), { maxLength: 2 }),
      ohm,
      plugIn: fc.boolean(),
    }),
  ),
  input: fc.record({ ohm, legOhm: maybe(ohm), phantom: fc.boolean() }),
  beside: fc.record({ ohm, legOhm: ohm }),
})

export interface DrawnTwice {
  /** What it is made of, in words, for a tally. */
  kinds: string[]
  patch: Patch
  shelf: Shelf
  /** Gear as it was written. */
  circuit: Netlist
  /** Volts across each channel of the first input. */
  channels: { id: string; hot: NodeName; cold: NodeName }[]
  /** Contacts of the output against its own ground. */
  outputs: { contact: string; node: NodeName; ground: NodeName }[]
}

const contactsOf = (shape: Three | 'mini-3'): { hot: string; cold: string; earth: string } =>
  shape === 'jack-3' || shape === 'mini-3'
    ? { hot: 'tip', cold: 'ring', earth: 'sleeve' }
    : { hot: '2', cold: '3', earth: '1' }

/** Where each conductor of a run stands in the circuit. */
interface Run {
  hot: NodeName
  cold: NodeName
  earth: NodeName
}

/**
 * What an ideal source and a resistor of nothing come to, ohm: loops of them would have no answer. Much smaller, and the
 * plain elimination of the tests loses the currents of picofarads beside it to rounding.
 */
const leastOhm = 2e-4

/** Draws circuits: parts with names of their own, nodes with fresh ones. */
class Drawing {
  private readonly parts: Part[] = []
  /** Nodes that a wire has made one with another. */
  private readonly joined = new Map<NodeName, NodeName>()
  private nodes = 0

  node(): NodeName {
    return `n${++this.nodes}`
  }
  resistor(from: NodeName, to: NodeName, ohms: number): void {
    this.parts.push({ kind: 'resistor', id: this.id('r'), from, to, ohm: Math.max(ohms, leastOhm) })
  }
  capacitor(from: NodeName, to: NodeName, farad: number): void {
    if (farad > 0) this.parts.push({ kind: 'capacitor', id: this.id('c'), from, to, farad })
  }
  source(from: NodeName, to: NodeName, volts: number, behindOhm: number, signal?: string): void {
    this.parts.push({
      kind: 'source',
      id: this.id('v'),
      from,
      to,
      volts,
      ohm: Math.max(behindOhm, leastOhm),
      signal,
    })
  }
  wire(from: NodeName, to: NodeName): void {
    const [one, other] = [this.joint(from), this.joint(to)]
    if (one === other) return
    if (one === ground) this.joined.set(other, one)
    else this.joined.set(one, other)
  }
  /** The node that stands for one and all that wires join it with. */
  joint(node: NodeName): NodeName {
    const next = this.joined.get(node)
    return next === undefined ? node : this.joint(next)
  }
  /** The parts between the nodes that are left; one whose ends are joined does nothing. */
  circuit(): Netlist {
    return this.parts.flatMap((part): Part[] => {
      if ('first' in part) {
        const pair = ([from, to]: readonly [NodeName, NodeName]): [NodeName, NodeName] => [
          this.joint(from),
          this.joint(to),
        ]
        return [{ ...part, first: pair(part.first), second: pair(part.second) }]
      }
      const [from, to] = [this.joint(part.from), this.joint(part.to)]
      return from === to ? [] : [{ ...part, from, to }]
    })
  }
  private id(letter: string): string {
    return `${letter}${this.parts.length}`
  }

  /** A run behind a stage. */
  behind(run: Run, stage: Stage, balanced: boolean): Run {
    switch (stage.kind) {
      case 'cable':
        return this.cable(run, stage)
      case 'pad':
        return this.pad(run, stage, balanced)
      case 'capacitors': {
        const next = { hot: this.node(), cold: this.node(), earth: run.earth }
        this.capacitor(run.hot, next.hot, stage.microfarad * 1e-6)
        this.capacitor(run.cold, next.cold, stage.microfarad * 1e-6)
        return next
      }
      case 'transformer':
        return this.transformer(run, stage)
      case 'splitter':
        return run
    }
  }

  /** Capacitance between cores and from each core to the shield; one from the other where only one is known. */
  private cable(run: Run, { lengthM, shieldPf, corePf, shield }: Extract<Stage, { kind: 'cable' }>): Run {
    const toShield = (shieldPf ?? (corePf ?? 0) * 2) * lengthM * 1e-12
    const between = (corePf ?? (shieldPf ?? 0) / 2) * lengthM * 1e-12
    const next = shield === 'both' ? run : { ...run, earth: this.node() }
    const screen =
      shield === 'both' || shield === 'from' ? run.earth : shield === 'to' ? next.earth : this.node()
    this.capacitor(run.hot, run.cold, between)
    this.capacitor(run.hot, screen, toShield)
    this.capacitor(run.cold, screen, toShield)
    return next
  }

  /** Across the pair half of each series resistance lies in each leg; in each conductor by itself all of it. */
  private pad(run: Run, { rungs, across: stated }: Extract<Stage, { kind: 'pad' }>, balanced: boolean): Run {
    const asPair = stated === undefined ? balanced : stated === 'pair'
    let { hot, cold } = run
    for (const rung of rungs)
      if ('seriesOhm' in rung) {
        const [nextHot, nextCold] = [this.node(), this.node()]
        this.resistor(hot, nextHot, asPair ? rung.seriesOhm / 2 : rung.seriesOhm)
        this.resistor(cold, nextCold, asPair ? rung.seriesOhm / 2 : rung.seriesOhm)
        ;[hot, cold] = [nextHot, nextCold]
      } else if (asPair) this.resistor(hot, cold, rung.shuntOhm)
      else {
        this.resistor(hot, run.earth, rung.shuntOhm)
        this.resistor(cold, run.earth, rung.shuntOhm)
      }
    return { hot, cold, earth: run.earth }
  }

  private transformer(run: Run, stage: Extract<Stage, { kind: 'transformer' }>): Run {
    const next = { hot: this.node(), cold: this.node(), earth: stage.earth ? run.earth : this.node() }
    this.parts.push({
      kind: 'transformer',
      id: this.id('t'),
      first: [run.hot, run.cold],
      second: [next.hot, next.cold],
      ratio: stage.ratio,
      firstOhm: stage.ohm,
      secondOhm: stage.secondOhm ?? stage.ohm * stage.ratio ** 2,
      henry: stage.henry,
      leakageHenry: stage.leakage ?? 0,
    })
    return next
  }

  output({ drive, ohm: ohms, wants }: Recipe['output']): Run {
    const run = { hot: this.node(), cold: this.node(), earth: this.node() }
    // what is powered over a leg that it drives against ground has a capacitor in it
    const behind = (leg: NodeName): NodeName => {
      if (!wants) return leg
      const inner = this.node()
      this.capacitor(leg, inner, 100e-6)
      return inner
    }
    if (drive === 'floating') this.source(run.hot, run.cold, 1, ohms, 'sound')
    else if (drive === 'symmetric') {
      this.source(behind(run.hot), run.earth, 0.5, ohms, 'sound')
      this.source(behind(run.cold), run.earth, -0.5, ohms, 'sound')
    } else {
      this.source(behind(run.hot), run.earth, 1, ohms, 'sound')
      if (drive === 'impedance-balanced') this.resistor(behind(run.cold), run.earth, ohms)
    }
    if (wants) for (const leg of [run.hot, run.cold]) this.resistor(leg, run.earth, (48 / wants) * 2)
    return run
  }

  balancedInput(run: Run, own: NodeName, { ohm: ohms, legOhm, phantom }: Recipe['input']): void {
    this.wire(run.earth, own)
    // what says nothing of its legs has them at ten times its impedance, and all together is what it states
    const leg = legOhm ?? ohms * 10
    this.resistor(run.hot, run.cold, legOhm === undefined ? (ohms * 20) / 19 : ohms)
    for (const each of [run.hot, run.cold]) this.resistor(each, own, leg)
    if (phantom) for (const each of [run.hot, run.cold]) this.source(each, own, 48, 6810)
  }

  stereoInput(run: Run, own: NodeName, ohms: number, plugIn: boolean): void {
    this.wire(run.earth, own)
    for (const each of [run.hot, run.cold]) {
      this.resistor(each, own, ohms)
      if (plugIn) this.source(each, own, 2.5, 2200)
    }
  }
}

/** A recipe with what cannot be left out: one splitter at most, and legs that are stated where a supply feeds them. */
function sensible(recipe: Recipe): Recipe {
  const splitterAt = recipe.stages.findIndex(({ kind }) => kind === 'splitter')
  const { input, output } = recipe
  return {
    ...recipe,
    // one that has no second leg has none to be powered over either
    output: { ...output, wants: output.drive === 'single-ended' ? 0 : output.wants },
    stages: recipe.stages.filter(({ kind }, index) => kind !== 'splitter' || index === splitterAt),
    input: { ...input, legOhm: input.phantom ? (input.legOhm ?? 47_000) : input.legOhm },
  }
}

function drawn({ output, stages, mini, input, beside }: Recipe): Pick<
  DrawnTwice,
  'circuit' | 'channels' | 'outputs'
> & {
  start: Run
} {
  const drawing = new Drawing()
  const start = drawing.output(output)
  let run = start
  for (const stage of stages) {
    run = drawing.behind(run, stage, true)
    if (stage.kind === 'splitter') {
      const own = drawing.node()
      drawing.balancedInput(run, own, { ...beside, phantom: false })
    }
  }
  if (!mini) {
    drawing.balancedInput(run, ground, input)
    return {
      circuit: drawing.circuit(),
      channels: [{ id: 'one', hot: drawing.joint(run.hot), cold: drawing.joint(run.cold) }],
      outputs: [],
      start: jointsOf(drawing, start),
    }
  }
  // the lead brings hot to the tip, perhaps to the ring as well, and cold with ground to the sleeve
  const next: Run = { hot: run.hot, cold: mini.ring ? run.hot : drawing.node(), earth: run.earth }
  drawing.wire(run.cold, run.earth)
  run = mini.stages.reduce<Run>((so, stage) => drawing.behind(so, stage, false), next)
  drawing.stereoInput(run, ground, mini.ohm, mini.plugIn)
  return {
    circuit: drawing.circuit(),
    channels: [
      { id: 'left', hot: drawing.joint(run.hot), cold: ground },
      { id: 'right', hot: drawing.joint(run.cold), cold: ground },
    ],
    outputs: [],
    start: jointsOf(drawing, start),
  }
}

const jointsOf = (drawing: Drawing, { hot, cold, earth }: Run): Run => ({
  hot: drawing.joint(hot),
  cold: drawing.joint(cold),
  earth: drawing.joint(earth),
})

/** A stage as gear. */
function passiveOf(stage: Stage, shape: Three | 'mini-3'): Passive {
  const { hot, cold, earth } = contactsOf(shape)
  const straight = { from: shape, to: shape, ...gendersOf(shape) }
  const legs: [string, string][] = [
    [hot, hot],
    [cold, cold],
  ]
  const whole: [string, string][] = [...legs, [earth, earth]]
  const passive = (() => {
    switch (stage.kind) {
      case 'cable':
        return {
          ...straight,
          wires: stage.shield === 'both' ? whole : legs,
          shieldedAt: stage.shield,
          lengthM: stage.lengthM,
          picofaradPerM: stage.shieldPf,
          corePicofaradPerM: stage.corePf,
        }
      case 'pad':
        return { ...straight, ladder: stage.rungs, ladderAcross: stage.across }
      case 'capacitors':
        return {
          ...straight,
          wires: [[earth, earth]],
          parts: legs.map(([contact]) => ({
            kind: 'capacitor',
            from: { end: 0, contact },
            to: { end: 1, contact },
            microfarad: stage.microfarad,
          })),
        }
      case 'transformer':
        return {
          ...straight,
          wires: stage.earth ? [[earth, earth]] : [],
          parts: [
            {
              kind: 'transformer',
              first: [
                { end: 0, contact: hot },
                { end: 0, contact: cold },
              ],
              second: [
                { end: 1, contact: hot },
                { end: 1, contact: cold },
              ],
              ratio: stage.ratio,
              windingOhm: stage.ohm,
              secondWindingOhm: stage.secondOhm,
              henry: stage.henry,
              leakageHenry: stage.leakage,
            },
          ],
        }
      case 'splitter':
        return { ...straight, more: [{ connector: shape, gender: gendersOf(shape).toGender, wires: whole }] }
    }
  })()
  return passive as Passive
}

const gendersOf = (shape: Three | 'mini-3') =>
  shape === 'jack-3' || shape === 'mini-3'
    ? ({ fromGender: 'socket', toGender: 'plug' } as const)
    : ({ fromGender: 'socket', toGender: 'plug' } as const)

const passiveGear = (id: string, passive: Passive): GearInput => ({
  id,
  name: id,
  maker: 'Tarnwick',
  kind: 'adapter',
  passive: passive,
})

const boxGear = (id: string, ports: GearInput['ports']): GearInput => ({
  id,
  name: id,
  maker: 'Tarnwick',
  kind: 'recorder',
  ports,
})

function asGear(recipe: Recipe): Pick<DrawnTwice, 'patch' | 'shelf'> {
  const { shape, output, stages, mini, input, beside } = recipe
  const { hot, cold } = contactsOf(shape)
  const out = boxGear('out', [
    {
      id: 'out',
      name: 'out',
      direction: 'out',
      connector: shape,
      gender: 'plug',
      balanced: true,
      drive: output.drive,
      impedanceOhm: output.ohm === 0 ? undefined : output.ohm,
      needs: output.wants
        ? [
            {
              name: 'power',
              contacts: [hot, cold],
              minimumVolts: 9,
              typicalVolts: 48,
              typicalAmperes: output.wants,
            },
          ]
        : undefined,
    },
  ])
  const into = mini
    ? boxGear('into', [
        {
          id: 'in',
          name: 'in',
          direction: 'in',
          connector: 'mini-3',
          gender: 'socket',
          channels: 2,
          impedanceOhm: mini.ohm,
          supplies: mini.plugIn
            ? [{ name: 'plug-in', volts: 2.5, ohm: 2200, contacts: ['tip', 'ring'] }]
            : undefined,
        },
      ])
    : boxGear('into', [balancedPort(shape, input)])
  const other = boxGear('other', [balancedPort(shape, { ...beside, phantom: false })])
  const lead: Passive = {
    from: shape,
    to: 'mini-3',
    fromGender: 'socket',
    toGender: 'plug',
    wires: [
      [hot, 'tip'],
      ...(mini?.ring ? [[hot, 'ring'] as [string, string]] : []),
      [cold, 'sleeve'],
      [contactsOf(shape).earth, 'sleeve'],
    ],
    ladder: [],
  }
  const passives = [
    ...stages.map((stage) => ({ stage, passive: passiveOf(stage, shape) })),
    ...(mini ? [{ stage: undefined, passive: lead }] : []),
    ...(mini?.stages ?? []).map((stage) => ({ stage, passive: passiveOf(stage, 'mini-3') })),
  ]
  const gear = [
    out,
    into,
    other,
    ...passives.map(({ passive }, index) => passiveGear(`piece-${index}`, passive)),
  ].map((each) => Gear.parse(each))
  const shelf: Shelf = new Map(gear.map((each) => [each.id, each]))
  const patch = pairOf(shelf.get('out')!, 'out', shelf.get('into')!, 'in')
  const pieces = passives.map((_, index) => ({
    id: `p${index}`,
    gear: `piece-${index}`,
    settings: {},
    locked: [],
  }))
  const split = stages.findIndex(({ kind }) => kind === 'splitter')
  return {
    shelf,
    patch: Patch.parse({
      ...patch,
      boxes:
        split < 0 ? patch.boxes : [...patch.boxes, { id: 'three', gear: 'other', settings: {}, locked: [] }],
      links: [
        { ...patch.links[0]!, pieces },
        ...(split < 0
          ? []
          : [
              {
                id: 'beside',
                from: { box: 'one', port: 'out' },
                to: { box: 'three', port: 'in' },
                pieces: [],
                branch: { piece: `p${split}`, end: 2 },
              },
            ]),
      ],
    }),
  }
}

const balancedPort = (
  shape: Three,
  { ohm: ohms, legOhm, phantom }: Recipe['input'],
): NonNullable<GearInput['ports']>[number] => ({
  id: 'in',
  name: 'in',
  direction: 'in',
  connector: shape,
  gender: 'socket',
  balanced: true,
  impedanceOhm: ohms,
  commonModeOhm: legOhm,
  supplies: phantom
    ? [{ name: 'phantom', volts: 48, ohm: 6810, contacts: [contactsOf(shape).hot, contactsOf(shape).cold] }]
    : undefined,
})

/** Links of every kind, drawn twice. */
export const drawnTwice: fc.Arbitrary<DrawnTwice> = recipes.map((raw) => {
  const recipe = sensible(raw)
  const { shape, output, stages, mini, input } = recipe
  const { start, circuit, channels } = drawn(recipe)
  const contacts = contactsOf(shape)
  return {
    ...asGear(recipe),
    kinds: [
      `${output.drive} output`,
      ...stages.map(({ kind }) => kind),
      ...(mini?.stages ?? []).map(({ kind }) => kind),
      mini ? 'stereo input' : 'balanced input',
      ...((mini ? mini.plugIn : input.phantom) ? ['supply'] : []),
      ...(output.wants ? ['powered output'] : []),
    ],
    circuit,
    channels,
    outputs: [
      { contact: contacts.hot, node: start.hot, ground: start.earth },
      ...(output.drive === 'single-ended'
        ? []
        : [{ contact: contacts.cold, node: start.cold, ground: start.earth }]),
    ],
  }
})

/** A figure of the circuit room beside the same one from elsewhere. */
export interface Compared {
  what: string
  unit: 'dB' | 'V'
  mine: number
  other: number
}

/** Voltages of a circuit by node, as complex numbers, at a frequency; DC at 0. */
type Solved = (hz: number) => ReadonlyMap<NodeName, readonly [re: number, im: number]>

/** Under this nothing is heard, and leakage decides what is left. */
const silentDb = -80

/** Everything that both tell of a link: gains at three frequencies, and DC at the output. */
export function compared({ patch, shelf, channels, outputs }: DrawnTwice, solved: Solved): Compared[] {
  const plugged = pluggedLink(patch, patch.links[0]!, shelf)!
  const facts = first(plugged)
  const at = new Map([0, ...Object.values(tones)].map((hz) => [hz, solved(hz)]))
  const between = (hz: number, one: NodeName, other: NodeName): number => {
    const [a, b] = [one, other].map((node) => at.get(hz)!.get(node) ?? [0, 0])
    return hz === 0 ? a![0] - b![0] : Math.hypot(a![0] - b![0], a![1] - b![1])
  }
  const sounds = channels.flatMap(({ id, hot, cold }): Compared[] => {
    const reach = facts.reaches.find(({ channel }) => channel === id)
    const mineDb = (hz: number) =>
      (reach?.db ?? -Infinity) +
      (hz === tones.high ? (reach?.trebleDb ?? 0) : hz === tones.low ? (reach?.bassDb ?? 0) : 0)
    // treble and bass are stated of what is heard alone
    const heard = (reach?.db ?? -Infinity) > leakageDb
    const stated = Object.values(tones).filter((hz) => heard || (hz !== tones.high && hz !== tones.low))
    return stated.map((hz) => ({
      what: `${id} at ${hz} Hz`,
      unit: 'dB',
      mine: Math.max(silentDb, mineDb(hz)),
      other: Math.max(silentDb, 20 * Math.log10(between(hz, hot, cold))),
    }))
  })
  const stands = outputs.map(({ contact, node, ground: own }): Compared => ({
    what: `DC on ${contact}`,
    unit: 'V',
    mine: facts.outputDc.find((each) => each.contact === contact)!.volts,
    other: between(0, node, own),
  }))
  return [...sounds, ...stands]
}
