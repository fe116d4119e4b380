import { decibelsOf, leakageDb } from './facts-of-sound'
import { type PluggedLink, wayTo } from './link'
import { groundOf, inputNode, outputNode, senderGround } from './link-parts'
import type { Netlist } from './netlist'
import { magnitude, minus, networkAt } from './solve'

const isConverter = ({ kind }: { kind: string }) => kind === 'converter'

/** Whether a converter lies between the output and an input. */
export const passesConverter = (link: PluggedLink, input: number): boolean =>
  wayTo(link, input).some((index) => link.pieces[index]!.parts?.some(isConverter))

/** Whether sound arrives as a stream: the output gives one, or a converter on the way makes one. */
export const arrivesAsStream = (link: PluggedLink, input: number): boolean =>
  wayTo(link, input).reduce((stream, index) => {
    const converter = link.pieces[index]!.parts?.find((part) => part.kind === 'converter')
    return converter ? converter.direction === 'in' : stream
  }, link.output.digital !== undefined)

/**
 * Whether sound put in at an input would come out at the output though none comes the other way: then a converter
 * faces the wrong way. Without a converter every network passes both ways alike, and there is nothing to ask.
 */
export function soundsBackwards(link: PluggedLink, netlist: Netlist, input: number): boolean {
  if (!passesConverter(link, input)) return false
  return link.inputs[input]!.channels.some((channel) => {
    const probe = {
      kind: 'source' as const,
      id: 'probe',
      from: inputNode(input, channel.hot),
      to: channel.cold === undefined ? groundOf(input) : inputNode(input, channel.cold),
      volts: 1,
      ohm: 1,
      signal: 'probe',
    }
    const solution = networkAt([...netlist, probe], 1000).driven('probe')
    return link.output.channels.some(({ hot, cold }) => {
      const across = minus(
        solution.volts(outputNode(hot)),
        solution.volts(cold === undefined ? senderGround : outputNode(cold)),
      )
      return decibelsOf(magnitude(across)) > leakageDb
    })
  })
}

/** Whether sound arrives as a voltage, as a stream that the input reads, or as something it cannot read. */
export function arrivesAs(link: PluggedLink): 'volts' | 'stream' | 'nothing' {
  const { output, inputs } = link
  const { digital } = inputs[0]!
  if (!output.digital && !digital && !passesConverter(link, 0)) return 'volts'
  const arrives = arrivesAsStream(link, 0)
  if (arrives !== (digital !== undefined)) return 'nothing'
  if (!arrives || !output.digital) return 'volts'
  return output.digital.ratesHz.some((hz) => digital?.ratesHz.includes(hz)) ? 'stream' : 'nothing'
}
