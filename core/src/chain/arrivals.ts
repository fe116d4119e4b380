import { radioLinksOf } from '../radio'
import {
  type Box,
  type Channel,
  type Gear,
  type Link,
  type Port,
  type Stage,
  stageNames,
  partNameOf,
  endOf,
  gearOf,
  known,
} from '../model'
import { addNode, type Building, channelKey, sumOf } from './building'
import { type Arrival, circuitOf, controlsOnLink, type Side } from './link-circuit'
import type { CircuitFinding } from '../findings'
import type { Domain, Node } from './graph'
import { type Read, readingOfStage, through, turnedReading } from './reading'
import { powerSumDb } from '../units'

/** A node at which a link ends, and whether nothing comes through it. */
interface Arrived {
  node: number
  silent: boolean
}

/** Nodes at which the links into a box end, by channel of its inputs. */
export function arrivals(building: Building, box: Box): Map<string, number> {
  const { graph, patch, shelf } = building
  const into = new Map<string, Arrived[]>()
  for (const link of patch.links) if (link.to.box === box.id) arrive(building, link, into)
  // where several leads share a socket, a lead that brings nothing to a channel does not count there
  const where = (key: string) => ({
    id: key,
    part: box.id,
    partName: partNameOf(box, shelf),
  })
  return new Map(
    [...into].map(([key, ends]) => {
      const heard = ends.filter(({ silent }) => !silent)
      const counted = (heard.length ? heard : ends).map(({ node }) => node)
      return [key, known(sumOf(graph, counted, where(key)), `what arrives at ${key}`)]
    }),
  )
}

/** Brings a link's signal to the input port, channel by channel, through its pieces and into its load. */
function arrive(building: Building, link: Link, into: Map<string, Arrived[]>): void {
  const { graph, patch, shelf, commonShelf, driven } = building
  const end = (place: Link['from']) => {
    const { gear, boxName: name, port } = endOf(patch, shelf, place)
    return { gear, name, port }
  }
  const [from, to] = [end(link.from), end(link.to)]
  for (const { name, port } of [from, to])
    if (port.impedanceOhm === 'unknown')
      graph.assumptions.push({ partName: name, place: port.name, figure: 'impedanceOhm' })
  const circuit = circuitOf(patch, link, commonShelf)
  const channels: readonly Channel[] = to.port.channels === 2 ? ['left', 'right'] : ['left']
  for (const channel of channels) {
    const arrival = circuit?.(channel) ?? throughTheAir(building, link, from.port, channel)
    const silent = 'stop' in arrival
    const sides: (Side | undefined)[] = silent ? [undefined] : arrival.sides
    const ends = sides.flatMap((side) => {
      const driver = driven.get(channelKey(link.from.box, from.port.id, side?.from ?? 'left'))
      if (driver === undefined) return []
      const row = rowOf(building, link, to)
      return [layRow(building, link, row, driver, channel, side, silent ? arrival.stop : undefined)]
    })
    const joined = sumOf(graph, ends, {
      id: `${link.id}.${channel}`,
      part: link.to.box,
      partName: to.name,
    })
    if (joined === undefined) continue
    const key = channelKey(link.to.box, to.port.id, channel)
    into.set(key, (into.get(key) ?? []).concat({ node: joined, silent }))
  }
}

/** A link without contacts passes sound unchanged; a radio only if both sides are on one channel. */
function throughTheAir({ patch, commonShelf }: Building, link: Link, from: Port, channel: Channel): Arrival {
  const radio = radioLinksOf(patch, commonShelf).find((each) => each.link === link.id)
  if (radio && !radio.matched)
    return {
      stop: {
        severity: 'dead',
        code: 'channel',
        subject: { where: radio.receiver.name },
        figures: {
          sender: radio.sender.name,
          receiver: radio.receiver.name,
          sendsMhz: radio.sender.carrierMhz,
          listensMhz: radio.receiver.carrierMhz,
        },
      },
    }
  // one channel feeds both sides; of two channels a single input takes the left
  return {
    sides: [
      {
        from: from.channels === 2 ? channel : 'left',
        sign: 1,
        alongDb: () => [0],
        noiseDbuA: () => -Infinity,
        inputNoiseDbuA: () => -Infinity,
      },
    ],
  }
}

/** The pieces along a link, and the input at its end. */
interface Row {
  part: string
  partName: string
  name: string
  gear: Gear
  kind: 'piece' | 'junction'
}

function rowOf({ shelf }: Building, link: Link, to: { gear: Gear; name: string }): Row[] {
  const pieces = link.pieces.map((piece): Row => {
    const gear = gearOf(shelf, piece.gear)
    return { part: piece.id, partName: gear.name, name: gear.name, gear, kind: 'piece' }
  })
  return [...pieces, { part: link.to.box, partName: to.name, name: 'Input', gear: to.gear, kind: 'junction' }]
}

/** Lays the nodes of a link for one side of its output; returns the last. */
function layRow(
  { graph, patch, shelf }: Building,
  link: Link,
  row: readonly Row[],
  driver: number,
  channel: Channel,
  side: Side | undefined,
  stop: CircuitFinding | undefined,
): number {
  const controls = controlsOnLink(patch, link, (id) => gearOf(shelf, id))
  let last = driver
  let domain: Domain = graph.nodes[driver]!.domain
  row.forEach(({ gear, ...each }, index) => {
    const id = `${link.id}.${channel}.${side?.from ?? 'left'}.${index}`
    const isLast = index === row.length - 1
    const converter = each.kind === 'piece' ? converterOf(gear) : undefined
    const convert = () => {
      domain = converter!.kind === 'converter-in' ? 'digital' : 'volts'
      last = addNode(graph, {
        ...each,
        id: `${id}.converter`,
        name: stageNames[converter!.kind],
        kind: converter!.kind,
        stage: converter,
        domain,
        feeds: [last],
        controls: [],
        read: readingOfStage(converter!, each.part, gear.kind),
      })
    }
    if (converter?.kind === 'converter-out') convert()
    const node: Omit<Node, 'index'> = {
      ...each,
      id,
      domain,
      sign: isLast ? side?.sign : undefined,
      feeds: [last],
      // a pad that is turned is another source to the input, too
      controls,
      stop: isLast ? stop : undefined,
      read: side ? readingAlong(side, index, row.length) : () => through,
    }
    last = addNode(graph, node)
    if (converter?.kind === 'converter-in') convert()
  })
  return last
}

/** The reading of one place along a link: its share of the gain, and the noise of the pieces or of the input. */
function readingAlong(side: Side, index: number, length: number): Read {
  return (at) => {
    const noises = [
      // the last piece carries the noise of all; without pieces the input does
      ...(index === Math.max(0, length - 2) ? [side.noiseDbuA(at)] : []),
      ...(index === length - 1 ? [side.inputNoiseDbuA(at)] : []),
    ]
    return turnedReading(side.alongDb(at)[index] ?? 0, { outputNoiseDb: powerSumDb(noises) })
  }
}

/** The converter inside a piece, as a stage. */
function converterOf({
  passive,
}: Gear): Extract<Stage, { kind: 'converter-in' | 'converter-out' }> | undefined {
  const part = passive?.parts?.find(({ kind }) => kind === 'converter')
  if (part?.kind !== 'converter' || !passive?.converter) return undefined
  const { fullScaleDbu, noiseDbfsA } = passive.converter
  return part.direction === 'in'
    ? { kind: 'converter-in', fullScaleDbu, noiseDbfsA }
    : { kind: 'converter-out', fullScaleDbu }
}
