import type { Run } from '../levels'
import { trackKey, lastOf, type Gear, provenanceOf, stageOfNode } from '../model'
import { basisOfWay } from './basis'
import { type Bench, gainBetween, placedBox, positionOf, type ToneWay } from './bench'
import type { LevelControl } from './level-control'
import { type ControlLaw, withPosition } from './readings'
import { type Draft, playedFrom, settingOf } from './step'

/** Silence: the box's own hiss at the planned position, and at a second one if the first does not show which part causes it. */
export function floorSteps(
  bench: Bench,
  way: ToneWay,
  control: LevelControl | undefined,
  found: ControlLaw | undefined,
): Draft[] {
  const { run } = way
  const box = run.end.box
  const placed = placedBox(bench, box)
  if (!isUncertain(placed.gear, run) && !hasFloor(bench, box)) return []
  const planned = control ? positionOf(placed, control.control) : undefined
  const high = control && found && control.positions[highestKnown(found)]
  const positions = [...new Set([planned, high])].filter((each) => each !== undefined || !control)
  return positions.map((position, index): Draft => {
    const settings =
      control && position !== undefined ? withPosition({}, box, control.control.id, position) : {}
    const at = bench.runAt(run.id, settings) ?? run
    return {
      id: `floor ${box} ${position ?? 'level'}`,
      basis: basisOfWay(bench, way),
      kind: 'floor',
      box,
      boxName: placed.name,
      set: control && position !== undefined ? [settingOf(bench, box, control.control.id, position)] : [],
      expect: { kind: 'floor', track: trackKey(run.end), noiseDbfsA: silentNoise(at) },
      run: run.id,
      ...(index > 0 && { why: 'front and back not told apart' as const }),
    }
  })
}

/** Some noise of the box on this way is only typical, or from its sheet. */
const isUncertain = (gear: Gear, { points, end }: Run): boolean =>
  points.some(({ node, part }) => {
    const stage = part === end.box ? stageOfNode(gear, node) : undefined
    const figure =
      stage?.kind === 'gain'
        ? stage.inputNoiseDbuA
        : stage?.kind === 'converter-in'
          ? stage.noiseDbfsA
          : undefined
    return figure !== undefined && provenanceOf(figure).from !== 'measured'
  })

const hasFloor = ({ patch }: Bench, box: string): boolean =>
  patch.lineUp.some(({ step }) => step.startsWith(`floor ${box} `))

/** The highest position whose law is known, or will be: what a floor says there is not muddled by the gain. */
function highestKnown({ law, readings }: ControlLaw): number {
  const highest = readings.reduce((most, { position }) => Math.max(most, position), -1)
  return highest < 0 ? law.points.length - 1 : highest
}

/** Noise at the end with everything before its box switched off. */
export function silentNoise(run: Run): number {
  const end = lastOf(run.points)
  const power = run.points
    .filter(({ part }) => part === run.end.box)
    .reduce(
      (sum, { ownNoiseAtSourceDb }) => sum + 10 ** ((ownNoiseAtSourceDb + end.gainFromSourceDb) / 10),
      0,
    )
  return 10 * Math.log10(Math.max(power, 1e-20))
}

/** Automatic gain that cannot be switched off: what it does to bursts. */
export function burstSteps(bench: Bench, way: ToneWay): Draft[] {
  const { run } = way
  const stage = run.points.findLast(({ automatic }) => automatic !== undefined)
  const box = run.end.box
  if (!stage || stage.part !== box) return []
  const node = bench.graph.nodes.find(({ id }) => id === stage.node)
  const target = node?.stage?.kind === 'agc' ? node.stage.target : -20
  const after = gainBetween(stage, lastOf(run.points))
  return [
    {
      id: `bursts ${box}`,
      basis: basisOfWay(bench, way),
      kind: 'bursts',
      box,
      boxName: placedBox(bench, box).name,
      set: [],
      expect: { kind: 'automatic', track: trackKey(run.end), targetDbfs: target + after },
      play: playedFrom(way, { kind: 'bursts', levelDbfs: -6 }),
      run: run.id,
    },
  ]
}
