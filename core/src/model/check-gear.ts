import { contactProblems } from './check-contacts'
import { hasPosition, mostPositions, positionCount } from './control'
import type { Amount, Stage } from './stage'
import type { Gear, Passive, Strip } from './gear'

/** What is inconsistent inside a thing, one sentence each; empty when it can be used. */
export function checkGear(gear: Gear): string[] {
  const says: string[] = []
  const say = (what: string) => says.push(`${gear.name} (${gear.id}): ${what}.`)
  const controls = new Map(gear.controls.map((control) => [control.id, control]))
  if (controls.size < gear.controls.length) say('two controls share one id')
  if (new Set(gear.ports.map(({ id }) => id)).size < gear.ports.length) say('two ports share one id')
  for (const control of gear.controls)
    if (positionCount(control) > mostPositions)
      say(
        `control "${control.id}" has ${positionCount(control)} positions; use a coarser click, at most ${mostPositions} are taken`,
      )
    else if (!hasPosition(control, control.initial))
      say(`control "${control.id}" cannot stand at ${control.initial}`)

  const useControl = (id: string, positions: string[] | undefined) => {
    const control = controls.get(id)
    if (!control) return say(`no control "${id}"`)
    if (!positions) {
      if (control.kind === 'switch') say(`"${id}" is a switch and needs an amount at each position`)
    } else if (control.kind !== 'switch') say(`"${id}" is not a switch`)
    else
      for (const position of positions)
        if (!hasPosition(control, position)) say(`control "${id}" has no position "${position}"`)
  }
  const useAmount = (amount: Amount) => {
    if (typeof amount === 'number') return
    useControl(amount.control, 'at' in amount ? Object.keys(amount.at) : undefined)
    const control = controls.get(amount.control)
    if ('at' in amount && control?.kind === 'switch')
      for (const { id } of control.positions)
        if (!(id in amount.at)) say(`control "${control.id}" says nothing at "${id}"`)
  }

  if (gear.passive) {
    passiveProblems(gear.passive).forEach(say)
    if (gear.strips.length || gear.ports.length) say('a passive piece has neither ports nor strips')
    if (!Array.isArray(gear.passive.ladder))
      useControl(gear.passive.ladder.control, Object.keys(gear.passive.ladder.at))
  } else if (gear.strips.length === 0) say('it has neither strips nor a passive inside')

  contactProblems(gear).forEach(say)
  const ports = new Map(gear.ports.map((port) => [port.id, port]))
  for (const port of gear.ports)
    if (port.socketOf !== undefined && (port.socketOf === port.id || !ports.has(port.socketOf)))
      say(`port "${port.id}" shares the socket of "${port.socketOf}", which is not there`)
  const end = (
    strip: Strip,
    place: { port: string; channel: string } | { bus: string },
    direction: 'in' | 'out',
  ) => {
    if ('bus' in place) return
    const port = ports.get(place.port)
    if (!port) say(`strip "${strip.id}" names a port "${place.port}" that is not there`)
    else if (port.direction !== direction)
      say(`strip "${strip.id}" uses port "${port.id}" the wrong way round`)
    else if (place.channel === 'right' && port.channels === 1)
      say(`strip "${strip.id}" wants the right channel of "${port.id}", which has one channel`)
  }
  if (gear.radio && typeof gear.radio.carrierMhz !== 'number')
    useControl(gear.radio.carrierMhz.control, Object.keys(gear.radio.carrierMhz.at))
  const tracks = new Set<string>()
  for (const strip of gear.strips) {
    end(strip, strip.from, 'in')
    for (const to of strip.to) end(strip, to, 'out')
    for (const stage of strip.stages) {
      for (const amount of amountsOf(stage)) useAmount(amount)
      if ('when' in stage && stage.when) useControl(stage.when.control, stage.when.is)
      if (stage.kind === 'recording') {
        if (tracks.has(stage.track)) say(`two recordings share the track "${stage.track}"`)
        tracks.add(stage.track)
      }
    }
    const problem = domainProblem(strip, gear)
    if (problem) say(problem)
  }
  if (busLoop(gear.strips)) say('its buses feed each other in a circle')
  return says
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

/** What is wrong inside a passive thing: wires and parts must end somewhere. */
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
