// npm run bench: speed as ratios from one run on this machine.
import { readdirSync, readFileSync } from 'node:fs'
import { balance, freeControls, oddsOf } from '@iron-hush/core/balance'
import { findWays, type LinkReport, wiringFindings, wiringOf } from '@iron-hush/core/circuit'
import { graphOf } from '@iron-hush/core/chain'
import { levelsOfGraph, levelsOfPatch } from '@iron-hush/core/levels'
import { bytesSource, wavBytes } from '@iron-hush/core/media'
import { measureClip } from '@iron-hush/core/measure'
import { applyEdits } from '@iron-hush/core/edits'
import {
  type Control,
  type GearInput,
  parseJson,
  Patch,
  positionsOf,
  ShelfFile,
  shelfOf,
} from '@iron-hush/core/model'
import { render, voiceOf } from '@iron-hush/core/render'
import { talkingClip } from '@iron-hush/core/signals'

const frameMs = 1000 / 60
const demo = new URL('../demo/', import.meta.url)
const read = (file: string) => readFileSync(new URL(file, demo), 'utf8')
const shelf = shelfOf(parseJson(ShelfFile, read('shelf.json'), 'shelf').gear)
const scenes = readdirSync(new URL('scenes/', demo)).map((file) =>
  parseJson(Patch, read(`scenes/${file}`), file),
)
const largest = scenes.reduce((one, other) => (other.boxes.length > one.boxes.length ? other : one))

function times(count: number, work: () => unknown, warmups = 400): number[] {
  for (let warm = 0; warm < warmups; warm++) work()
  return Array.from({ length: count }, () => {
    const from = performance.now()
    work()
    return performance.now() - from
  }).sort((one, other) => one - other)
}
const at = (sorted: number[], share: number) => sorted[Math.floor((sorted.length - 1) * share)]!
const say = (what: string, ratio: number, aim: string) =>
  console.log(`${what.padEnd(76)} ${ratio.toPrecision(3).padStart(10)}   aim ${aim}`)

// a knob being turned: every recomputation sees another document
const turned = Array.from({ length: 40 }, (_, step) =>
  applyEdits(
    largest,
    [{ kind: 'set control', part: 'recorder', control: 'gain-1', position: 20 + step }],
    shelf,
  ),
)
let turn = 0
const recompute = times(400, () => levelsOfPatch({ ...turned[turn++ % 40]! }, shelf))
say(`recomputing "${largest.name}" against a 60 Hz frame, median`, at(recompute, 0.5) / frameMs, '0.1')
say('the same at the 95th percentile', at(recompute, 0.95) / frameMs, '-')

// one cable changed, and everything that the wiring then has to say; circuits that did not change are kept, as in the page
const cable = largest.links.flatMap(({ pieces }) => pieces).find(({ gear }) => gear.startsWith('xlr-cable'))!
const recabled = Array.from({ length: 40 }, (_, step) => {
  const thing = shelf.get(cable.gear)!
  const lengthM = 1 + step / 4
  const own = { ...thing, id: `bench-${step}`, passive: { ...thing.passive!, lengthM } }
  return applyEdits({ ...largest, gear: [own] }, [{ kind: 'swap', part: cable.id, gear: own.id }], shelf)
})
const kept = new Map<string, LinkReport>()
const keep = (key: string, solve: () => LinkReport) => {
  const report = kept.get(key) ?? solve()
  // every second change is new to the cache
  if (kept.size > 60) kept.clear()
  kept.set(key, report)
  return report
}
let change = 0
wiringOf(largest, shelf, keep)
const rewired = times(
  300,
  () => {
    kept.forEach((_, key) => key.includes(cable.id) && kept.delete(key))
    return wiringFindings(wiringOf(recabled[change++ % 40]!, shelf, keep))
  },
  100,
)
say(
  `one cable of "${largest.name}" to all findings, against a frame, median`,
  at(rewired, 0.5) / frameMs,
  '-',
)
say('the same at the 95th percentile', at(rewired, 0.95) / frameMs, '0.2')

// ways over the shelf made half as large again, from a lapel to each kind of socket
const pieces = [...shelf.values()].filter(({ passive }) => passive)
const wide = shelfOf([
  ...shelf.values(),
  ...pieces
    .slice(0, Math.max(0, 60 - pieces.length))
    .map((gear) => ({ ...gear, id: `${gear.id}-more`, name: `${gear.name} 2` })),
])
const joined = (from: [string, string], to: [string, string]): Patch => ({
  ...largest,
  gear: [],
  boxes: [
    { id: 'a', gear: from[0], settings: {}, locked: [] },
    { id: 'b', gear: to[0], settings: {}, locked: [] },
  ],
  links: [{ id: 'l', from: { box: 'a', port: from[1] }, to: { box: 'b', port: to[1] }, pieces: [] }],
})
for (const [name, pair] of [
  ['lapel to a phone', joined(['fennimore-plug-in-lapel', 'out'], ['saltmarsh-phone', 'headset'])],
  ['hand-held to a mirrorless', joined(['saltmarsh-hand-dynamic', 'out'], ['fennimore-mirrorless', 'mic'])],
  ['ribbon to a USB-C phone', joined(['saltmarsh-ribbon', 'out'], ['saltmarsh-phone-usb-c', 'usb'])],
  ['balanced jack to USB-C', joined(['fennimore-small-mixer', 'main'], ['saltmarsh-phone-usb-c', 'usb'])],
] as const) {
  const from = performance.now()
  let first: number | undefined
  const ways = findWays(pair, pair.links[0]!, wide, { found: () => (first ??= performance.now() - from) })
  const all = performance.now() - from
  const count = [...wide.values()].filter(({ passive }) => passive).length
  say(`first way, ${name}, over ${count} pieces, in frames`, (first ?? Infinity) / frameMs, '10')
  say(`all ${ways.length} ways, in frames`, all / frameMs, '-')
}

/** Amplifiers in a row with 32 clicks each: four make a million combinations, eight 10^12. */
function chain(count: number): Patch {
  const indices = Array.from({ length: count }, (_, index) => index)
  const knobs = indices.map((index): Control => ({
    kind: 'knob',
    id: `k${index}`,
    name: `k${index}`,
    minimum: count > 4 ? -16 : -8,
    maximum: count > 4 ? 15 : 23,
    click: 1,
    unit: 'dB',
    initial: 0,
  }))
  const box: GearInput = {
    id: 'box',
    name: 'Box',
    maker: 'Tarnwick',
    kind: 'recorder',
    controls: knobs,
    ports: [{ id: 'in', name: 'in', direction: 'in', connector: 'fixed' }],
    strips: [
      {
        id: 'strip',
        from: { port: 'in' },
        stages: [
          ...indices.map((index) => ({
            kind: 'gain' as const,
            gainDb: { control: `k${index}`, perUnit: 1 },
            inputNoiseDbuA: [-124, -116, -108, -102][index % 4]!,
            outputNoiseDbuA: -96,
            outputCeilingDbu: 14 - index,
          })),
          { kind: 'converter-in', fullScaleDbu: 10, noiseDbfsA: -96 },
          { kind: 'recording', name: 'track', track: '1' },
        ],
      },
    ],
  }
  return Patch.parse({
    format: 'iron-hush/patch',
    version: 2,
    name: 'a million combinations',
    brief: {
      sources: [
        {
          kind: 'line',
          id: 'feed',
          name: 'feed',
          levelsDbu: { quietest: -60, typical: -50, loudest: -42 },
          noiseDbuA: -118,
        },
      ],
      picture: { framing: 'wide', focalLengthMm: 24, sensor: 'APS-C' },
      room: { name: 'none', volumeM3: 50, reverberationS: 0.5 },
    },
    gear: [box],
    boxes: [{ id: 'box', gear: 'box', source: 'feed' }],
    links: [],
  })
}
const patch = chain(4)
const none = shelfOf([])
const found = balance(patch, none)!
const graph = graphOf(patch, none)
const stages = graph.nodes.length
const combinations = freeControls(graph, patch, none).reduce(
  (product, { control }) => product * positionsOf(control).length,
  1,
)
say(
  `exhaustive over balance, stage evaluations, ${combinations} combinations`,
  (combinations * stages) / found.evaluations,
  '1000',
)
const one = at(
  times(2000, () => levelsOfGraph(graph, (key) => graph.settings.get(key)!)),
  0.5,
)
const whole = at(
  times(20, () => balance(patch, none), 5),
  0.5,
)
say(
  'exhaustive over balance, time (one combination timed, times their number)',
  (one * combinations) / whole,
  '-',
)
const large = chain(8)
const largeFrom = performance.now()
const largeAnswer = balance(large, none)!
say(
  `balance over ${largeAnswer.combinations.toPrecision(2)} combinations, in frames`,
  (performance.now() - largeFrom) / frameMs,
  '12',
)
for (const scene of scenes) {
  const from = performance.now()
  const answer = balance(scene, shelf)!
  say(
    `balance of "${scene.name}", ${answer.combinations.toPrecision(2)} combinations, in frames`,
    (performance.now() - from) / frameMs,
    '-',
  )
}

const draws = 10_000
const oddsFrom = performance.now()
oddsOf(largest, shelf, draws, 1)
const oddsMs = performance.now() - oddsFrom
const largestGraph = graphOf(largest, shelf)
const single = at(
  times(400, () => levelsOfGraph(largestGraph, (key) => largestGraph.settings.get(key)!)),
  0.5,
)
say(
  `odds of ${draws} draws over as many single evaluations of "${largest.name}"`,
  oddsMs / (single * draws),
  '0.2',
)

const tuning = scenes.find(({ name }) => name === 'The tuning')!
const oneTrack = graphOf({ ...tuning, links: tuning.links.filter(({ to }) => to.box === 'recorder') }, shelf)
const renderedS = 60
const renderFrom = performance.now()
let most = 0
for (const _ of render(oneTrack, (key) => oneTrack.settings.get(key)!, {
  rateHz: 48_000,
  frames: renderedS * 48_000,
  seed: 1,
  voice: (source) => voiceOf(source, 48_000, 1),
  noise: true,
  ambience: true,
}))
  most = Math.max(most, process.memoryUsage().arrayBuffers)
say(
  'real time over rendering, boom to recorder with its safety track',
  (renderedS * 1000) / (performance.now() - renderFrom),
  '50',
)
say('memory of all arrays while rendering a minute, MB', most / 1e6, 'flat in length')

const seconds = 120
const clip = bytesSource(
  wavBytes(
    [
      talkingClip({
        typicalDbfs: -24,
        noiseDbfsA: -70,
        loudestPeakDbfs: -6,
        lengthS: seconds,
        rateHz: 48000,
        seed: 1,
      }),
    ],
    48000,
  ),
)
const from = performance.now()
await measureClip(clip, 'clip.wav')
say('real time over measuring, one channel at 48 kHz', (seconds * 1000) / (performance.now() - from), '-')
