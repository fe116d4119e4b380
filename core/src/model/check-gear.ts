import { decibels } from '../units'
import { contactProblems } from './check-contacts'
import { hasPosition, mostPositions, positionCount } from './control'
import type { Figure } from './figure'
import { type Amount, mostAmountDb, type Stage } from './stage'
import type { Gear, Passive, Strip } from './gear'

/** Inconsistencies of a thing, one sentence each; empty if it can be used. */
export const checkGear = (gear: Gear): string[] =>
  [
    ...controlProblems(gear),
    ...insideProblems(gear),
    ...contactProblems(gear),
    ...portProblems(gear),
    ...usesOfControls(gear).flatMap((use) => useProblems(gear, use)),
    ...lawProblems(gear),
    ...gear.strips.flatMap((strip) => stripProblems(strip, gear)),
    ...trackProblems(gear),
    ...(busLoop(gear.strips) ? ['its buses feed each other in a circle'] : []),
  ].map((what) => `${gear.name} (${gear.id}): ${what}.`)

const hasTwins = (things: readonly { id: string }[]): boolean =>
  new Set(things.map(({ id }) => id)).size < things.length

function controlProblems({ controls, ports }: Gear): string[] {
  return [
    ...(hasTwins(controls) ? ['two controls share one id'] : []),
    ...(hasTwins(ports) ? ['two ports share one id'] : []),
    ...controls.flatMap((control) => {
      const count = positionCount(control)
      if (count > mostPositions)
        return [
          `control "${control.id}" has ${count} positions; use a coarser click, at most ${mostPositions} are taken`,
        ]
      return hasPosition(control, control.initial)
        ? []
        : [`control "${control.id}" cannot stand at ${control.initial}`]
    }),
  ]
}

/** A thing is either a device with strips, or passive inside. */
function insideProblems({ passive, strips, ports }: Gear): string[] {
  if (!passive) return strips.length === 0 ? ['it has neither strips nor a passive inside'] : []
  return [
    ...passiveProblems(passive),
    ...(strips.length || ports.length ? ['a passive piece has neither ports nor strips'] : []),
  ]
}

const portProblems = ({ ports }: Gear): string[] =>
  ports.flatMap(({ id, socketOf, direction, impedanceOhm, commonModeOhm }) => [
    ...(socketOf !== undefined && (socketOf === id || !ports.some((port) => port.id === socketOf))
      ? [`port "${id}" shares the socket of "${socketOf}", which is not there`]
      : []),
    // nothing arrives over a short circuit, and no ratio of nothing to nothing is a figure
    ...(direction === 'in' && [impedanceOhm, commonModeOhm].some(isZero)
      ? [`input "${id}" has 0 ohm, which would short whatever is plugged in; give what its sheet states`]
      : []),
  ])

const isZero = (figure: Figure | undefined): boolean =>
  figure !== undefined && figure !== 'unknown' && (typeof figure === 'number' ? figure : figure.value) === 0

/** A control that something follows: at the positions it names, or straight along a knob or scale. */
interface Use {
  control: string
  positions?: string[]
  /** It must say something at every position. */
  whole: boolean
}

function usesOfControls({ passive, radio, strips }: Gear): Use[] {
  const named = (control: string, at: object, whole: boolean): Use => ({
    control,
    positions: Object.keys(at),
    whole,
  })
  const ladder = passive?.ladder
  const carrier = radio?.carrierMhz
  return [
    ...(ladder && !Array.isArray(ladder) ? [named(ladder.control, ladder.at, false)] : []),
    ...(typeof carrier === 'object' ? [named(carrier.control, carrier.at, false)] : []),
    ...strips.flatMap(({ stages }) =>
      stages.flatMap((stage) => [
        ...amountsOf(stage).flatMap((amount) =>
          typeof amount === 'number'
            ? []
            : 'at' in amount
              ? [named(amount.control, amount.at, true)]
              : [{ control: amount.control, whole: false }],
        ),
        ...('when' in stage && stage.when
          ? [{ control: stage.when.control, positions: stage.when.is, whole: false }]
          : []),
      ]),
    ),
  ]
}

function useProblems({ controls }: Gear, { control: id, positions, whole }: Use): string[] {
  const control = controls.find((each) => each.id === id)
  if (!control) return [`no control "${id}"`]
  if (!positions)
    return control.kind === 'switch' ? [`"${id}" is a switch and needs an amount at each position`] : []
  if (control.kind !== 'switch') return [`"${id}" is not a switch`]
  return [
    ...positions
      .filter((position) => !hasPosition(control, position))
      .map((position) => `control "${id}" has no position "${position}"`),
    ...control.positions
      .filter((position) => whole && !positions.includes(position.id))
      .map((position) => `control "${id}" says nothing at "${position.id}"`),
  ]
}

/** Faults of laws beyond what any box can do, such as a misplaced decimal point. */
const lawProblems = ({ strips, controls }: Gear): string[] =>
  strips.flatMap(({ stages }) =>
    stages.flatMap((stage) =>
      amountsOf(stage).flatMap((amount) => {
        if (typeof amount === 'number' || !('perUnit' in amount)) return []
        const control = controls.find(({ id }) => id === amount.control)
        if (!control || control.kind === 'switch') return []
        const { perUnit, offset } = amount
        const ends = control.kind === 'knob' ? [control.minimum, control.maximum] : [0, control.steps - 1]
        const mark = ends.find((end) => Math.abs(perUnit * end + offset) > mostAmountDb)
        return mark === undefined
          ? []
          : [
              `"${control.name}" would change the level by ${decibels(perUnit * mark + offset)} at ${mark}; more than ${mostAmountDb} dB no box does, so look at the dB for each mark`,
            ]
      }),
    ),
  )

/** Ends of a strip that are not there or face the other way, and stages that do not follow each other. */
function stripProblems(strip: Strip, gear: Gear): string[] {
  const end = (place: Strip['from'], direction: 'in' | 'out'): string[] => {
    if ('bus' in place) return []
    const port = gear.ports.find(({ id }) => id === place.port)
    if (!port) return [`strip "${strip.id}" names a port "${place.port}" that is not there`]
    if (port.direction !== direction)
      return [`strip "${strip.id}" uses port "${port.id}" the wrong way round`]
    return place.channel === 'right' && port.channels === 1
      ? [`strip "${strip.id}" wants the right channel of "${port.id}", which has one channel`]
      : []
  }
  const domain = domainProblem(strip, gear)
  return [...end(strip.from, 'in'), ...strip.to.flatMap((to) => end(to, 'out')), ...(domain ? [domain] : [])]
}

function trackProblems({ strips }: Gear): string[] {
  const tracks = strips.flatMap(({ stages }) =>
    stages.flatMap((stage) => (stage.kind === 'recording' ? [stage.track] : [])),
  )
  return tracks
    .filter((track, index) => tracks.indexOf(track) < index)
    .map((track) => `two recordings share the track "${track}"`)
}

export function amountsOf(stage: Stage): Amount[] {
  if (stage.kind === 'gain' || stage.kind === 'digital-gain') return [stage.gainDb]
  return stage.kind === 'pad' ? [stage.lossDb] : []
}

/** Stages must follow in a domain they understand: pressure, then volts, then digital, then volts again. */
function domainProblem(strip: Strip, gear: Gear): string | undefined {
  if ('bus' in strip.from) return undefined
  const fromPort = strip.from.port
  const port = gear.ports.find(({ id }) => id === fromPort)
  let domain = port?.connector === 'air' ? 'pressure' : port?.digital ? 'digital' : 'volts'
  for (const stage of strip.stages) {
    const needs = {
      transducer: 'pressure',
      'converter-in': 'volts',
      'converter-out': 'digital',
      'digital-gain': 'digital',
    }[stage.kind as string]
    const analogueOnly =
      stage.kind === 'gain' || stage.kind === 'pad' || stage.kind === 'radio' || stage.kind === 'listen'
    if ((needs && domain !== needs) || (analogueOnly && domain !== 'volts'))
      return `in strip "${strip.id}" the stage "${stage.kind}" cannot take a signal in ${domain}`
    if (stage.kind === 'transducer' || stage.kind === 'converter-out') domain = 'volts'
    if (stage.kind === 'converter-in') domain = 'digital'
  }
  return domain === 'pressure' ? `strip "${strip.id}" takes in air and has no transducer` : undefined
}

function busLoop(strips: readonly Strip[]): boolean {
  const feeds = new Map<string, string[]>()
  for (const strip of strips)
    if ('bus' in strip.from)
      feeds.set(
        strip.from.bus,
        (feeds.get(strip.from.bus) ?? []).concat(strip.to.flatMap((to) => ('bus' in to ? [to.bus] : []))),
      )
  return hasLoop(feeds)
}

/** Whether a directed graph, as a list of followers, runs in a circle. */
export function hasLoop(followers: ReadonlyMap<string, readonly string[]>): boolean {
  const state = new Map<string, 'open' | 'done'>()
  const visit = (node: string): boolean => {
    if (state.get(node) === 'done') return false
    if (state.get(node) === 'open') return true
    state.set(node, 'open')
    if ((followers.get(node) ?? []).some(visit)) return true
    state.set(node, 'done')
    return false
  }
  return [...followers.keys()].some(visit)
}

/** Faults of a passive thing: wires and parts must end somewhere. */
function passiveProblems({ more = [], parts = [], converter }: Passive): string[] {
  const ends = 2 + more.length
  const places = parts.flatMap((part) =>
    'first' in part ? [...part.first, ...part.second] : [part.from, part.to],
  )
  const says = places.flatMap((place) =>
    'end' in place && place.end >= ends ? [`a part inside lies at end ${place.end}, which is not there`] : [],
  )
  const inside = places.flatMap((place) => ('inside' in place ? [place.inside] : []))
  for (const node of new Set(inside))
    if (inside.filter((each) => each === node).length < 2) says.push(`only one part inside touches "${node}"`)
  const ways = new Set(parts.flatMap((part) => (part.kind === 'converter' ? [part.direction] : [])))
  if (ways.size > 1) says.push('its converters face both ways')
  if (ways.size === 1 && !converter) says.push('it has a converter inside and no full scale for it')
  return says
}
