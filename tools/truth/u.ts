import { scenes, shelf } from '../../core/src/tests/demo'
import { graphOf, chainOf } from '@iron-hush/core/chain'
const s = scenes[4]!
const g = graphOf(s, shelf); const at=(k:string)=>g.settings.get(k)!
const c = chainOf(g, g.nodes.map(n=>n.read(at)))
for (const n of g.nodes) if (c.readings[n.index]!.follows) { const st=c.readings[n.index]!.follows!; console.log(n.id, JSON.stringify(st), 'onset', c.onset.followDb[n.index], 'typ', c.typical.map(t=>t.followDb[n.index]), 'pause', c.pause.map(t=>t.followDb[n.index])) }
console.log(c.table.sources.map(x=>[x.source.id,x.source.kind,x.loudest,x.crest]))
const e = g.ends.find(e=>e.box==='second')!
console.log(20*Math.log10(c.peakAfter(e.node)), c.onset.after[e.node])
