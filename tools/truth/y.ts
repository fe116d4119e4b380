import { levelsOfPatch } from '@iron-hush/core/levels'
import fc from 'fast-check'
import { anyChain } from '../../core/src/tests/random-chains'
import { heardBeside } from '../../core/src/tests/on-samples'
const n=Number(process.argv[2]), seed=Number(process.argv[3]??1)
const t=performance.now()
let total=0, bad=0
const only=process.argv[4]; fc.sample(anyChain,{numRuns:n,seed}).forEach((p,i)=>{ if(only&&i!==Number(only)) return; if(only){ console.log(JSON.stringify(p.gear.map(g=>g.strips.map(s=>s.stages))), JSON.stringify(p.brief)); for (const r of levelsOfPatch(p,new Map()).runs) {console.log(r.id, r.typicalDb, r.noiseWithPlaceDb,r.peakDb, JSON.stringify(r.tightest)); for (const q of r.points) console.log('    ',q.node,q.kind,q.automatic??'',q.rmsDb.typical.toFixed(2),q.peakDb.loudest.toFixed(2),q.wholePeakDb.toFixed(2),q.noiseWithPlaceDb.toFixed(2),q.placePeakDb.toFixed(2))} } const h=heardBeside(p,new Map(),2); total+=h.length; for(const x of h){const d=x.predicted-x.rendered; if(!(Math.abs(d)<=0.3)){bad++;console.log(i,x.kind,x.run,x.predicted.toFixed(2),x.rendered.toFixed(2),d.toFixed(2))}} })
console.log(total,bad,performance.now()-t)
