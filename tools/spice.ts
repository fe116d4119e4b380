// Circuits for a circuit simulator, which is started as a program: text in, voltages out.
import { execFile } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { promisify } from 'node:util'
import { ground, type Netlist, type NodeName, nodesOf, type Part } from '@iron-hush/core/circuit'

const run = promisify(execFile)
const program = 'ngspice'

/** Voltages by node, as complex numbers, for each frequency; DC at 0. */
export type Voltages = ReadonlyMap<number, ReadonlyMap<NodeName, readonly [re: number, im: number]>>

/** Leakage from every node to ground, ohm: without it, nodes behind capacitors have no DC voltage. */
const leakOhm = 1e11

/** Solves many circuits in one process: at DC and at each frequency, in the order of the circuits. */
export async function simulate(
  circuits: readonly Netlist[],
  frequenciesHz: readonly number[],
): Promise<Voltages[]> {
  const scratch = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-truth-'))
  try {
    const files = circuits.map((circuit, index) => {
      const file = path.join(scratch, `${index}.cir`)
      writeFileSync(file, cardsOf(circuit).join('\n'))
      return file
    })
    const commands = files.flatMap((file, index) => [
      `source ${file}`,
      `echo circuit ${index}`,
      'echo frequency 0',
      'op',
      'print all',
      ...frequenciesHz.flatMap((hz) => [`echo frequency ${hz}`, `ac lin 1 ${hz} ${hz}`, 'print all']),
      'destroy all',
      'remcirc',
    ])
    const script = path.join(scratch, 'all.cir')
    writeFileSync(
      script,
      ['* all', '.control', 'set numdgt=12', ...commands, 'quit', '.endc', '.end'].join('\n'),
    )
    const { stdout } = await run(program, ['-b', script], { maxBuffer: 1e9, cwd: scratch })
    const answers = readVoltages(stdout)
    if (answers.length !== circuits.length)
      throw new Error(`The simulator answered for ${answers.length} of ${circuits.length} circuits.`)
    return answers
  } finally {
    rmSync(scratch, { recursive: true, force: true })
  }
}

/** A circuit as cards: a title, a part a line, the end. */
export function cardsOf(circuit: Netlist): string[] {
  const name = (node: NodeName) => (node === ground ? '0' : node)
  const cards = circuit.flatMap((part, index) => cardsOfPart(part, index, name))
  const leaks = nodesOf(circuit)
    .filter((node) => node !== ground)
    .map((node, index) => `rleak${index} ${node} 0 ${leakOhm}`)
  return ['* link', ...cards, ...leaks, '.end']
}

function cardsOfPart(part: Part, index: number, name: (node: NodeName) => string): string[] {
  const ends = (from: NodeName, to: NodeName) => `${name(from)} ${name(to)}`
  switch (part.kind) {
    case 'resistor':
      return [`r${index} ${ends(part.from, part.to)} ${part.ohm}`]
    case 'capacitor':
      return [`c${index} ${ends(part.from, part.to)} ${part.farad}`]
    case 'wire':
      return [`v${index} ${ends(part.from, part.to)} dc 0 ac 0`]
    case 'source': {
      // sound is distinguished from supplies as AC from DC
      const volts =
        part.signal === undefined
          ? `dc ${part.volts} ac 0`
          : `dc 0 ac ${Math.abs(part.volts)} ${part.volts < 0 ? 180 : 0}`
      return [
        `v${index} inner${index} ${name(part.to)} ${volts}`,
        `r${index} ${name(part.from)} inner${index} ${part.ohm}`,
      ]
    }
    case 'transformer': {
      const { first, second, ratio, henry, leakageHenry } = part
      return [
        `r${index}a ${name(first[0])} one${index} ${part.firstOhm}`,
        `l${index}a one${index} ${name(first[1])} ${henry}`,
        `r${index}b ${name(second[0])} two${index} ${part.secondOhm}`,
        `l${index}b two${index} ${name(second[1])} ${henry * ratio ** 2}`,
        `k${index} l${index}a l${index}b ${Math.sqrt(1 - leakageHenry / henry)}`,
      ]
    }
    case 'amplifier':
      throw new Error('No amplifier is written twice.')
  }
}

/** Reads what the simulator prints: `node = volts` for DC, `node = re,im` for a frequency. */
export function readVoltages(text: string): Voltages[] {
  const circuits: Map<number, Map<NodeName, readonly [number, number]>>[] = []
  let now = new Map<NodeName, readonly [number, number]>()
  for (const line of text.split('\n')) {
    if (/^circuit \d+$/.test(line)) circuits.push(new Map())
    const frequency = /^frequency (\S+)$/.exec(line)
    if (frequency) circuits.at(-1)!.set(Number(frequency[1]), (now = new Map([[ground, [0, 0]]])))
    const voltage = /^(n\d+) = (\S+?)(?:,\s*(\S+))?\s*$/.exec(line)
    if (voltage) now.set(voltage[1]!, [Number(voltage[2]), Number(voltage[3] ?? 0)])
  }
  return circuits
}
