import {
  type Box,
  type Gear,
  type Patch,
  type Shelf,
  type Stage,
  amountsOf,
  shelfFor,
  stageNames,
  type Strip,
  controlKey,
  boxOf,
  gearOf,
  known,
  portOf,
  partsOf,
} from '../model'
import { arrivals } from './arrivals'
import { addNode, type Building, channelKey, sumOf } from './building'
import type { Domain, Graph } from './graph'
import { enterDesk, enterMicrophone } from './origins'
import { readingOfStage } from './reading'
import { stepsOf } from './steps'

/** Lays a patch out as a graph. The patch must have passed `checkPatch`. */
export function graphOf(patch: Patch, commonShelf: Shelf): Graph {
  const shelf = shelfFor(patch, commonShelf)
  const graph: Graph = {
    nodes: [],
    steps: [],
    origins: [],
    entryNoises: [],
    ends: [],
    settings: new Map(),
    assumptions: [],
  }
  const building: Building = { graph, patch, shelf, commonShelf, driven: new Map() }
  for (const part of partsOf(patch))
    for (const control of gearOf(shelf, part.gear).controls)
      graph.settings.set(controlKey(part.id, control.id), part.settings[control.id] ?? control.initial)
  for (const box of inOrder(patch)) layBox(building, box)
  linkAutomaticGain(graph)
  graph.steps = stepsOf(graph)
  return graph
}

/** Lays out the strips of a box behind what arrives at it. */
function layBox(building: Building, box: Box): void {
  const { graph, patch, shelf, driven } = building
  const gear = gearOf(shelf, box.gear)
  const boxName = box.name ?? gear.name
  const arriving = arrivals(building, box)
  const intoBus = new Map<string, number[]>()
  const intoPort = new Map<string, number[]>()
  const entry = (strip: Strip): { node: number; domain: Domain; plugged: boolean } | undefined => {
    if ('bus' in strip.from) {
      const node = sumOf(graph, intoBus.get(strip.from.bus) ?? [], {
        id: `${box.id}.${strip.from.bus}`,
        part: box.id,
        partName: boxName,
      })
      return node === undefined ? undefined : { node, domain: graph.nodes[node]!.domain, plugged: false }
    }
    const from = strip.from
    const port = portOf(gear, from.port)
    if (port.connector === 'air') {
      const node = enterMicrophone(graph, patch, box, gear, strip)
      return node === undefined ? undefined : { node, domain: 'pressure', plugged: false }
    }
    const plugged = arriving.get(channelKey(box.id, port.id, from.channel))
    const node = plugged ?? enterDesk(graph, patch, box, boxName, strip)
    if (node === undefined) return undefined
    return { node, domain: port.digital ? 'digital' : 'volts', plugged: plugged !== undefined }
  }
  for (const strip of stripsInOrder(gear)) {
    const begins = entry(strip)
    if (!begins) continue
    const last = layStages(graph, box, gear, strip, begins)
    for (const to of strip.to) {
      const [into, key] =
        'bus' in to ? [intoBus, to.bus] : [intoPort, channelKey(box.id, to.port, to.channel)]
      into.set(key, (into.get(key) ?? []).concat(last))
    }
  }
  for (const [key, feeds] of intoPort)
    driven.set(
      key,
      known(sumOf(graph, feeds, { id: key, part: box.id, partName: boxName }), `what leaves by ${key}`),
    )
}

/** Lays out the stages of a strip; returns the last node. */
function layStages(
  graph: Graph,
  box: Box,
  gear: Gear,
  strip: Strip,
  begins: { node: number; domain: Domain; plugged: boolean },
): number {
  const boxName = box.name ?? gear.name
  let { node: last, domain } = begins
  // the first amplifier behind a socket meets what is plugged in there
  let behindLink = begins.plugged
  strip.stages.forEach((stage, index) => {
    domain = domainAfter[stage.kind] ?? domain
    const name = stage.name ?? stageNames[stage.kind]
    last = addNode(graph, {
      id: `${box.id}.${strip.id}.${index}`,
      part: box.id,
      partName: boxName,
      name,
      kind: stage.kind,
      stage,
      domain,
      feeds: [last],
      controls: controlsOf(stage).map((control) => controlKey(box.id, control)),
      read: readingOfStage(stage, box.id, gear.kind, behindLink),
      delayS: stage.kind === 'radio' && stage.delayMs > 0 ? stage.delayMs / 1000 : undefined,
    })
    if (stage.kind === 'gain') behindLink = false
    if (stage.kind === 'recording' || stage.kind === 'listen')
      graph.ends.push({ node: last, box: box.id, gear, stage })
    for (const [field, value] of Object.entries(stage))
      if (value === 'unknown') graph.assumptions.push({ partName: boxName, place: name, figure: field })
  })
  return last
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
    for (const link of patch.links) if (link.to.box === box.id) visit(boxOf(patch, link.from.box))
    ordered.push(box)
  }
  patch.boxes.forEach(visit)
  return ordered
}

/** Strips so that a bus comes after everything that feeds it. */
function stripsInOrder(gear: Gear): Strip[] {
  const done = new Set<string>()
  const ordered: Strip[] = []
  const visit = (strip: Strip) => {
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

/** The domain that a stage leaves its signal in, where it changes it. */
export const domainAfter: Partial<Record<Stage['kind'], Domain>> = {
  transducer: 'volts',
  'converter-in': 'digital',
  'converter-out': 'volts',
  listen: 'pressure',
}

/** Automatic gains of one name in one box turn together. */
function linkAutomaticGain(graph: Graph): void {
  const groups = new Map<string, number[]>()
  for (const { index, part, stage } of graph.nodes)
    if (stage?.kind === 'agc' && stage.linked) {
      const key = `${part} ${stage.linked}`
      groups.set(key, [...(groups.get(key) ?? []), index])
    }
  for (const group of groups.values())
    if (group.length > 1)
      for (const index of group) graph.nodes[index]!.linked = group.filter((each) => each !== index)
}
