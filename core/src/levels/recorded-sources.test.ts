import { describe, expect, it } from 'vitest'
import { wiringOf } from '../circuit'
import { applyEdits } from '../edits'
import { louderBy, type Patch } from '../model'
import { planScene, scenarios } from '../plan'
import { scene, scenes, shelf } from '../tests/demo'
import { aimsOf, worstRatioDb, scoreOf } from '../balance'
import { asSet, chainOf, graphOf } from '../chain'
import { channelsOf, findingsOf, levelsOfPatch } from './index'
import { leadingNowhere } from './recorded-sources'
import { patchSheet } from '../report'
import { levelWords, verdictOf } from '../words'

const unrecorded = (patch: Patch) =>
  findingsOf(levelsOfPatch(patch, shelf), { plan: patch.plan, patch }).filter(
    ({ code }) => code === 'unrecorded',
  )

describe('a source that no way leads from to a recording', () => {
  const hall = scene('4-bells-in-the-town-hall')
  it('is none in the scenes of the demo', () => {
    for (const each of scenes) expect(unrecorded(each), each.name).toEqual([])
  })
  it('is dead, with what is missing: the box that gives a line', () => {
    const boxes = hall.boxes.map((box) => (box.id === 'desk' ? { ...box, source: undefined } : box))
    const [found, ...others] = unrecorded({ ...hall, boxes })
    expect(others).toEqual([])
    expect(found!.severity).toBe('dead')
    expect(levelWords(found!).what).toBe('Not recorded: ringer at the hall’s microphone.')
    expect(levelWords(found!).why).toMatch(/It feeds no box of the chain/)
  })
  it('the microphone at a place that hears it', () => {
    const moved = applyEdits(hall, [{ kind: 'place box', box: 'room', place: null }], shelf)
    expect(unrecorded(moved).map((finding) => levelWords(finding).why)).toEqual([
      'No microphone is at a place that hears it.',
    ])
  })
  it('or the way on from there', () => {
    const link = hall.links.find(({ from }) => from.box === 'room')!.id
    const pulled = applyEdits(hall, [{ kind: 'disconnect', link }], shelf)
    expect(unrecorded(pulled).map((finding) => levelWords(finding).why)).toEqual([
      'The microphone that picks it up is not connected to a recording.',
    ])
  })
})

describe('somebody whom only a microphone of another picks up', () => {
  const two = scenarios.find(({ id }) => id === 'two')!
  const heardWith = { microphone: shelf.get('fennimore-plug-in-lapel')! }
  const camcorder = shelf.get('oriel-compact-camcorder')!
  const both = planScene({ camera: camcorder, scenario: two, heardWith }, shelf)[0]!.patch
  const link = both.links.find(({ from }) => from.box === 'microphone-2')!.id
  const cut = applyEdits(both, [{ kind: 'disconnect', link }], shelf)
  const softer = (patch: Patch) =>
    findingsOf(levelsOfPatch(patch, shelf), { plan: patch.plan, patch }).filter(
      ({ code }) => code === 'softer',
    )
  const loose = (patch: Patch) =>
    findingsOf(levelsOfPatch(patch, shelf), { plan: patch.plan, patch }).filter(
      ({ code }) => code === 'leads nowhere',
    )
  const secondLouderBy = (db: number): Patch => ({
    ...cut,
    brief: {
      ...cut.brief,
      sources: cut.brief.sources.map((each) => (each.id === 'second' ? louderBy(each, db) : each)),
    },
  })
  it('is nobody in the scenes of the demo, nor where each has one', () => {
    for (const each of [...scenes, both]) expect(softer(each), each.name).toEqual([])
  })
  it('is softer by what the distances say', () => {
    const [found, ...others] = softer(cut)
    expect(others).toEqual([])
    // 0.2 m and 1.2 m from an omnidirectional lapel, both as loud
    expect(found!.figures).toMatchObject({ belowDb: expect.closeTo(20 * Math.log10(1.2 / 0.2), 6) as number })
    expect(levelWords(found!).what).toBe(
      'On Compact camcorder, channel 1, second speaker is 15.6 dB softer than first speaker.',
    )
    expect(levelWords(found!).why).toMatch(/^Plug-in lapel picks up both/)
  })
  it('is said in the verdict, also outdoors, where no echo gives it away', () => {
    const room = { ...cut.brief.room, outdoors: true }
    const outdoors = applyEdits(cut, [{ kind: 'change brief', to: { room } }], shelf)
    const second = levelsOfPatch(outdoors, shelf).runs.find(({ source }) => source.id === 'second')!
    const verdict = verdictOf(second, outdoors.plan).map(({ text }) => text)
    expect(verdict[0]).toBe('Too soft: ')
    expect(verdict.join('')).toMatch(
      /Here second speaker is 15\.6 dB softer than first speaker; only a closer microphone helps/,
    )
    const inside = levelsOfPatch(cut, shelf).runs.find(({ source }) => source.id === 'second')!
    const text = verdictOf(inside, cut.plan)
      .map((phrase) => phrase.text)
      .join('')
    expect(text.match(/only a closer microphone helps/g)).toHaveLength(1)
    const first = levelsOfPatch(outdoors, shelf).runs.find(({ source }) => source.id === 'first')!
    expect(verdictOf(first, outdoors.plan)[0]!.text).toBe('Clean: ')
  })
  it('is marked in the channel plan and on the patch sheet', () => {
    const behind = (patch: Patch) =>
      channelsOf(levelsOfPatch(patch, shelf)).flatMap(({ holds }) =>
        holds.flatMap(({ source, behindDb }) =>
          behindDb === undefined ? [] : [[source, behindDb.toFixed(1)]],
        ),
      )
    expect(behind(cut)).toEqual([['second speaker', '15.6']])
    expect(behind(both)).toEqual([])
    expect(
      patchSheet(cut, shelf, wiringOf(cut, shelf), levelsOfPatch(cut, shelf)).channels.map(
        ({ holds }) => holds,
      ),
    ).toEqual(['first speaker by Plug-in lapel + second speaker by Plug-in lapel, 16 dB softer'])
  })
  it('leaves a microphone that leads nowhere, and that is said too', () => {
    for (const each of [...scenes, both]) expect(loose(each), each.name).toEqual([])
    expect(loose(cut).map(({ subject, severity }) => [subject.part, severity])).toEqual([
      ['microphone-2', 'degraded'],
    ])
    expect(levelWords(loose(cut)[0]!).what).toBe(
      'A microphone is at a hand\u2019s width under the chin, second speaker, and leads nowhere.',
    )
  })
  it('does not mean a microphone that a switch turns away, but one whose preamplifier is left unplugged', () => {
    const levels = levelsOfPatch(both, shelf)
    const turnedAway = levels.runs.filter(({ entry }) => entry.part !== 'microphone-2')
    expect(leadingNowhere({ ...levels, runs: turnedAway }, both)).toEqual([])
    const unplugged = {
      ...both,
      boxes: [...both.boxes, { ...both.boxes[0]!, id: 'box', place: undefined }],
      links: both.links.map((each) =>
        each.id === link ? { ...each, to: { ...each.to, box: 'box' } } : each,
      ),
    }
    expect(
      leadingNowhere({ ...levels, runs: turnedAway }, unplugged).map(({ subject }) => subject.part),
    ).toEqual(['microphone-2'])
  })
  it('is nobody who comes within 10 dB', () => {
    expect(softer(secondLouderBy(5)).length).toBe(1)
    expect(softer(secondLouderBy(6))).toEqual([])
  })
  it('is a note where each has a microphone and a mix holds one far below', () => {
    const yard = scene('5-words-over-the-yard')
    const sources = yard.brief.sources.map((each) => (each.name === 'ringer' ? louderBy(each, -30) : each))
    const [found, ...others] = softer({ ...yard, brief: { ...yard.brief, sources } })
    expect(others).toEqual([])
    expect(found).toMatchObject({
      severity: 'note',
      figures: { source: 'ringer', louder: 'music', isMixed: true },
    })
    expect(levelWords(found!).why).toMatch(/^Table microphone is mixed in there/)
  })
  it('counts for Balance, where each has one and where not', () => {
    for (const patch of [both, cut, secondLouderBy(5)]) {
      const graph = graphOf(patch, shelf)
      const readings = graph.nodes.map(({ read }) => read(asSet(graph)))
      const score = scoreOf(chainOf(graph, readings), aimsOf(graph, patch.plan))
      const recorded = levelsOfPatch(patch, shelf).runs.filter(
        ({ end, stop, spill }) => end.kind === 'recording' && !stop && !spill,
      )
      expect(new Set(recorded.map(({ source }) => source.id)).size).toBe(2)
      expect(worstRatioDb(score)).toBeCloseTo(
        Math.min(...recorded.map(({ speechToNoiseDb }) => speechToNoiseDb)),
        6,
      )
    }
  })
})
