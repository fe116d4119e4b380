// npm run trials: how often a trial finds the setting within 1 dB of the best, on boxes with hidden figures drawn from the
// belief it begins with and from a wider one, beside a plain ladder of ten clips.
// Options: --boxes 1000 --wider 200
import { benchOf, trialModelOf } from '../core/src/lineup'
import { known } from '../core/src/model'
import { scene, shelf } from '../core/src/tests/demo'
import { judgeTrials } from '../core/src/tests/judge-trials'
import { readOptions } from './options.mjs'

const { values } = readOptions('npm run trials -- [--boxes 1000] [--wider 200]', {
  boxes: { type: 'string', default: '1000' },
  wider: { type: 'string', default: '200' },
})
const runs = [
  ['3-the-tuning', 'bell>boom>camera.left'],
  ['8-the-ride', 'founder>founder-lapel>camera.left'],
] as const

console.log('scene           boxes  drawn from   within 1 dB  clips, median and most  ladder of ten')
for (const [file, run] of runs) {
  const model = known(trialModelOf(benchOf(scene(file), shelf), run), `a trial of ${run}`)
  for (const [count, wider, name] of [
    [Number(values.boxes), 1, 'the belief'],
    [Number(values.wider), 1.6, 'wider'],
  ] as const) {
    const { within, medianClips, mostClips, ladderWithin } = judgeTrials(model, count, wider, 1)
    const share = (each: number) => `${(100 * each).toFixed(1)} %`.padStart(8)
    console.log(
      `${file.padEnd(15)} ${String(count).padStart(5)}  ${name.padEnd(11)}  ${share(within)}     ${medianClips} and ${mostClips}                 ${share(ladderWithin)}`,
    )
  }
}
