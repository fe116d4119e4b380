import { expose } from 'comlink'
import Papa from 'papaparse'
import { asTaken, type End, type EndOffer, explanationsOf, offersAtEnd } from '@iron-hush/core/advice'
import { balance, type Cure, curesOf, oddsOf, saferPlan, schoolsOf, targetsOf } from '@iron-hush/core/balance'
import { findWays, type Way, type WaySearch } from '@iron-hush/core/circuit'
import { levelsOfPatch } from '@iron-hush/core/levels'
import {
  type ChannelMeasurement,
  type Gear,
  known,
  type Link,
  type MeasureAnswer,
  type Patch,
  type ProofRecord,
  type SetPart,
  shelfOf,
} from '@iron-hush/core/model'
import { type KitOption, kitOptions, planScene, type Question } from '@iron-hush/core/plan'
import { measureAnswer, readGearCsv, readGearJson } from '@iron-hush/core/report'
import { reporting } from './reporting'
import { answered } from './told'

/** A clip's measurement, its recording in the plan, and the chain of its take; empty if unknown. */
export interface MeasuredClip extends Pick<ProofRecord, 'measurement' | 'recording'> {
  parts: SetPart[]
}

/** Jobs on scenes that may take longer than a frame. One job per worker: to cancel, terminate the worker. */
const api = {
  balance: (patch: Patch, gear: Gear[]) =>
    answered(async () => known(balance(patch, shelfOf(gear)), 'a balance that nobody cancels')),
  cures: (patch: Patch, gear: Gear[], progress: (share: number, cure?: Cure) => void) =>
    reporting(progress, (report) =>
      known(curesOf(patch, shelfOf(gear), { progress: report }), 'cures that nobody cancels'),
    ),
  safer: (patch: Patch, gear: Gear[], limit: number, draws: number, seed: number) =>
    saferPlan(patch, shelfOf(gear), limit, draws, seed),
  findWays: (patch: Patch, link: Link, gear: Gear[], search: WaySearch, found: (way: Way) => void) =>
    reporting(found, (report) => findWays(patch, link, shelfOf(gear), { ...search, found: report })),
  offersAtEnd: (patch: Patch, end: End, gear: Gear[], found: (offer: EndOffer) => void) =>
    reporting(found, (report) => offersAtEnd(patch, end, shelfOf(gear), report)),
  explanations: (measured: ChannelMeasurement, runId: string, patch: Patch, gear: Gear[]) => {
    const shelf = shelfOf(gear)
    const run = levelsOfPatch(patch, shelf).runs.find(({ id }) => id === runId)
    return run ? explanationsOf(measured, run, patch, shelf) : []
  },
  measureAnswers: (clips: MeasuredClip[], patch: Patch, gear: Gear[]): MeasureAnswer[] => {
    const shelf = shelfOf(gear)
    return clips.map(({ measurement, recording, parts }) =>
      measureAnswer(
        measurement,
        recording ? { patch: asTaken(patch, parts, shelf), shelf, recording } : undefined,
      ),
    )
  },
  readGear: (text: string, name: string, gear: Gear[]) =>
    answered(async () =>
      name.toLowerCase().endsWith('.csv')
        ? readGearCsv(Papa.parse<string[]>(text, { skipEmptyLines: false }).data, shelfOf(gear))
        : readGearJson(text, shelfOf(gear)),
    ),
  kits: (patch: Patch, gear: Gear[], progress: (share: number, found?: KitOption) => void) =>
    reporting(progress, (report) =>
      known(kitOptions(patch, shelfOf(gear), { progress: report }), 'a comparison that nobody cancels'),
    ),
  schools: (patch: Patch, gear: Gear[]) =>
    known(schoolsOf(patch, shelfOf(gear)), 'schools that nobody cancels'),
  targets: (patch: Patch, gear: Gear[]) =>
    known(targetsOf(patch, shelfOf(gear)), 'targets that nobody cancels'),
  plan: (question: Question, gear: Gear[]) => planScene(question, shelfOf(gear)),
  odds: (patch: Patch, gear: Gear[], draws: number, seed: number) =>
    oddsOf(patch, shelfOf(gear), draws, seed),
}
export type EngineApi = typeof api

expose(api)
