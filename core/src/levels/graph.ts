import { directLevelDb, patternDb, placeNoiseDba, randomEnergyEfficiency } from '../acoustics'
import { type Gain, gainsOf, pluggedLink } from '../circuit'
import {
  type Box,
  type Gear,
  type Ladder,
  type Link,
  type Patch,
  type Port,
  type Position,
  type Rung,
  type Shelf,
  type Source,
  type Stage,
  amountsOf,
  levelsOf,
  shelfFor,
  valueOf,
} from '../model'
import { powerDb } from '../units'
import { type At, type EffectOf, effectOfStage, steady } from './effect'
import { inputOhm, loadedLadder } from './ladder'
import { typicalOhm } from './typical'

export type Domain = 'pressure' | 'volts' | 'digital'

/** One place in the chain through which signal runs. Feeds are indices of earlier nodes. */
export interface Node {
  index: number
  id: string
  /** The box or piece it belongs to. */
  part: string
  partName: string
  name: string
  kind: Stage['kind'] | 'origin' | 'piece' | 'junction' | 'sum'
  stage?: Stage
  domain: Domain
  feeds: number[]
  /** Controls that change what it does, as `part.control`. */
  controls: string[]
  effect: EffectOf
}

/** A source as it enters the chain: at a capsule, or at the output of a desk. */
export interface Origin {
  node: number
  source: Source
  unit: 'dB SPL' | 'dBu'
  quietestDb: number
  typicalDb: number
  loudestDb: number
  /** Diffuse noise of the place as this microphone takes it in, or what comes with a line feed; -Infinity for none. */
  placeNoiseDb: number
}

/** Where a run ends: a track being written, or a pair of ears. */
export interface End {
  node: number
  box: string
  gear: Gear
  stage: Extract<Stage, { kind: 'recording' | 'listen' }>
}

/** The chain as a graph in order of flow. Structure only: settings come in with every evaluation. */
export interface Graph {
  nodes: Node[]
  origins: Origin[]
  ends: End[]
  /** Every control of the chain with its gear's initial or set position. */
  settings: Map<string, Position>
  /** Figures nobody knows, for which the typical value stands. */
  assumptions: string[]
}

const channelKey = (box: string, port: string, channel: string) => `${box}.${port}.${channel}`

/** Lays a patch out as a graph. The patch must have passed `checkPatch`. */
export function graphOf(patch: Patch, commonShelf: Shelf): Graph {
  const shelf = shelfFor(patch, commonShelf)
  const graph: Graph = { nodes: [], origins: [], ends: [], settings: new Map(), assumptions: [] }
  const gearOf = (id: string) => shelf.get(id)!
  for (const part of [...patch.boxes, ...patch.links.flatMap(({ through }) => through)])
    for (const control of gearOf(part.gear).controls)
      graph.settings.set(`${part.id}.${control.id}`, part.settings[control.id] ?? control.initial)

  /** Node that drives each channel of each output port. */
  const driven = new Map<string, number>()
  const add = (node: Omit<Node, 'index'>): number => {
    const index = graph.nodes.length
    graph.nodes.push(Object.assign(node, { index }))
    return index
  }

  for (const box of inOrder(patch)) {
    const gear = gearOf(box.gear)
    const boxName = box.name ?? gear.name
    const arriving = new Map<string, number>()
    for (const link of patch.links) if (link.to.box === box.id) arrive(link, gear, boxName, arriving)
    const intoBus = new Map<string, number[]>()
    const intoPort = new Map<string, number[]>()
    for (const strip of stripsInOrder(gear)) {
      let last: number | undefined
      let domain: Domain = 'volts'
      if ('bus' in strip.from) {
        last = sum(intoBus.get(strip.from.bus) ?? [], `${box.id}.${strip.from.bus}`, box.id, boxName)
        if (last !== undefined) domain = graph.nodes[last]!.domain
      } else {
        const from = strip.from
        const port = gear.ports.find(({ id }) => id === from.port)!
        if (port.connector === 'air') {
          domain = 'pressure'
          last = origin(patch, box, gear, boxName, strip.id)
        } else
          last =
            arriving.get(channelKey(box.id, port.id, from.channel)) ??
            deskOrigin(patch, box, boxName, strip.id)
      }
      if (last === undefined) continue
      strip.stages.forEach((stage, index) => {
        domain = domainAfter[stage.kind] ?? domain
        last = add({
          id: `${box.id}.${strip.id}.${index}`,
          part: box.id,
          partName: boxName,
          name: stage.name ?? stageNames[stage.kind],
          kind: stage.kind,
          stage,
          domain,
          feeds: [last!],
          controls: controlsOf(stage).map((control) => `${box.id}.${control}`),
          effect: effectOfStage(stage, box.id, gear.kind),
        })
        if (stage.kind === 'recording' || stage.kind === 'listen')
          graph.ends.push({ node: last, box: box.id, gear, stage })
        for (const [field, value] of Object.entries(stage))
          if (value === 'unknown')
            graph.assumptions.push(
              `${boxName}, ${stage.name ?? stageNames[stage.kind]}: ${words(field)} is not known; a typical value stands in`,
            )
      })
      for (const to of strip.to) {
        const [into, key] =
          'bus' in to ? [intoBus, to.bus] : [intoPort, channelKey(box.id, to.port, to.channel)]
        into.set(key, (into.get(key) ?? []).concat(last))
      }
    }
    for (const [key, feeds] of intoPort) driven.set(key, sum(feeds, key, box.id, boxName)!)
  }
  return graph

  /** Joins several feeds; a single one needs no node. */
  function sum(feeds: number[], id: string, part: string, partName: string): number | undefined {
    if (feeds.length <= 1) return feeds[0]
    const domain = graph.nodes[feeds[0]!]!.domain
    return add({
      id: `${id}.sum`,
      part,
      partName,
      name: 'Mix',
      kind: 'sum',
      domain,
      feeds,
      controls: [],
      effect: () => steady(0, 0),
    })
  }

  function origin(each: Patch, box: Box, gear: Gear, boxName: string, strip: string): number | undefined {
    const place = each.brief.places.find(({ id }) => id === box.place)
    if (!place) return undefined
    const transducer = gear.strips
      .find(({ id }) => id === strip)!
      .stages.find((stage) => stage.kind === 'transducer')
    const pattern = transducer?.pattern ?? 1
    const node = add({
      id: `${box.id}.${strip}.air`,
      part: box.id,
      partName: boxName,
      name: 'At the capsule',
      kind: 'origin',
      domain: 'pressure',
      feeds: [],
      controls: [],
      effect: () => steady(0, 0),
    })
    for (const { source: id, distanceM, angleDeg } of place.hears) {
      const source = each.brief.sources.find((candidate) => candidate.id === id)!
      const levels = levelsOf(source)
      const heard = (levelDb: number) => directLevelDb(levelDb, distanceM) + patternDb(pattern, angleDeg)
      graph.origins.push({
        node,
        source,
        unit: 'dB SPL',
        quietestDb: heard(levels.quietest),
        typicalDb: heard(levels.typical),
        loudestDb: heard(levels.loudest),
        placeNoiseDb: placeNoiseDba(each.brief) + powerDb(randomEnergyEfficiency(pattern)),
      })
    }
    return node
  }

  function deskOrigin(each: Patch, box: Box, boxName: string, strip: string): number | undefined {
    const source = each.brief.sources.find(({ id }) => id === box.source)
    if (source?.kind !== 'line') return undefined
    const node = add({
      id: `${box.id}.${strip}.feed`,
      part: box.id,
      partName: boxName,
      name: 'The feed',
      kind: 'origin',
      domain: 'volts',
      feeds: [],
      controls: [],
      effect: () => steady(0, 0),
    })
    graph.origins.push({
      node,
      source,
      unit: 'dBu',
      quietestDb: source.levelsDbu.quietest,
      typicalDb: source.levelsDbu.typical,
      loudestDb: source.levelsDbu.loudest,
      placeNoiseDb: source.noiseDbuA ?? -Infinity,
    })
    return node
  }

  /** Brings a link's signal to the input port, channel by channel, through its pieces and into its load. */
  function arrive(link: Link, toGear: Gear, toName: string, arriving: Map<string, number>): void {
    const fromBox = patch.boxes.find(({ id }) => id === link.from.box)!
    const out = gearOf(fromBox.gear).ports.find(({ id }) => id === link.from.port)!
    const input = toGear.ports.find(({ id }) => id === link.to.port)!
    for (const [port, name] of [
      [out, fromBox.name ?? gearOf(fromBox.gear).name],
      [input, toName],
    ] as const)
      if (port.impedanceOhm === 'unknown')
        graph.assumptions.push(`${name}, ${port.name}: impedance is not known; a typical value stands in`)
    const pieces = link.through.map((piece) => ({ piece, gear: gearOf(piece.gear) }))
    const solved = linkSolver(link, out, patch, gearOf)
    const controls = siblings(patch, link).flatMap(({ through }) =>
      through.flatMap((piece) =>
        ladderControls(gearOf(piece.gear)).map((control) => `${piece.id}.${control}`),
      ),
    )
    const circuit = circuitOf(patch, link, commonShelf)
    for (const channel of input.channels === 2 ? (['left', 'right'] as const) : (['left'] as const)) {
      // without contacts to go by, one channel feeds both sides; of two channels a single input takes the left
      const sides: Side[] = circuit?.(channel) ?? [
        { from: out.channels === 2 ? channel : 'left', totalDb: undefined },
      ]
      const ends = sides.flatMap(({ from: side, totalDb }) => {
        const from = driven.get(channelKey(fromBox.id, out.id, side))
        if (from === undefined) return []
        let last = from
        const domain = graph.nodes[from]!.domain
        const rows = pieces.length
          ? pieces.map(({ piece, gear }) => ({
              part: piece.id,
              name: gear.name,
              partName: gear.name,
              kind: 'piece' as const,
            }))
          : [{ part: link.to.box, name: 'Input', partName: toName, kind: 'junction' as const }]
        rows.forEach((row, index) => {
          last = add({
            id: `${link.id}.${channel}.${side}.${index}`,
            part: row.part,
            partName: row.partName,
            name: row.name,
            kind: row.kind,
            domain,
            feeds: [last],
            controls: row.kind === 'piece' || siblings(patch, link).length > 1 ? controls : [],
            effect: (_, at) => {
              const { gainsDb, sourceOhm } = solved(at)
              // the ladder shares the loss out; what the contacts really pass is made good at the last piece
              const rest =
                totalDb && index === rows.length - 1
                  ? totalDb(at) - gainsDb.reduce((sum, gain) => sum + gain, 0)
                  : 0
              return steady(gainsDb[index]! + rest, sourceOhm)
            },
          })
        })
        return [last]
      })
      const joined = sum(ends, `${link.id}.${channel}`, link.to.box, toName)
      if (joined !== undefined) arriving.set(channelKey(link.to.box, input.id, channel), joined)
    }
  }
}

/** A channel of an output that reaches an input, and how much of it; without a figure the ladder alone counts. */
interface Side {
  from: 'left' | 'right'
  totalDb: ((at: At) => number) | undefined
}

/** Under this nothing is heard of a signal. */
const silenceDb = -60
/** Stands for nothing at all, where minus infinity would be no number to go on with. */
const nothingDb = -200

type Circuit = (channel: 'left' | 'right') => Side[]

/** Circuits as they were last solved. Documents are immutable: the same link between the same boxes is the same circuit. */
const circuits = new WeakMap<Link, { around: unknown[]; circuit: Circuit | undefined }>()

/**
 * What the contacts of a link bring to each channel of its input, from the circuit. Undefined where there are no
 * plugs or they do not go together (the wiring says so, and a lead that would fit is taken for granted), and where
 * several links hang on one output: there impedances alone count.
 */
function circuitOf(patch: Patch, link: Link, shelf: Shelf): Circuit | undefined {
  if (siblings(patch, link).length > 1) return undefined
  const box = (id: string) => patch.boxes.find((each) => each.id === id)
  const around = [box(link.from.box), box(link.to.box), shelf, patch.gear]
  const known = circuits.get(link)
  if (known && known.around.every((each, index) => each === around[index])) return known.circuit
  const circuit = solvedCircuit(patch, link, shelf)
  circuits.set(link, { around, circuit })
  return circuit
}

function solvedCircuit(patch: Patch, link: Link, shelf: Shelf): Circuit | undefined {
  const plugged = pluggedLink(patch, link, shelf)
  if (!plugged) return undefined
  const solve = (each: NonNullable<typeof plugged>) => gainsOf(each)
  const fixed = solve(plugged)
  if (!fixed) return undefined
  const controls = link.through.flatMap(({ id, gear }) =>
    ladderControls(shelfFor(patch, shelf).get(gear)!).map((control) => `${id}.${control}`),
  )
  const byPosition = new Map<string, Gain[]>()
  /** Gains with the pieces as they are set; only those are turned while nothing else of the link changes. */
  const reading = (at: At): Gain[] => {
    if (controls.length === 0) return fixed
    const key = controls.map(at).join()
    const known = byPosition.get(key) ?? solve(pluggedLink(patch, link, shelf, at)!) ?? fixed
    byPosition.set(key, known)
    return known
  }
  const dual =
    new Set(plugged.output.channels.map(({ signal }) => signal)).size < plugged.output.channels.length
  return (channel: 'left' | 'right'): Side[] => {
    const id = plugged.inputs[0]!.channels.length > 1 ? channel : 'one'
    const heard = fixed.filter((gain) => gain.channel === id && gain.db > silenceDb)
    if (heard.length === 0) return [{ from: 'left', totalDb: () => nothingDb }]
    return heard.map(({ signal }) => ({
      from: signal === 'right' && !dual ? 'right' : 'left',
      totalDb: (at) =>
        Math.max(
          nothingDb,
          reading(at).find((gain) => gain.channel === id && gain.signal === signal)?.db ?? nothingDb,
        ),
    }))
  }
}

const siblings = (patch: Patch, link: Link) =>
  patch.links.filter(({ from }) => from.box === link.from.box && from.port === link.from.port)

/**
 * Loss of a link from impedances: the source behind the output, the pieces as a ladder, the input as load, and
 * whatever else hangs on the same output beside it.
 */
function linkSolver(link: Link, out: Port, patch: Patch, gearOf: (id: string) => Gear) {
  if (out.connector === 'radio') return () => ({ gainsDb: link.through.map(() => 0).concat(0), sourceOhm: 0 })
  const outOhm = out.impedanceOhm === undefined ? 0 : valueOf(out.impedanceOhm, typicalOhm.out)
  const loadOf = (each: Link) => {
    const box = patch.boxes.find(({ id }) => id === each.to.box)!
    const port = gearOf(box.gear).ports.find(({ id }) => id === each.to.port)!
    return port.impedanceOhm === undefined ? Infinity : valueOf(port.impedanceOhm, typicalOhm.in)
  }
  const groupsOf = (each: Link, at: At) =>
    each.through.map((piece) => rungsAt(gearOf(piece.gear).passive!.ladder, piece.id, at))
  const others = siblings(patch, link).filter(({ id }) => id !== link.id)
  return (at: At) => {
    const beside: Rung[] = others.flatMap((other) => {
      const ohm = inputOhm(groupsOf(other, at), loadOf(other))
      return ohm === Infinity || ohm <= 0 ? [] : [{ shuntOhm: ohm }]
    })
    const groups = groupsOf(link, at)
    if (beside.length) {
      if (groups.length) groups[0] = [...beside, ...groups[0]!]
      else groups.push(beside)
    }
    return loadedLadder(outOhm, groups, loadOf(link))
  }
}

function rungsAt(ladder: Ladder, part: string, at: At): Rung[] {
  return Array.isArray(ladder) ? ladder : (ladder.at[at(`${part}.${ladder.control}`)] ?? [])
}

const ladderControls = (gear: Gear): string[] =>
  gear.passive && !Array.isArray(gear.passive.ladder) ? [gear.passive.ladder.control] : []

/** Controls that change what a stage does, by id. */
export function controlsOf(stage: Stage): string[] {
  const fromAmounts = amountsOf(stage).flatMap((amount) =>
    typeof amount === 'number' ? [] : [amount.control],
  )
  return 'when' in stage && stage.when ? [...fromAmounts, stage.when.control] : fromAmounts
}

/** Boxes so that each comes after all that feed it. */
function inOrder(patch: Patch): Box[] {
  const done = new Set<string>()
  const ordered: Box[] = []
  const visit = (box: Box) => {
    if (done.has(box.id)) return
    done.add(box.id)
    for (const link of patch.links)
      if (link.to.box === box.id) visit(patch.boxes.find(({ id }) => id === link.from.box)!)
    ordered.push(box)
  }
  patch.boxes.forEach(visit)
  return ordered
}

/** Strips so that a bus comes after everything that feeds it. */
function stripsInOrder(gear: Gear) {
  const done = new Set<string>()
  const ordered: Gear['strips'] = []
  const visit = (strip: Gear['strips'][number]) => {
    if (done.has(strip.id)) return
    done.add(strip.id)
    const from = strip.from
    if ('bus' in from)
      gear.strips.filter(({ to }) => to.some((end) => 'bus' in end && end.bus === from.bus)).forEach(visit)
    ordered.push(strip)
  }
  gear.strips.forEach(visit)
  return ordered
}

const domainAfter: Partial<Record<Stage['kind'], Domain>> = {
  transducer: 'volts',
  'converter-in': 'digital',
  'converter-out': 'volts',
  listen: 'pressure',
}

const words = (field: string) =>
  field
    .replace(/(DbuA|Dbu|Dba|DbfsA|DbvPa|DbSpl|Ohm|Db)$/, '')
    .replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`)

const stageNames: Record<Stage['kind'], string> = {
  transducer: 'Capsule',
  gain: 'Amplifier',
  pad: 'Pad',
  'low-cut': 'Low-cut',
  limiter: 'Limiter',
  agc: 'Automatic gain',
  'converter-in': 'Converter',
  'digital-gain': 'Digital level',
  duck: 'Ducking',
  'converter-out': 'Converter out',
  radio: 'Radio',
  recording: 'Track',
  listen: 'Ears',
}
