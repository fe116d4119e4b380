// npm run detectors: clips with known faults and clean ones, made at random; hits, misses and false alarms of every detector.
// Options: --seeds 7 --only hum,wind --verbose
import { judged, type Verdict } from '../core/src/tests/detecting'
import { clean, faulty } from '../core/src/tests/known-clips'
import { readOptions } from './options.mjs'

const { values } = readOptions('npm run detectors -- [--seeds 7] [--first 1] [--only hum,wind] [--verbose]', {
  seeds: { type: 'string', default: '7' },
  first: { type: 'string', default: '1' },
  only: { type: 'string', default: '' },
  verbose: { type: 'boolean', default: false },
})
const seeds = Array.from({ length: Number(values.seeds) }, (_, index) => Number(values.first) + index)
const only = values.only.split(',').filter(Boolean)

const rows = new Map<string, Verdict[]>()
for (const make of [...faulty, ...clean])
  for (const seed of seeds) {
    const clip = make(seed)
    if (only.length && !only.includes(clip.kind)) break
    const name = [clip.kind, clip.strength].filter(Boolean).join(', ')
    const verdict = await judged(clip)
    rows.set(name, [...(rows.get(name) ?? []), verdict])
    if (values.verbose && (verdict.off.length || verdict.alarms.length || (clip.truth && !verdict.found)))
      console.log(
        `    ${name}, seed ${seed}: ${verdict.found ? '' : clip.truth ? 'missed ' : ''}${[...verdict.off, ...verdict.alarms.map((each) => `alarm ${each}`)].join('; ')}`,
      )
  }

console.log(`${'clip'.padEnd(44)} found  right  false alarms`)
const total = { faulty: 0, found: 0, right: 0, clean: 0, alarms: 0 }
for (const [name, verdicts] of rows) {
  const hasFault = verdicts[0]!.clip.truth !== undefined
  const found = verdicts.filter((verdict) => verdict.found).length
  const right = verdicts.filter((verdict) => verdict.found && verdict.off.length === 0).length
  const alarms = verdicts.filter((verdict) => verdict.alarms.length > 0)
  if (hasFault) {
    total.faulty += verdicts.length
    total.found += found
    total.right += right
  } else {
    total.clean += verdicts.length
    total.alarms += alarms.length
  }
  const share = (count: number) => (hasFault ? `${count}/${verdicts.length}` : '').padEnd(6)
  const what = [...new Set(alarms.flatMap((verdict) => verdict.alarms))].join(', ')
  console.log(`${name.padEnd(44)} ${share(found)} ${share(right)} ${alarms.length || ''} ${what}`)
}
console.log(
  `\n${total.faulty} with a fault: ${total.found} found, ${total.right} of them with everything right; ${total.clean} clean: ${total.alarms} false alarms`,
)
