import fc from 'fast-check'
import { automaticChain } from '../core/src/tests/random-chains'
import { heardBeside } from '../core/src/tests/on-samples'
import { balance } from '../core/src/balance'
import { applyEdits } from '../core/src/model'
import { levelsOfPatch } from '../core/src/levels'
const i = Number(process.argv[2])
const q = fc.sample(automaticChain, { numRuns: i + 1, seed: 1 })[i]!
const b = balance(q, new Map())!
console.log(
  JSON.stringify(b.before),
  JSON.stringify(b.after),
  JSON.stringify(b.changes.map((c) => [c.part, c.control, c.from, c.to])),
)
const p = process.argv[3]
  ? q
  : applyEdits(
      q,
      b.changes.map(({ part, control, to }) => ({
        kind: 'set control' as const,
        part,
        control,
        position: to,
      })),
      new Map(),
    )
console.log(
  JSON.stringify(
    p.gear.map((g) =>
      g.strips.map((s) =>
        s.stages.filter((x) => ['agc', 'limiter', 'duck', 'low-cut'].includes(x.kind) || x.kind === 'gain'),
      ),
    ),
  ),
  JSON.stringify(p.brief.sources),
  JSON.stringify(p.brief.noises),
)
for (const r of levelsOfPatch(p, new Map()).runs) {
  console.log(r.id, r.typicalDb, r.noiseWithPlaceDb, r.peakDb, JSON.stringify(r.tightest))
  for (const q of r.points)
    if (['agc', 'limiter', 'sum', 'recording', 'duck'].includes(q.kind))
      console.log(
        '    ',
        q.node,
        q.kind,
        JSON.stringify(q.automatic) ?? '',
        q.rmsDb.typical.toFixed(2),
        q.peakDb.loudest.toFixed(2),
        q.wholePeakDb.toFixed(2),
        q.noiseWithPlaceDb.toFixed(2),
        q.placePeakDb.toFixed(2),
      )
}
for (const x of heardBeside(p, new Map(), 2))
  console.log(x.kind, x.limited, x.run, x.predicted.toFixed(2), x.rendered.toFixed(2))
