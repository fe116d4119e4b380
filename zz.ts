import fc from 'fast-check'
import { anyChain, automaticChain } from './core/src/tests/random-chains'
import { heardBeside } from './core/src/tests/on-samples'
import { scenes, shelf } from './core/src/tests/demo'
const errs: number[] = []; const bad: string[] = []
const add = (n: string, hs: ReturnType<typeof heardBeside>) => { for (const h of hs) if (h.kind === 'noise in a pause' && !h.limited) { const e = h.predicted - h.rendered; errs.push(e); if (Math.abs(e) > 0.25) bad.push(`${n} ${h.run} ${e.toFixed(2)}`) } }
for (const s of scenes) add(s.name, heardBeside(s, shelf))
fc.sample(automaticChain, { numRuns: 45, seed: 1 }).forEach((p, i) => add(`auto ${i}`, heardBeside(p, new Map(), 2)))
fc.sample(anyChain, { numRuns: 20, seed: 1 }).forEach((p, i) => add(`any ${i}`, heardBeside(p, new Map(), 2)))
console.log(errs.length, 'mean', (errs.reduce((a, b) => a + b, 0) / errs.length).toFixed(3), 'rms', Math.sqrt(errs.reduce((a, b) => a + b * b, 0) / errs.length).toFixed(3), bad)
