// npm run truth: figures against a circuit simulator and against rendered samples, at random. By hand; its short form is
// part of the tests. Options: --links 2000 --chains 40 --balances 100 --seed 1
import fc from 'fast-check'
import { tones } from '../core/src/circuit'
import { balanced } from '../core/src/tests/balanced'
import { scenes, shelf } from '../core/src/tests/demo'
import { apart, type Heard, heardBeside } from '../core/src/tests/on-samples'
import { anyChain, automaticChain } from '../core/src/tests/random-chains'
import { compared, type DrawnTwice, drawnTwice } from '../core/src/tests/drawn-twice'
import { needSimulator } from './packages.mjs'
import { simulate } from './spice'
import { readOptions } from './options.mjs'

const { values } = readOptions('npm run truth -- [--links 2000] [--chains 40] [--balances 100] [--seed 1]', {
  links: { type: 'string', default: '2000' },
  chains: { type: 'string', default: '40' },
  balances: { type: 'string', default: '100' },
  seed: { type: 'string', default: '1' },
})
const seed = Number(values.seed)

/** The worst difference of each kind, with how many were compared. */
class Worst {
  private readonly kinds = new Map<
    string,
    { worst: number; count: number; where: string; unit: string; limit: number }
  >()
  failed = 0

  add(kind: string, unit: string, difference: number, limit: number, where: string): void {
    const so = this.kinds.get(kind) ?? { worst: 0, count: 0, where, unit, limit }
    so.count++
    // NaN counts as a disagreement
    const size = Number.isFinite(difference) ? Math.abs(difference) : Infinity
    if (size > so.worst) Object.assign(so, { worst: size, where })
    if (size > limit) this.failed++
    this.kinds.set(kind, so)
  }
  print(title: string): void {
    console.log(`\n${title}`)
    for (const [kind, { worst, count, unit, limit, where }] of [...this.kinds].sort(([a], [b]) =>
      a < b ? -1 : 1,
    )) {
      const mark = worst <= limit ? 'ok    ' : 'BEYOND'
      console.log(
        `  ${mark} ${kind.padEnd(44)} worst ${worst.toPrecision(3).padStart(9)} ${unit}, limit ${limit} ${unit}, ${count} compared${worst > limit ? `: ${where}` : ''}`,
      )
    }
  }
}

async function circuits(): Promise<number> {
  if (!(await needSimulator())) {
    console.log('The circuit simulator is not here and cannot be installed: links are not compared with it.')
    return 0
  }
  const worst = new Worst()
  let unanswered = 0
  const links = fc.sample(drawnTwice, { numRuns: Number(values.links), seed })
  for (let from = 0; from < links.length; from += 200) {
    const some = links.slice(from, from + 200)
    const answers = await simulate(
      some.map(({ circuit }) => circuit),
      Object.values(tones),
    )
    some.forEach((drawn, index) => {
      const voltages = answers[index]!
      // a matrix that it calls singular has no answer to compare with
      const all = [0, ...Object.values(tones)]
      if (all.some((hz) => (voltages.get(hz)?.size ?? 0) < 2)) return void unanswered++
      addLink(worst, drawn, (hz) => voltages.get(hz)!, `link ${from + index}`)
    })
  }
  worst.print(`${links.length} links against the circuit simulator`)
  if (unanswered) console.log(`  ${unanswered} of them it could not solve`)
  return worst.failed
}

function addLink(
  worst: Worst,
  drawn: DrawnTwice,
  solved: Parameters<typeof compared>[1],
  where: string,
): void {
  for (const { unit, mine, other } of compared(drawn, solved))
    for (const kind of new Set(drawn.kinds))
      worst.add(
        `${unit === 'dB' ? 'sound' : 'supply'}, ${kind}`,
        unit,
        mine - other,
        unit === 'dB' ? 0.01 : 0.001,
        where,
      )
}

function addHeard(worst: Worst, heard: readonly Heard[], where: string): void {
  for (const each of heard) {
    const { kind, limited, run } = each
    if (kind === 'ceiling' && limited) continue
    worst.add(
      `${kind === 'most' ? 'peak at most' : kind}${limited ? ', a limiter at work' : ''}`,
      kind === 'ceiling' ? '' : 'dB',
      apart(each),
      limited ? 4 : 0.3,
      `${where}, ${run}`,
    )
  }
}

function samples(): number {
  const worst = new Worst()
  for (const scene of scenes) addHeard(worst, heardBeside(scene, shelf), scene.name)
  const chains = fc.sample(anyChain, { numRuns: Number(values.chains), seed })
  chains.forEach((patch, index) => addHeard(worst, heardBeside(patch, new Map(), 2), `chain ${index}`))
  worst.print(`${scenes.length} scenes and ${chains.length} chains against samples`)
  return worst.failed
}

function balances(): number {
  const worst = new Worst()
  let lost = 0
  let held = 0
  const chains = fc.sample(automaticChain, { numRuns: Number(values.balances), seed })
  chains.forEach((patch, index) => {
    const { before, after, worstDb, asGood } = balanced(patch, new Map(), 2)
    addHeard(worst, before, `chain ${index} before`)
    addHeard(worst, after, `chain ${index} after`)
    if (!asGood || !worstDb) return
    held++
    if (worstDb.after < worstDb.before - 0.3) {
      lost++
      console.log(
        `chain ${index}: ${worstDb.before.toFixed(1)} dB before Balance, ${worstDb.after.toFixed(1)} dB after`,
      )
    }
  })
  worst.print(`${chains.length} chains with automatic gain, before and after Balance, against samples`)
  console.log(
    `  ${held} of them met every demand as well before and were compared in every run; ${lost} of these are less clear on samples afterwards`,
  )
  return worst.failed
}

const failed = (await circuits()) + samples() + balances()
console.log(failed ? `\n${failed} figures lie beyond their limits` : '\nEvery figure lies within its limit')
process.exit(failed ? 1 : 0)
