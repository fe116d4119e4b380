import {
  type Balance,
  type Odds,
  type Price,
  type Score,
  worstOutsideDb,
  worstOverDb,
  worstRatioDb,
} from '../balance'
import { leakageDb, type WiredLink, wiringFindings } from '../circuit'
import type { Finding, LevelFinding } from '../findings'
import { explanationsOf } from '../advice'
import {
  channelsOf,
  findingsOf,
  type Held,
  type Levels,
  levelsOfPatch,
  type Moments,
  monoLosses,
  type Run,
  runsOfClip,
} from '../levels'
import { clipFindings, compareWithRun } from '../measure'
import {
  type BalanceAnswer,
  type LevelsAnswer,
  type Measurement,
  type MeasureAnswer,
  type OddsAnswer,
  type Patch,
  type WiringAnswer,
  known,
  type Shelf,
} from '../model'
import {
  circuitWords,
  clipWords,
  levelWords,
  type Sentences,
  verdictOf,
  whereWords,
  assumptionWords,
  reasonWords,
  explanationWords,
} from '../words'

const finite = (db: number): number | null => (Number.isFinite(db) ? db : null)
const moments = ({ quietest, typical, loudest }: Moments) => ({
  quietest: finite(quietest),
  typical: finite(typical),
  loudest: finite(loudest),
})
const partOf = (node: string) => node.split('.')[0]!

/** The levels of a patch in the published form. */
export function levelsAnswer(patch: Patch, levels: Levels): LevelsAnswer {
  return {
    format: 'iron-hush/levels',
    version: 1,
    patch: patch.name,
    runs: levels.runs.map((run) => runAnswer(run, patch)),
    reach: levels.reach,
    assumptions: levels.assumptions.map(assumptionWords),
    findings: findingsOf(levels, contextOf(patch)).map(levelFinding),
  }
}

const published = <Code extends string>(
  { severity, code, subject }: Finding<Code>,
  run: string,
  said: Sentences,
) => ({ severity, about: code, run, part: subject.part ?? '', ...said })

const levelFinding = (finding: LevelFinding) =>
  published(finding, finding.subject.run ?? '', levelWords(finding))

const contextOf = (patch: Patch) => ({
  plan: patch.plan,
  wantedSpeechToNoiseDb: patch.brief.wantedSpeechToNoiseDb,
  patch,
})

function runAnswer(run: Run, patch: Patch): LevelsAnswer['runs'][number] {
  const { tightest, atSource } = run
  const point = tightest && run.points[tightest.point]!
  return {
    id: run.id,
    source: run.source.id,
    unit: run.unit,
    end: { box: run.end.box, kind: run.end.kind, track: run.end.track, name: run.end.name },
    verdict: verdictOf(run, patch.plan, patch.brief.wantedSpeechToNoiseDb)
      .map(({ text }) => text)
      .join('')
      .trim(),
    stop: run.stop
      ? {
          part: run.stop.part,
          about: run.stop.finding.code,
          ...circuitWords(run.stop.finding),
        }
      : null,
    atSource: {
      ...atSource,
      placeNoise: finite(atSource.placeNoise),
      echo: finite(atSource.echo),
      wind: finite(atSource.wind),
    },
    peakDb: run.peakDb,
    typicalDb: run.typicalDb,
    noiseDb: finite(run.noiseDb),
    noiseWithPlaceDb: finite(run.noiseWithPlaceDb),
    overBoxesDb: finite(run.overBoxesDb),
    speechToNoiseDb: finite(run.speechToNoiseDb),
    pauseRiseDb: run.pauseRiseDb,
    tightest: tightest && point ? { part: point.part, name: point.name, ceiling: tightest.ceiling } : null,
    shares: run.shares.map(({ node, name, atSourceDb, share }) => ({
      part: partOf(node),
      name,
      atSourceDb: finite(atSourceDb),
      share,
    })),
    points: run.points.map((each) => ({
      node: each.node,
      part: each.part,
      partName: each.partName,
      name: each.name,
      kind: each.kind,
      domain: each.domain,
      controls: each.controls,
      rmsDb: moments(each.rmsDb),
      peakDb: moments(each.peakDb),
      wholePeakDb: each.wholePeakDb,
      gainFromSourceDb: each.gainFromSourceDb,
      noiseDb: finite(each.noiseDb),
      noiseAtSourceDb: finite(each.noiseAtSourceDb),
      ownNoiseAtSourceDb: finite(each.ownNoiseAtSourceDb),
      ceilings: each.ceilings,
    })),
  }
}

/** A balance in the published form. */
export function balanceAnswer(patch: Patch, found: Balance, prices: readonly Price[]): BalanceAnswer {
  const score = (each: Score) => ({
    overDb: worstOverDb(each),
    outsideDb: worstOutsideDb(each),
    speechToNoiseDb: finite(worstRatioDb(each)),
    eachSpeechToNoiseDb: each.speechToNoiseDb.map(finite),
    eachOverBoxesDb: each.overBoxesDb.map(finite),
    headroomDb: finite(each.headroomDb),
    changes: each.changes,
  })
  return {
    format: 'iron-hush/balance',
    version: 1,
    patch: patch.name,
    fits: found.fits,
    before: score(found.before),
    after: score(found.after),
    changes: found.changes,
    reasons: found.reasons.map(reasonWords),
    prices: [...prices],
    combinations: found.combinations,
    evaluations: found.evaluations,
    ...(found.mayGainDb === undefined ? {} : { mayGainDb: found.mayGainDb }),
    findings: findingsOf(found.levels, { ...contextOf(patch), balanced: true }).map(levelFinding),
  }
}

/** The plan that a clip is held against. */
export interface PlanOfClip {
  patch: Patch
  shelf: Shelf
  /** `box.track` of its first channel. */
  recording: string
}

function againstPlan(
  { channels, stream }: Measurement,
  { patch, shelf, recording }: PlanOfClip,
): MeasureAnswer['against'] {
  const levels = levelsOfPatch(patch, shelf)
  return runsOfClip(levels, recording, channels.length, stream.channelNames).flatMap((run, index) => {
    const measured = channels[index]
    if (!run || !measured) return []
    return [
      {
        channel: index + 1,
        recording: `${run.end.boxName}, ${run.end.name}`,
        source: run.source.name,
        figures: compareWithRun(measured, run).map(
          ({ figure, unit, predicted, measured: value, differenceDb }) => ({
            figure,
            unit,
            planned: finite(predicted),
            measured: value,
            differenceDb: differenceDb === null ? null : finite(differenceDb),
          }),
        ),
        explanations: explanationsOf(measured, run, patch, shelf).map(({ cause, belief }) => ({
          what: explanationWords(cause, (metres) => `${metres} m`),
          likelihood: Math.round(belief * 100) / 100,
        })),
      },
    ]
  })
}

/** @param plan the scene that the clip was recorded in */
export const measureAnswer = (measurement: Measurement, plan?: PlanOfClip): MeasureAnswer => ({
  ...measurement,
  findings: clipFindings(measurement).map((finding) =>
    published(finding, `channel ${finding.subject.channel}`, clipWords(finding)),
  ),
  against: plan ? againstPlan(measurement, plan) : [],
})

const heldAnswer = ({ source, by, gainDb, sign, spillDb }: Held) => ({
  source,
  by,
  gainDb: finite(gainDb),
  sign,
  isSpill: spillDb !== undefined,
})

/** The wiring of a patch in the published form. */
export function wiringAnswer(patch: Patch, wiring: readonly WiredLink[], levels: Levels): WiringAnswer {
  const channels = channelsOf(levels)
  return {
    format: 'iron-hush/wiring',
    version: 1,
    patch: patch.name,
    links: wiring.map(({ link, report }) => ({
      link,
      variants: report.variants.map(({ touching, facts }) => ({
        touching,
        reaches: facts.reaches.map(
          ({ signal, channel, db, sign, trebleDb, cornerHz, bassDb, bassCornerHz }) => ({
            signal,
            channel,
            // inaudible signals have no figure: leakage would decide it
            db: db > leakageDb ? db : null,
            sign,
            trebleDb,
            cornerHz: cornerHz ?? null,
            bassDb,
            bassCornerHz: bassCornerHz ?? null,
          }),
        ),
        inputDc: facts.inputDc.map(({ contact, volts }) => ({ contact, volts })),
        needs: facts.needs,
        outputDc: facts.outputDc,
        supplies: facts.supplies.map(({ name, contact, openVolts, volts, amperes }) => ({
          name,
          contact,
          openVolts,
          volts,
          amperes,
        })),
      })),
    })),
    channels: channels.map(({ box, track, holds }) => ({
      box,
      track,
      holds: holds.map(heldAnswer),
    })),
    monoLosses: monoLosses(channels).map(({ box, tracks, source, leftDb }) => ({
      box,
      tracks,
      source,
      leftDb: finite(leftDb),
    })),
    findings: wiringFindings(wiring).map((finding) => ({
      severity: finding.severity,
      about: finding.code,
      link: known(finding.subject.link, 'the link of a finding'),
      where: whereWords(finding.subject),
      ...circuitWords(finding),
    })),
  }
}

/** The odds of a patch in the published form. */
export const oddsAnswer = (patch: Patch, { draws, seed, tracks }: Odds): OddsAnswer => ({
  format: 'iron-hush/odds',
  version: 1,
  patch: patch.name,
  draws,
  seed,
  tracks: tracks.map(({ box, boxName, track, name, automatic, clipping, first, speechToNoiseDb }) => ({
    box,
    track,
    name: `${boxName}, ${name}`,
    automatic,
    clipping,
    first: first ?? null,
    speechToNoiseDb: {
      low: finite(speechToNoiseDb.low),
      middle: finite(speechToNoiseDb.middle),
      high: finite(speechToNoiseDb.high),
    },
  })),
})
