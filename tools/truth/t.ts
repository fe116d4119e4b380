import { scenes, shelf } from '../../core/src/tests/demo'
import { heardBeside } from '../../core/src/tests/on-samples'
import { applyEdits, positionsOf, Patch, type Edit } from '@iron-hush/core/model'
import { random } from '@iron-hush/core/signals'
const r = random(Number(process.argv[2] ?? 1))
const pick = <T>(l: readonly T[]) => l[Math.floor(r() * l.length)]!
for (let n = 0; n < Number(process.argv[3] ?? 7); n++) {
  const scene = scenes[n % scenes.length]!
  const edits: Edit[] = []
  for (const box of scene.boxes)
    for (const c of shelf.get(box.gear)?.controls ?? [])
      if (r() < 0.5)
        edits.push({ kind: 'set control', part: box.id, control: c.id, position: pick(positionsOf(c)) })
  let patch = scene
  for (const e of edits)
    try {
      patch = applyEdits(patch, [e], shelf)
    } catch {}
  if (n >= scenes.length)
    patch = {
      ...patch,
      brief: {
        ...patch.brief,
        noises: patch.brief.noises.map((x) => ({
          ...x,
          levelDba: Math.round(20 + r() * 80),
          loudestDba: undefined,
        })),
      },
    }
  if (process.argv[5] && n!==Number(process.argv[5])) continue
  if (process.argv[5]) { const {levelsOfPatch}= await import('@iron-hush/core/levels'); const {graphOf}=await import('@iron-hush/core/chain'); for (const r of levelsOfPatch(patch,shelf).runs) if (r.end.kind==='recording') {console.log(r.id, r.typicalDb, r.noiseDb, r.noiseWithPlaceDb, r.atSource); for (const p of r.points) console.log('    ',p.node,p.kind,p.automatic??'',p.rmsDb.typical.toFixed(2),p.noiseDb.toFixed(2),p.noiseWithPlaceDb.toFixed(2),p.placePeakDb.toFixed(2), p.heldDb??'')} }
  const t = performance.now()
  const h = heardBeside(n < scenes.length && !process.argv[4] ? scene : patch, shelf)
  console.log(scene.name, h.length, Math.round(performance.now() - t), 'ms')
  for (const x of h) {
    const d = x.predicted - x.rendered
    if (Math.abs(d) > 0.3)
      console.log('  ', x.kind, x.run, x.predicted.toFixed(2), x.rendered.toFixed(2), d.toFixed(2))
  }
}
