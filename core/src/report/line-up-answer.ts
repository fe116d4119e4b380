import type { Balance } from '../balance'
import type { LineUpFinding } from '../findings'
import {
  allTracks,
  type Bench,
  isAnswered,
  type Learnt,
  type LineUpStep,
  lineUpSteps,
  meaningOf,
  type Setting,
} from '../lineup'
import { controlKey, type LineUpAnswer, positionName, controlsByKey } from '../model'
import {
  expectWords,
  learntWords,
  lineUpSentences,
  resultWords,
  stepDetail,
  stepTitle,
  type TrackNames,
} from '../words'

type FindingOfLineUp = LineUpAnswer['findings'][number]
type SettingOfLineUp = LineUpAnswer['steps'][number]['set'][number]

export const settingAnswer = ({ box, control, position, positionName: name }: Setting): SettingOfLineUp => ({
  box,
  control,
  position,
  name,
})

/** The line-up of a scene as it is published. */
export function lineUpAnswer(
  bench: Bench,
  learnt: readonly Learnt[],
  outcome: Balance | undefined,
  shelfOfBox: (box: string) => Parameters<typeof resultWords>[2],
): LineUpAnswer {
  const names = new Map(allTracks(bench).map(({ id, name }) => [id, name]))
  const name: TrackNames = (track) => names.get(track) ?? track
  const said = (finding: LineUpFinding): FindingOfLineUp => ({
    severity: finding.severity,
    code: finding.code,
    ...lineUpSentences(finding, name),
  })
  const steps = lineUpSteps(bench).map((step) => stepAnswer(bench, step, name, said, shelfOfBox(step.box)))
  return {
    format: 'iron-hush/line-up',
    version: 1,
    patch: bench.patch.name,
    steps,
    learnt: learnt.map(({ box, thing, changes }) => ({
      box,
      thing: thing.id,
      figures: changes.map((change) => ({
        name: change.name,
        what: learntWords(change),
        source: change.source,
        movesDb: change.movesDb,
        before: change.before,
        after: change.after,
      })),
    })),
    ...(outcome && { balance: balanceOf(bench, outcome) }),
    findings: steps.flatMap(({ findings }) => findings),
  }
}

function stepAnswer(
  bench: Bench,
  step: LineUpStep,
  name: TrackNames,
  said: (finding: LineUpFinding) => FindingOfLineUp,
  gear: Parameters<typeof resultWords>[2],
): LineUpAnswer['steps'][number] {
  const meant = step.reading ? meaningOf(bench, step, step.reading) : []
  return {
    id: step.id,
    kind: step.kind,
    box: step.box,
    title: stepTitle(step),
    detail: stepDetail(step),
    set: step.set.map(settingAnswer),
    ...(step.play && { play: step.play }),
    expected: expectWords(step, name),
    ...(step.reading && { read: resultWords(step, step.reading, gear, name) }),
    answered: step.reading !== undefined && isAnswered(meant),
    findings: meant.map(said),
  }
}

function balanceOf(
  { patch, shelf }: Bench,
  { fits, changes, after }: Balance,
): NonNullable<LineUpAnswer['balance']> {
  return {
    fits,
    changes: changes.map(({ part, control, to }) => {
      const [standing] = controlsByKey(patch, shelf, [controlKey(part, control)])
      return {
        box: part,
        control,
        position: to,
        name: standing ? `${standing.control.name} ${positionName(standing.control, to)}` : String(to),
      }
    }),
    speechToNoiseDb: after.speechToNoiseDb[0] ?? null,
  }
}
