import { scenes, shelf } from '../../core/src/tests/demo'
import { levelsOfPatch } from '@iron-hush/core/levels'
const s = scenes[4]!
for (const r of levelsOfPatch(s, shelf).runs)
  if (r.end.box === 'second') {
    console.log(r.id, r.source.kind, r.typicalDb, r.noiseDb, r.noiseWithPlaceDb, r.pauseRiseDb, r.peakDb)
    for (const p of r.points)
      if (p.automatic || p.joinedDb)
        console.log(
          p.node,
          p.automatic,
          p.joinedDb,
          p.rmsDb,
          p.noiseWithPlaceDb,
          p.pauseNoiseAtSourceDb,
          p.gainFromSourceDb,
        )
  }
