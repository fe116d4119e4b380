import { cureWords, clipFacts, clipTexts, type RatioName } from '@iron-hush/core/words'
import { type Balance, type Cure, worstRatioDb } from '@iron-hush/core/balance'
import {
  type BalanceAnswer,
  type FindingAnswer,
  type LevelsAnswer,
  type LineUpAnswer,
  type MeasureAnswer,
  type OddsAnswer,
  type TrialAnswer,
  type WiringAnswer,
  controlKey,
} from '@iron-hush/core/model'
import { clock } from '@iron-hush/core/units'

const db = (value: number | null) => (value === null ? '-' : value.toFixed(1))

const findingLines = (findings: readonly Pick<FindingAnswer, 'severity' | 'what' | 'why' | 'remedy'>[]) =>
  findings.map(({ severity, what, why, remedy }) => `  ${severity.padEnd(9)} ${what} ${why} ${remedy}`)

export function levelsText({ patch, runs, findings, assumptions }: LevelsAnswer): string {
  const rows = runs.flatMap((run) => [
    '',
    run.id,
    `  ${run.verdict}`,
    ...run.points.map(
      (point) =>
        `  ${`${point.partName}: ${point.name}`.padEnd(40)} typical ${db(point.rmsDb.typical).padStart(7)}  peak ${db(point.peakDb.loudest).padStart(7)}  noise ${db(point.noiseDb).padStart(7)} ${{ pressure: 'dB SPL', volts: 'dBu', digital: 'dBFS' }[point.domain]}`,
    ),
  ])
  const more = [
    ...(findings.length ? ['', 'Findings', ...findingLines(findings)] : []),
    ...(assumptions.length ? ['', 'Assumed', ...assumptions.map((each) => `  ${each}`)] : []),
  ]
  return [patch, ...rows, ...more].join('\n')
}

export function balanceText(answer: BalanceAnswer, ratio: RatioName): string {
  const { before, after } = answer
  const moves = answer.changes.map(
    (change) =>
      `  ${controlKey(change.part, change.control).padEnd(30)} ${change.from} -> ${change.to}   alone ${db(change.aloneDb)} dB`,
  )
  return [
    answer.patch,
    answer.changes.length ? '' : nothingToChange(answer),
    ...moves,
    '',
    ...(after.speechToNoiseDb === null
      ? []
      : [
          `  ${ratio} ${db(before.speechToNoiseDb)} -> ${db(after.speechToNoiseDb)} dB, headroom ${db(before.headroomDb)} -> ${db(after.headroomDb)} dB`,
        ]),
    ...answer.reasons.map((reason) => `  ${reason}`),
    ...(answer.findings.length
      ? ['', 'Findings with these positions', ...findingLines(answer.findings)]
      : []),
  ].join('\n')
}

const nothingToChange = ({ fits, after }: BalanceAnswer): string =>
  after.speechToNoiseDb === null
    ? 'Nothing to balance.'
    : fits
      ? 'Nothing to change: these are the best positions.'
      : 'Nothing to change: no positions are better than these.'

export function measureText(answer: MeasureAnswer): string {
  return [
    `${answer.clip}: ${clipFacts(answer)}`,
    ...clipTexts(answer).map((each) => `  ${each}`),
    ...answer.remarks.map((remark) => `  ${remark}`),
    ...answer.channels.map(
      (channel, index) =>
        `  channel ${index + 1}: peak ${db(channel.peakDbfs)} dBFS at ${clock(channel.peakAtS, 1)}, RMS ${db(channel.rmsDbfs)}, speech ${db(channel.speechDbfsA)} dBFS(A), noise ${db(channel.noiseDbfsA)} dBFS(A)${channel.pauses ? '' : ' (no pauses found)'}`,
    ),
    ...findingLines(answer.findings),
    ...answer.against.flatMap(({ channel, recording, source, figures, explanations }) => [
      `  channel ${channel} beside ${recording}, ${source}:`,
      ...figures.map(
        ({ figure, unit, planned, measured, differenceDb }) =>
          `    ${figure}: planned ${db(planned)}, measured ${db(measured)} ${unit}, ${differenceDb !== null && differenceDb > 0 ? '+' : ''}${db(differenceDb)} dB`,
      ),
      ...explanations.map(({ what, likelihood }) => `    ${Math.round(likelihood * 100)} %  ${what}`),
    ]),
  ].join('\n')
}

export function wiringText({ patch, links, channels, monoLosses, findings }: WiringAnswer): string {
  const rows = links.flatMap(({ link, variants }) => [
    '',
    link,
    ...variants.flatMap(({ touching, reaches, supplies }) => [
      ...touching.map((each) => `  ${each}`),
      ...reaches.map(
        ({ signal, channel, db: gain, sign }) =>
          `  ${signal}${channel === 'one' ? '' : ` on ${channel}`}: ${gain === null ? 'nothing' : `${db(gain)} dB${sign < 0 ? ', inverted' : ''}`}`,
      ),
      ...supplies.map(
        ({ name, contact, volts, amperes }) =>
          `  ${name} on ${contact}: ${volts.toFixed(2)} V, ${(amperes * 1000).toFixed(2)} mA`,
      ),
    ]),
  ])
  const held = channels.map(
    ({ box, track, holds }) =>
      `  ${box}, ${track}: ${holds.map(({ source, by, gainDb, sign, isSpill }) => `${sign < 0 ? '-' : '+'} ${isSpill ? 'spill of ' : ''}${source} by ${by} ${db(gainDb)} dB`).join(' ')}`,
  )
  const lost = monoLosses.map(
    ({ box, tracks, source, leftDb }) =>
      `  ${box}, ${tracks.join(' + ')}: summed to mono ${source} ${leftDb === null ? 'is silence' : `falls by ${db(-leftDb)} dB`}`,
  )
  return [
    patch,
    ...rows,
    '',
    'What each channel holds',
    ...held,
    ...lost,
    ...(findings.length ? ['', 'Findings', ...findingLines(findings)] : []),
  ].join('\n')
}

export function oddsText({ patch, draws, tracks }: OddsAnswer, ratio: RatioName): string {
  const percent = (share: number) => `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} %`
  return [
    `${patch}, ${draws} draws`,
    ...tracks.map(
      ({ name, clipping, first, speechToNoiseDb: { low, middle, high } }) =>
        `  ${name}: clips in ${percent(clipping)}${first ? `, first at ${first.name}` : ''}; ${ratio} ${db(middle)} dB, from ${db(low)} to ${db(high)}`,
    ),
  ].join('\n')
}

/** Settings that keep clipping rare, as lines. */
export const saferText = (
  { marginDb, changes, odds }: { marginDb: number; changes: Balance['changes']; odds: OddsAnswer },
  ratio: RatioName,
): string =>
  [
    `with ${marginDb} dB under every ceiling`,
    ...changes.map(({ part, control, from, to }) => `  ${part}.${control}  ${from} -> ${to}`),
    oddsText(odds, ratio),
  ].join('\n')

/** A cure as a line. */
export const cureText = ({ change, price, fits, before, after, clears }: Cure, ratio: RatioName): string =>
  `${fits ? 'cures' : 'nearer'}  ${cureWords(change)}${price === 0 ? '' : price === undefined ? ' (price not known)' : ` (about ${price})`}: ${clears ? `${ratio} of ${clears.name} ${db(clears.beforeDb)} -> ${db(clears.afterDb)} dB, of the worst ` : `${ratio} of the worst `}${db(worstRatioDb(before))} -> ${db(worstRatioDb(after))} dB, headroom ${db(after.headroomDb)} dB`

export function lineUpText({ patch, steps, learnt, balance }: LineUpAnswer): string {
  const rows = steps.flatMap(({ id, title, expected, read, answered, findings }, index) => [
    `${answered ? '  \u2713' : String(index + 1).padStart(3)}  ${title}`,
    `     ${read ?? expected}   [${id}]`,
    ...findings.map(({ what, why, remedy }) => `     ${[what, why, remedy].filter(Boolean).join(' ')}`),
  ])
  const figures = learnt.flatMap(({ box, figures: all }) => [
    '',
    `Learnt of ${box}`,
    ...all.map(({ what }) => `  ${what}`),
  ])
  const asks = balance && [
    '',
    balance.changes.length
      ? `With these figures Balance asks for ${balance.changes.map(({ box, name }) => `${box}: ${name}`).join('; ')}.`
      : 'The settings of the plan hold with these figures.',
    ...(balance.fits ? [] : ['Balance finds no settings that meet every demand of the plan.']),
  ]
  return [patch, '', ...rows, ...figures, ...(asks ?? [])].join('\n')
}

const settingLine = (set: readonly { box: string; control: string; name: string }[]): string =>
  set.map(({ box, control, name }) => `${box}.${control} ${name}`).join(', ')

export function trialText(
  { patch, run, device, clips, use, regretDb }: TrialAnswer,
  ratio: RatioName,
): string {
  return [
    `${patch}: ${run}, recorded by the stand-in ${device}`,
    ...clips.map(
      ({ set, speechToNoiseDb, overloads }, index) =>
        `  clip ${index + 1}: ${settingLine(set)}   ${ratio} ${db(speechToNoiseDb)} dB${overloads ? ', it overloads' : ''}`,
    ),
    `Use ${settingLine(use)}. Another setting may be ${db(regretDb)} dB better on average.`,
  ].join('\n')
}
