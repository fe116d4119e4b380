import { directLevelDb, echoTakenInDba, noiseTakenInDba, patternDb, windNoiseDba } from '../acoustics'
import {
  type Box,
  type Gear,
  type Link,
  type Patch,
  type Shelf,
  type Stage,
  amountsOf,
  levelsOf,
  shelfFor,
  stageNames,
} from '../model'
import { powerSumDb } from '../units'
import { effectOfStage, steady } from './effect'
import { linkAutomaticGain } from './linked-gain'
import type { Domain, Graph, Node } from './nodes'
import { circuitOf, controlsOnLink, lossesOf, type Side } from './link-gain'

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
    const into = new Map<string, { node: number; silent: boolean }[]>()
    for (const link of patch.links) if (link.to.box === box.id) arrive(link, gear, boxName, into)
    // of several leads into one socket, those that bring nothing to a channel do not count there
    const arriving = new Map(
      [...into].map(([key, ends]) => {
        const heard = ends.filter(({ silent }) => !silent)
        return [
          key,
          sum(
            (heard.length ? heard : ends).map(({ node }) => node),
            key,
            box.id,
            boxName,
          )!,
        ]
      }),
    )
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
        } else {
          domain = port.digital ? 'digital' : 'volts'
          last =
            arriving.get(channelKey(box.id, port.id, from.channel)) ??
            deskOrigin(patch, box, boxName, strip.id)
        }
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
  linkAutomaticGain(graph)
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
    const windDb = windNoiseDba(each.brief, box.cover)
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
        placeNoiseDb: powerSumDb([noiseTakenInDba(each.brief, pattern, place), windDb]),
        windDb,
        echoDb: source.kind === 'line' ? -Infinity : echoTakenInDba(each.brief, levels.typical, pattern),
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
      echoDb: -Infinity,
      windDb: -Infinity,
    })
    return node
  }

  /** Brings a link's signal to the input port, channel by channel, through its pieces and into its load. */
  function arrive(
    link: Link,
    toGear: Gear,
    toName: string,
    into: Map<string, { node: number; silent: boolean }[]>,
  ): void {
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
    const shares = lossesOf(link, out, patch, gearOf)
    const controls = controlsOnLink(patch, link, gearOf)
    const circuit = circuitOf(patch, link, commonShelf)
    for (const channel of input.channels === 2 ? (['left', 'right'] as const) : (['left'] as const)) {
      // without contacts to go by, one channel feeds both sides; of two channels a single input takes the left
      const sides: Side[] = circuit?.(channel) ?? [{ from: out.channels === 2 ? channel : 'left' }]
      const ends = sides.flatMap((side) => {
        const from = driven.get(channelKey(fromBox.id, out.id, side.from))
        if (from === undefined) return []
        let last = from
        let domain = graph.nodes[from]!.domain
        const rows = pieces.length
          ? pieces.map(({ piece, gear }) => ({
              part: piece.id,
              gear,
              name: gear.name,
              partName: gear.name,
              kind: 'piece' as const,
            }))
          : [{ part: link.to.box, gear: toGear, name: 'Input', partName: toName, kind: 'junction' as const }]
        rows.forEach((row, index) => {
          const id = `${link.id}.${channel}.${side.from}.${index}`
          const converter = row.kind === 'piece' ? converterOf(row.gear) : undefined
          const convert = () => {
            domain = domainAfter[converter!.kind]!
            last = add({
              ...row,
              id: `${id}.converter`,
              name: stageNames[converter!.kind],
              kind: converter!.kind,
              stage: converter,
              domain,
              feeds: [last],
              controls: [],
              effect: effectOfStage(converter!, row.part, row.gear.kind),
            })
          }
          if (converter?.kind === 'converter-out') convert()
          const isLast = index === rows.length - 1
          last = add({
            ...row,
            id,
            domain,
            sign: isLast ? side.sign : undefined,
            feeds: [last],
            controls: row.kind === 'piece' || controls.length ? controls : [],
            effect: (_, at) => {
              const { gainsDb, sourceOhm } = shares(at)
              const solved = side.gain?.(at)
              // the ladder shares the loss out; what the contacts really pass is made good at the last piece
              const rest = solved && isLast ? solved.db - gainsDb.reduce((sum, gain) => sum + gain, 0) : 0
              return steady(
                gainsDb[index]! + rest,
                solved?.sourceOhm ?? sourceOhm,
                isLast && side.humDbuA !== undefined ? { outputNoiseDb: side.humDbuA } : undefined,
              )
            },
          })
          if (converter?.kind === 'converter-in') convert()
        })
        return [last]
      })
      const joined = sum(ends, `${link.id}.${channel}`, link.to.box, toName)
      if (joined === undefined) continue
      const key = channelKey(link.to.box, input.id, channel)
      const silent = sides.every((side) => side.silent === true)
      into.set(key, (into.get(key) ?? []).concat({ node: joined, silent }))
    }
  }
}

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

/** The converter inside a piece, as a stage. */
function converterOf({ passive }: Gear): Stage | undefined {
  const part = passive?.parts?.find(({ kind }) => kind === 'converter')
  if (part?.kind !== 'converter' || !passive?.converter) return undefined
  const { fullScaleDbu, noiseDbfsA } = passive.converter
  return part.way === 'in'
    ? { kind: 'converter-in', fullScaleDbu, noiseDbfsA }
    : { kind: 'converter-out', fullScaleDbu }
}

const words = (field: string) =>
  field
    .replace(/(DbuA|Dbu|Dba|DbfsA|DbvPa|DbSpl|Ohm|Db)$/, '')
    .replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`)
