import { scenes, shelf } from '../../core/src/tests/demo'
import { levelsOfPatch } from '@iron-hush/core/levels'
for (const r of levelsOfPatch(scenes[1]!,shelf).runs) if (r.id.includes('action')) {console.log(r.id, r.tightest, r.typicalDb, r.noiseWithPlaceDb, r.peakDb, r.atSource); for (const p of r.points) console.log('    ',p.node,p.kind,p.automatic??'',p.rmsDb.typical.toFixed(2),p.peakDb.loudest.toFixed(2),p.wholePeakDb.toFixed(2),p.placePeakDb.toFixed(2), JSON.stringify(p.ceilings))}
