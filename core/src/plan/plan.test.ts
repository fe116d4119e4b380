import { describe, expect, it } from 'vitest'
import { applyEdits } from '../edits'
import { findingsOf, levelsOfPatch, type Run } from '../levels'
import { checkGear, checkPatch, Gear, isPiece, type Patch } from '../model'
import { wiringFindings, wiringOf } from '../circuit'
import { shelf } from '../tests/demo'
import { apart, heardBeside } from '../tests/on-samples'
import { besideWords, leastClearWords, reasonWords, verdictOf } from '../words'
import { cases, isLong } from '../tests/form'
import { besideCamera } from './recorded'
import {
  type CameraAnswers,
  firstAnswers,
  type HeardWith,
  type MicrophoneAnswers,
  type OwnBox,
  ownBox,
  type Planned,
  planScene,
  scenarios,
  unknownCameras,
} from './index'

const camera = (id: string): Gear => shelf.get(id) ?? unknownCameras.find((each) => each.id === id)!.gear
const by = (id: string, radio = false): HeardWith => ({ microphone: shelf.get(id)!, radio })
const plans = new Map<string, Planned[]>()
/** Several tests ask the same question; it is worked out once. */
function plan(film: string, scene: string, heardWith: HeardWith): Planned[] {
  const question = JSON.stringify([film, scene, heardWith])
  const answers = { camera: camera(film), scenario: scenarios.find(({ id }) => id === scene)!, heardWith }
  const planned = plans.get(question) ?? planScene(answers, shelf)
  plans.set(question, planned)
  return planned
}

/** As a new user would answer: a camera, who is heard, a microphone. */
const jobs: [string, string, HeardWith][] = [
  ['fennimore-old-reflex', 'seated', by('fennimore-plug-in-lapel')],
  ['saltmarsh-phone', 'two', by('fennimore-plug-in-lapel')],
  ['fennimore-mirrorless', 'seated', by('oriel-short-gun')],
  ['oriel-compact-camcorder', 'stage', by('oriel-room-omni')],
  ['tarnwick-action-camera', 'loud', by('fennimore-plug-in-lapel')],
  ['scale', 'seated', by('oriel-on-camera-gun')],
  ['fennimore-mirrorless', 'walking', by('fennimore-plug-in-lapel', true)],
  ['saltmarsh-phone', 'place', 'built in'],
]

describe('a scene planned from three answers', () => {
  it.each(cases(jobs, [jobs[5]!, jobs[7]!]))(
    '%s, %s: everything arrives, nothing is starved or shorted',
    (film, scene, heardWith) => {
      const [best] = plan(film, scene, heardWith)
      const { patch, dead, missing } = best!
      expect(checkPatch(patch, shelf)).toEqual([])
      expect(dead).toBe(0)
      // two lapels on phantom want two converters, and one is owned
      expect(missing.map(({ id }) => id)).toEqual(scene === 'two' ? ['phantom-to-plug-in'] : [])
      const bad = wiringFindings(wiringOf(patch, shelf)).filter(({ severity }) => severity !== 'note')
      expect(bad.filter(({ severity }) => severity === 'dead' || severity === 'harmful')).toEqual([])
    },
  )
  it.each(cases([jobs[0]!, jobs[5]!], [jobs[5]!]))(
    '%s, %s: the verdict is what the samples show',
    (film, scene, heardWith) => {
      const [best] = plan(film, scene, heardWith)
      const heard = heardBeside(best!.patch, shelf, 2)
      expect(heard.length).toBeGreaterThan(1)
      for (const each of heard)
        expect(apart(each), `${each.kind} of ${each.run}`).toBeLessThan(each.limited ? 4 : 0.3)
    },
  )
  it('switches on the power that a microphone needs, and says so', () => {
    const [best] = plan('fennimore-mirrorless', 'seated', by('oriel-short-gun'))
    expect(best!.reasons.map(reasonWords).join(' ')).toMatch(/Phantom power of .* is switched on/)
    expect(best!.through).toHaveLength(1)
  })
  it.each(
    [...shelf.values()]
      .filter(({ kind, ports }) => kind === 'microphone' && ports.some(({ needs }) => needs?.length))
      .map(({ id }) => id)
      .filter((_, index) => index % cases(1, 12) === 0),
  )('powers whatever of the shelf needs power: %s', (id) => {
    const [best] = plan('fennimore-mirrorless', 'seated', by(id))
    expect(best!.dead).toBe(0)
    expect(Number.isFinite(best!.worstDb)).toBe(true)
  })
  it('gives two voices a microphone each where they wear one, and one to both where it is on a boom', () => {
    const microphones = (heardWith: HeardWith) =>
      plan('oriel-compact-camcorder', 'two', heardWith)[0]!.patch.boxes.filter(({ place }) => place).length
    expect(microphones(by('fennimore-plug-in-lapel'))).toBe(2)
    expect(microphones(by('oriel-short-gun'))).toBe(1)
  })
  it.runIf(isLong)('is the same in whatever order the shelf lies', () => {
    const question = {
      camera: camera('fennimore-mirrorless'),
      scenario: scenarios[0]!,
      heardWith: by('oriel-short-gun'),
    }
    const turned = new Map([...shelf].reverse())
    expect(planScene(question, turned)[0]!.through).toEqual(planScene(question, shelf)[0]!.through)
  })
  it('prefers a box that records too, all else alike', () => {
    const [best] = plan('fennimore-mirrorless', 'seated', by('oriel-short-gun'))
    expect(best!.patch.boxes.map(({ gear }) => shelf.get(gear)!.kind)).toContain('recorder')
  })
  it.runIf(isLong)('takes nothing that distorts where something else does not', () => {
    for (const film of ['tarnwick-action-camera', 'saltmarsh-phone', 'fennimore-old-reflex']) {
      const all = plan(film, 'loud', by('saltmarsh-hand-dynamic'))
      expect(all.some(({ tooHotDb }) => tooHotDb > 0)).toBe(true)
      expect(all[0]!.tooHotDb).toBe(0)
      expect(all[0]!.run!.tightest!.ceiling.headroomDb).toBeGreaterThanOrEqual(0)
    }
  })
  it.runIf(isLong)(
    'takes the desk down on its way into a box that it is too hot for, rather than lose the room',
    () => {
      const [best] = plan('fennimore-old-reflex', 'stage', by('oriel-room-omni'))
      const { patch, tooHotDb, worstDb } = best!
      const feed = patch.links.find(({ from }) =>
        patch.boxes.some(({ id, source }) => id === from.box && source),
      )
      expect(feed!.pieces.map(({ gear }) => shelf.get(gear)!.kind)).toContain('pad')
      expect(tooHotDb).toBe(0)
      expect(worstDb).toBeGreaterThan(10)
    },
  )
  it.runIf(isLong)('does not lose the sound in noise to have a recording less that hisses', () => {
    const all = plan('fennimore-old-reflex', 'place', by('fennimore-ta3-lapel'))
    const fair = all.filter(({ dead, tooHotDb, missing }) => !dead && !tooHotDb && !missing.length)
    expect(fair.some(({ worstDb }) => worstDb < 0)).toBe(true)
    expect(all[0]!.worstDb).toBe(Math.max(...fair.map(({ worstDb }) => worstDb)))
  })
  it('brings down what is too hot by a pad beside lead and adapter, on top of what those lose', () => {
    const pieces = [...shelf.values()].filter(isPiece)
    const made = (film: OwnBox, heard: OwnBox, scene: string) => {
      const [box, microphone] = [ownBox(film, 'film'), ownBox(heard, 'heard')]
      const own = new Map([...pieces, box, microphone].map((each) => [each.id, each]))
      const scenario = scenarios.find(({ id }) => id === scene)!
      return planScene({ camera: box, scenario, heardWith: { microphone } }, own)[0]!
    }
    const film = { ...firstAnswers.camera, automaticToo: false, builtIn: false } as CameraAnswers
    const heard = { ...firstAnswers.microphone, mount: 'worn' } as MicrophoneAnswers
    const headset = made(
      { ...film, input: 'mini-4', power: 'none' },
      { ...heard, power: 'none', sensitivityDbvPa: -30 },
      'loud',
    )
    expect(headset.patch.links[0]!.pieces).toHaveLength(3)
    expect(headset.tooHotDb).toBe(0)
    const lapel = made(
      { ...film, input: 'xlr-3', level: { by: 'itself' } },
      { ...heard, plug: 'mini-3', power: 'plug-in', sensitivityDbvPa: -40 },
      'seated',
    )
    expect(lapel.patch.links[0]!.pieces.map(({ gear }) => shelf.get(gear)!.kind)).toContain('pad')
    expect(lapel.tooHotDb).toBe(0)
  })
  it.runIf(isLong)(
    'takes a stronger attenuator where the first leaves a camera with automatic gain too hot',
    () => {
      const demo = shelf.get('saltmarsh-two-track')!
      // its line output comes out at studio level and cannot be turned down
      const hot = Gear.parse({
        ...demo,
        id: 'hot-recorder',
        owned: 1,
        controls: demo.controls.map((each) =>
          each.id === 'output' ? { ...each, minimum: 0, maximum: 1, initial: 0 } : each,
        ),
        strips: demo.strips.map((strip) => ({
          ...strip,
          stages: strip.stages.map((stage) =>
            stage.kind === 'converter-out' && strip.id.startsWith('line')
              ? { ...stage, fullScaleDbu: 22 }
              : stage,
          ),
        })),
      })
      const boxes = new Set(['recorder', 'mixer', 'preamplifier', 'interface'])
      const kit = new Map(
        [...shelf.values(), hot]
          .filter(({ id, kind }) => !boxes.has(kind) || id === 'hot-recorder')
          .map((each) => [each.id, { ...each, owned: 1 }]),
      )
      const two = scenarios.find(({ id }) => id === 'two')!
      const heardWith = { microphone: shelf.get('oriel-short-gun')! }
      const [best] = planScene({ camera: camera('saltmarsh-phone'), scenario: two, heardWith }, kit)
      expect(best!.tooHotDb).toBe(0)
      expect(best!.through).toEqual([hot.name])
      const intoCamera = best!.patch.links.find(({ to }) => to.box === 'camera')!
      expect(intoCamera.pieces.map(({ gear }) => kit.get(gear)!.kind)).toContain('pad')
    },
  )
  it.runIf(isLong)('has an attenuator bought rather than a distorted recording', () => {
    const unowned = new Map(
      [...shelf].map(([id, gear]) => [id, gear.kind === 'pad' ? { ...gear, owned: 0 } : gear]),
    )
    const answers = {
      camera: camera('fennimore-old-reflex'),
      scenario: scenarios.find(({ id }) => id === 'stage')!,
      heardWith: by('oriel-room-omni'),
    }
    const [best] = planScene(answers, unowned)
    expect([best!.dead, best!.tooHotDb]).toEqual([0, 0])
    expect(best!.missing.map(({ kind }) => kind)).toContain('pad')
    expect(best!.missing.every(({ kind }) => kind === 'pad')).toBe(true)
  })
  it('says who is on the camera and who on a recorder alone, and ends each chain where it is recorded', () => {
    const planned = plan('saltmarsh-phone', 'two', by('fennimore-plug-in-lapel'))
    // the phone takes one channel of the two that the recorder sends
    const { along, beside, patch } = planned.find(({ through }) => through.includes('Float recorder'))!
    const gearOf = (id: string) => patch.boxes.find((box) => box.id === id)!.gear
    expect(along.map((boxes) => boxes.map(gearOf).at(-1))).toEqual([
      'saltmarsh-phone',
      'oriel-float-recorder',
    ])
    expect(besideWords(beside)).toBe('Second speaker is only on Float recorder, track 2, not on Phone.')
    const [both] = plan('oriel-compact-camcorder', 'two', by('fennimore-plug-in-lapel'))
    expect([both!.beside, both!.along.map((boxes) => boxes.at(-1))]).toEqual([[], ['camera', 'camera']])
  })
  it('has nobody heard by the lapel of another alone where something else has both', () => {
    const planned = plan('saltmarsh-phone', 'two', by('fennimore-plug-in-lapel'))
    const isHeard = ({ patch }: Planned) =>
      findingsOf(levelsOfPatch(patch, shelf), { plan: patch.plan, patch }).every(
        ({ code }) => code !== 'softer',
      )
    const heard = planned.map(isHeard)
    expect(heard.slice(0, 3)).toEqual([true, true, true])
    // an interface brings the phone one of its two
    expect(planned.filter((_, at) => !heard[at]).map(({ through }) => through)).toContainEqual([
      'Two-input interface',
    ])
  })
  it('does not call somebody missing whom a shared microphone hears a little lower', () => {
    const [best] = plan('oriel-compact-camcorder', 'two', by('fennimore-plug-in-lapel'))
    const { runs } = levelsOfPatch(best!.patch, shelf)
    const onlyFirst = (atDb: number) =>
      runs.flatMap((run) =>
        run.source.id === 'second' && run.entry.part === 'microphone-2'
          ? {
              ...run,
              end: { ...run.end, gearKind: 'recorder' as const, box: 'recorder', boxName: 'Recorder' },
            }
          : run.source.id === 'second'
            ? { ...run, typicalDb: atDb + runs[0]!.typicalDb, spill: { heldBy: 'Recorder' } }
            : run,
      )
    const names = (atDb: number) => besideCamera(best!.patch, onlyFirst(atDb)).map(({ source }) => source)
    expect(names(-6)).toEqual([])
    expect(names(-12)).toEqual(['second speaker'])
  })
  it('has a second one bought where only one is owned', () => {
    const named = ({ missing }: Planned) => missing.map(({ id }) => id)
    const [worn] = plan('oriel-compact-camcorder', 'two', by('fennimore-ta3-lapel'))
    expect(named(worn!)).toContain('fennimore-ta3-lapel')
    // and the power that both need is named once
    const powers = worn!.reasons.map(reasonWords).filter((words) => words.includes('is switched on'))
    expect(powers).toHaveLength(1)
    const [pair] = plan('oriel-compact-camcorder', 'two', by('fennimore-plug-in-lapel'))
    expect(named(pair!)).not.toContain('fennimore-plug-in-lapel')
  })
  it.runIf(isLong)('sends two voices by the two radios that are owned, and what a desk feeds by wire', () => {
    const [two] = plan('oriel-compact-camcorder', 'two', by('fennimore-plug-in-lapel', true))
    const radios = two!.patch.boxes.map(({ gear }) => gear).filter((id) => shelf.get(id)!.kind === 'radio')
    expect(new Set(radios).size).toBe(4)
    expect(two!.missing.filter(({ kind }) => kind === 'radio')).toEqual([])
    const [stage] = plan('saltmarsh-phone', 'stage', by('fennimore-plug-in-lapel', true))
    const desk = stage!.patch.boxes.find(({ source }) => source)!.id
    const fed = stage!.patch.links.filter(({ from }) => from.box === desk).map(({ to }) => to.box)
    const kinds = stage!.patch.boxes
      .filter(({ id }) => fed.includes(id))
      .map(({ gear }) => shelf.get(gear)!.kind)
    expect(kinds).not.toContain('radio')
    expect([stage!.dead, stage!.tooHotDb]).toEqual([0, 0])
  })
  it('sends what no transmitter feeds by a box that does: the recorder at the boom, then the radio', () => {
    const few = new Map(
      [...shelf].filter(([id]) =>
        [
          'fennimore-mirrorless',
          'oriel-short-gun',
          'saltmarsh-two-track',
          'tarnwick-digital-transmitter',
          'tarnwick-digital-receiver',
          'xlr-cable-1m5',
          'mini-cable-0m5',
          'mini-pad-25',
        ].includes(id),
      ),
    )
    const asked = { camera: camera('fennimore-mirrorless'), scenario: scenarios[0]! }
    const [best] = planScene({ ...asked, heardWith: by('oriel-short-gun', true) }, few)
    expect([best!.dead, best!.troubles, best!.missing]).toEqual([0, 0, []])
    const gear = new Map(best!.patch.boxes.map((box) => [box.id, box.gear]))
    expect(best!.patch.links.map(({ from, to }) => [gear.get(from.box), gear.get(to.box)])).toEqual([
      ['oriel-short-gun', 'saltmarsh-two-track'],
      ['saltmarsh-two-track', 'tarnwick-digital-transmitter'],
      ['tarnwick-digital-transmitter', 'tarnwick-digital-receiver'],
      ['tarnwick-digital-receiver', 'fennimore-mirrorless'],
    ])
    // a lapel that the transmitter feeds goes straight into it, with the recorder there too
    const lapel = planScene({ ...asked, heardWith: by('fennimore-plug-in-lapel', true) }, shelf)[0]!
    expect(lapel.patch.links[0]!.to.box).toBe('radio')
  })
  it.runIf(isLong)('asks of each track of a camera what its switch lets there, and no more', () => {
    const [best] = plan('oriel-selector-mirrorless', 'stage', by('oriel-short-gun'))
    expect(best!.dead).toBe(0)
    expect(best!.worstDb).toBeGreaterThan(20)
    const second = ({ end }: Run) => end.box === 'camera' && end.track === '2'
    const heardOnSecond = (patch: Patch) =>
      levelsOfPatch(patch, shelf)
        .runs.filter(second)
        .map(({ source, stop }) => [source.id, stop?.finding.code])
    expect(heardOnSecond(best!.patch)).toEqual([['hall', undefined]])
    // copied from the first track, it loses what is held nowhere else in the camera
    const copied = applyEdits(
      best!.patch,
      [{ kind: 'set control', part: 'camera', control: 'copy', position: 'copy' }],
      shelf,
    )
    expect(heardOnSecond(copied)).toEqual([
      ['hall', 'switched off'],
      ['feed', undefined],
    ])
  })
  it.runIf(isLong)('does not ask for a closer microphone where it is there for the room', () => {
    const [best] = plan('oriel-compact-camcorder', 'stage', by('oriel-small-cardioid'))
    const { run, patch } = best!
    expect(leastClearWords(run!)).toBe('Least clear on Compact camcorder: hall.')
    expect(
      verdictOf(run!, patch.plan)
        .map(({ text }) => text)
        .join(''),
    ).not.toMatch(/far away|closer/i)
  })
  it.runIf(isLong)('keeps the radio that was asked for, too hot or not', () => {
    const all = plan('tarnwick-action-camera', 'loud', by('fennimore-plug-in-lapel', true))
    expect(all.length).toBeGreaterThan(0)
    for (const { patch } of all)
      expect(
        patch.boxes.filter(({ gear }) => shelf.get(gear)!.kind === 'radio').length,
      ).toBeGreaterThanOrEqual(2)
  })
  it('hangs a boom between two voices, farther off than from one', () => {
    const distances = (scene: string) =>
      plan('fennimore-mirrorless', scene, by('oriel-short-gun'))[0]!.patch.brief.places[0]!.hears.map(
        ({ distanceM }) => distanceM,
      )
    expect(distances('seated')).toEqual([0.45])
    expect(distances('two')).toEqual([0.75, 0.75])
  })
  it('keeps the margin under the first loud word behind automatic gain', () => {
    const [best] = plan('fennimore-old-reflex', 'seated', by('fennimore-plug-in-lapel'))
    const { run, patch } = best!
    const { ceiling } = run!.tightest!
    expect(ceiling.onset).toBe(true)
    expect(ceiling.headroomDb).toBeGreaterThanOrEqual(patch.plan.marginDb - 0.05)
    expect(verdictOf(run!, patch.plan)[0]!.text).toBe('Usable: ')
  })
  it.runIf(isLong)('puts fur on a microphone in the wind', () => {
    const [best] = plan('fennimore-mirrorless', 'walking', by('fennimore-plug-in-lapel', true))
    expect(best!.patch.boxes.find(({ place }) => place)!.cover).toBe('fur')
  })
  it('says what must be bought where nothing owned does it', () => {
    const [best] = plan('saltmarsh-phone', 'seated', by('saltmarsh-ribbon'))
    expect(best!.missing.map(({ id }) => id)).toContain('saltmarsh-ribbon')
  })
})

describe('cameras that are not on the shelf', () => {
  it.each(unknownCameras.map(({ name, gear }) => [name, gear] as const))('%s is sound gear', (_, gear) => {
    expect(checkGear(gear)).toEqual([])
  })
  it('say that their figures are typical', () => {
    const [best] = plan('scale', 'seated', by('oriel-on-camera-gun'))
    expect(best!.run!.end.gearKind).toBe('camera')
  })
})
