import type { DeadCause, DoubleCause, LineUpFinding } from '../findings'
import type { Run } from '../levels'
import { trackKey } from '../model'
import { basisOf } from './basis'
import { type Bench, boxesFrom, identityOf, placedBox, positionOf } from './bench'
import type { Draft, LineUpStep } from './step'

/** A microphone this far below its loudest recording in the same box does not visibly move a channel's meter, dB. */
const movesDb = 26
/** Lowest voice whose scratched microphone moves a meter, dBFS: scratching is some 30 dB louder, and meters end at about -60. */
const visibleDbfs = -90

/** The recordings that a microphone moves as the chain is planned, and its runs to them. Inside a radio nobody sees one move. */
function movedBy({ levels }: Bench, microphone: string): Run[] {
  const runs = levels.runs.filter(
    ({ entry, end, stop }) =>
      entry.part === microphone && end.kind === 'recording' && !stop && end.gearKind !== 'radio',
  )
  const loudestOf = (box: string) =>
    Math.max(...runs.flatMap(({ end, byEntry }) => (end.box === box ? byEntry.db : [])))
  const tracks = new Map<string, Run>()
  for (const run of runs)
    if (run.byEntry.db > Math.max(visibleDbfs, loudestOf(run.end.box) - movesDb))
      tracks.set(trackKey(run.end), run)
  return [...tracks.values()]
}

/** Everything that sound enters by. */
const microphonesOf = ({ levels, patch }: Bench): string[] => [
  ...new Set(
    levels.runs
      .map(({ entry }) => entry.part)
      .filter((part) => patch.boxes.some(({ id, place }) => id === part && place !== undefined)),
  ),
]

/** One microphone at a time, the others covered: which channel moves, and which does not. */
export function scratchSteps(bench: Bench): Draft[] {
  const { patch } = bench
  return microphonesOf(bench).map((id): Draft => {
    const runs = movedBy(bench, id)
    const tracks = runs.map(({ end }) => trackKey(end))
    const boxes = new Set(runs.flatMap(({ points }) => boxesFrom(points, patch)))
    return {
      id: `scratch ${id}`,
      basis: basisOf([
        tracks,
        patch.boxes
          .filter((box) => boxes.has(box.id))
          .map((box) => [box.id, identityOf(placedBox(bench, box.id).gear)]),
        patch.links
          .filter(({ to }) => boxes.has(to.box))
          .map(({ from, to, pieces }) => [from, to, pieces.map(({ gear }) => gear)]),
      ]),
      kind: 'scratch',
      box: id,
      boxName: placedBox(bench, id).name,
      set: [],
      expect: { kind: 'channels', tracks },
      ...(runs[0] && { run: runs[0].id }),
    }
  })
}

/** Meaning of the channels that moved. */
export function scratchFinding(
  bench: Bench,
  { box, expect }: Pick<LineUpStep, 'box' | 'expect'>,
  moved: readonly string[],
): LineUpFinding {
  const expected = expect.kind === 'channels' ? expect.tracks : []
  const missing = expected.filter((track) => !moved.includes(track))
  const extra = moved.filter((track) => !expected.includes(track))
  const subject = { part: box }
  if (!missing.length && !extra.length) return { code: 'as planned', severity: 'note', subject, figures: {} }
  if (missing.length && extra.length) {
    const other = ownerOf(bench, box, extra)
    return {
      code: 'channels swapped',
      severity: 'harmful',
      subject,
      figures: { expected: missing, moved: extra, ...(other !== undefined && { other }) },
    }
  }
  if (missing.length)
    return {
      code: 'channel dead',
      severity: 'dead',
      subject,
      figures: { tracks: missing, causes: deadCauses(bench, box, missing) },
    }
  return {
    code: 'channel doubled',
    severity: 'degraded',
    subject,
    figures: { also: extra, causes: doubleCauses(bench, extra) },
  }
}

/** The other microphone that should have moved these channels. */
function ownerOf(bench: Bench, box: string, tracks: readonly string[]): string | undefined {
  const owner = microphonesOf(bench).find(
    (id) => id !== box && movedBy(bench, id).some(({ end }) => tracks.includes(trackKey(end))),
  )
  return owner === undefined ? undefined : placedBox(bench, owner).name
}

/** Possible causes for channels that did not move, the likeliest first: settings, then plugs. */
function deadCauses(bench: Bench, microphone: string, tracks: readonly string[]): DeadCause[] {
  const { levels, patch, graph } = bench
  const run = levels.runs.find(
    ({ entry, end }) => entry.part === microphone && tracks.includes(trackKey(end)),
  )
  if (!run) return []
  const onWay = boxesFrom(run.points, patch).map((id) => placedBox(bench, id))
  const powered = onWay.flatMap(({ box, gear, name }): DeadCause[] =>
    gear.ports.some(({ needs }) => needs?.length) && patch.links.some(({ from }) => from.box === box.id)
      ? [{ kind: 'power', partName: name }]
      : [],
  )
  const chosen = onWay.flatMap((placed): DeadCause[] =>
    placed.gear.controls
      .filter((control) => control.kind === 'switch' && silences(graph, placed.box.id, control.id))
      .map((control) => ({
        kind: 'input switch',
        partName: placed.name,
        controlName: control.name,
        positionName:
          control.kind === 'switch'
            ? (control.positions.find(({ id }) => id === positionOf(placed, control))?.name ?? '')
            : '',
      })),
  )
  const radios = run.points.filter(({ kind }) => kind === 'radio')
  return [
    ...chosen,
    ...radios.map(({ partName }): DeadCause => ({ kind: 'radio channel', partName })),
    ...powered,
    { kind: 'plug', partName: run.end.boxName },
  ]
}

/** Gain at which nothing passes, dB. */
const silentDb = -60

/** Whether some position of a switch lets nothing pass. */
const silences = ({ nodes }: Bench['graph'], box: string, control: string): boolean =>
  nodes.some(({ part, stage }) => {
    if (part !== box || !stage) return false
    const amount = stage.kind === 'pad' ? stage.lossDb : stage.kind === 'gain' ? stage.gainDb : 0
    if (typeof amount === 'number' || amount.control !== control || !('at' in amount)) return false
    const sign = stage.kind === 'pad' ? -1 : 1
    return Object.values(amount.at).some((db) => sign * db < silentDb)
  })

/** Possible causes for one microphone on two channels. */
function doubleCauses(bench: Bench, tracks: readonly string[]): DoubleCause[] {
  const boxes = [...new Set(tracks.map((track) => track.slice(0, track.indexOf('.'))))]
  return boxes.flatMap((id): DoubleCause[] => {
    const placed = placedBox(bench, id)
    const copies = placed.gear.controls.filter(
      (control) => control.kind === 'switch' && silences(bench.graph, id, control.id),
    )
    return [
      ...copies.map((control): DoubleCause => ({
        kind: 'copy switch',
        partName: placed.name,
        controlName: control.name,
      })),
      { kind: 'mono mode', partName: placed.name },
      { kind: 'lead', partName: placed.name },
    ]
  })
}
