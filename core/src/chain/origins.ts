import {
  directLevelDb,
  echoTakenInDba,
  noisesTakenIn,
  patternDb,
  steadyNoiseCrestDb,
  windNoiseDba,
} from '../acoustics'
import { type Box, type Gear, levelsOf, type Patch, type Strip, known } from '../model'
import { powerSumDb, speedOfSoundMPerS } from '../units'
import { addNode } from './building'
import type { Graph } from './graph'
import { through } from './reading'

/** Sound entering a microphone at a place: its sources, and the noise of the place. */
export function enterMicrophone(
  graph: Graph,
  { brief }: Patch,
  box: Box,
  gear: Gear,
  strip: Strip,
): number | undefined {
  const place = brief.places.find(({ id }) => id === box.place)
  if (!place) return undefined
  const transducer = strip.stages.find((stage) => stage.kind === 'transducer')
  const pattern = transducer?.pattern ?? 1
  const node = addEntry(
    graph,
    `${box.id}.${strip.id}.air`,
    box.id,
    box.name ?? gear.name,
    'At the capsule',
    'pressure',
  )
  for (const { source: id, distanceM, angleDeg } of place.hears) {
    const source = known(
      brief.sources.find((candidate) => candidate.id === id),
      `source ${id}`,
    )
    const levels = levelsOf(source)
    const heard = (levelDb: number) => directLevelDb(levelDb, distanceM) + patternDb(pattern, angleDeg)
    graph.origins.push({
      node,
      source,
      unit: 'dB SPL',
      quietestDb: heard(levels.quietest),
      typicalDb: heard(levels.typical),
      loudestDb: heard(levels.loudest),
      delayS: distanceM / speedOfSoundMPerS,
      echoDb: source.kind === 'line' ? -Infinity : echoTakenInDba(brief, levels.typical, pattern),
    })
  }
  const noises = noisesTakenIn(brief, pattern, place, box.cover)
  if (noises.length)
    graph.entryNoises.push({
      node,
      noises,
      levelDb: powerSumDb(noises.map(({ levelDba }) => levelDba)),
      windDb: windNoiseDba(brief, box.cover),
    })
  return node
}

/** Where a line feed of the house enters: with its levels, and the noise that comes with it. */
export function enterDesk(
  graph: Graph,
  { brief }: Patch,
  box: Box,
  boxName: string,
  strip: Strip,
): number | undefined {
  const source = brief.sources.find(({ id }) => id === box.source)
  if (source?.kind !== 'line') return undefined
  const node = addEntry(graph, `${box.id}.${strip.id}.feed`, box.id, boxName, 'The feed', 'volts')
  const { quietest, typical, loudest } = source.levelsDbu
  graph.origins.push({
    node,
    source,
    unit: 'dBu',
    quietestDb: quietest,
    typicalDb: typical,
    loudestDb: loudest,
    delayS: 0,
    echoDb: -Infinity,
  })
  const levelDba = source.noiseDbuA
  if (levelDba !== undefined)
    graph.entryNoises.push({
      node,
      noises: [{ spectrum: 'even', levelDba, loudestDba: levelDba, crestDb: steadyNoiseCrestDb }],
      levelDb: levelDba,
      windDb: -Infinity,
    })
  return node
}

const addEntry = (
  graph: Graph,
  id: string,
  part: string,
  partName: string,
  name: string,
  domain: 'pressure' | 'volts',
): number =>
  addNode(graph, {
    id,
    part,
    partName,
    name,
    kind: 'origin',
    domain,
    feeds: [],
    controls: [],
    read: () => through,
  })
