import { schoolsOf, type TargetSettings, targetsOf, worstRatioDb } from '@iron-hush/core/balance'
import { known } from '@iron-hush/core/model'
import { kitOptions } from '@iron-hush/core/plan'
import { decibels } from '@iron-hush/core/units'
import { kitWords, schoolWords, targetWords } from '@iron-hush/core/words'
import { readPatch } from '../input'
import type { Options } from '../options'
import type { Shell } from '../shell'

/** The ways to use a kit side by side, and the chain as schools of gain and of peaks would set it. */
export function kitsCommand({ onPatch, say }: Shell): void {
  onPatch('kits', 'straight in, something between, a recorder alone: each balanced, side by side').action(
    async (file: string, options: Options) => {
      const { patch, shelf } = await readPatch(file, options.shelf)
      const kits = known(kitOptions(patch, shelf), 'a comparison that nobody cancels').map(
        ({ way, planned }) => ({
          way: kitWords(way),
          dead: planned.dead > 0,
          speechToNoiseDb: planned.dead ? null : (planned.run?.speechToNoiseDb ?? null),
          toBuy: planned.missing.map(({ id }) => id),
        }),
      )
      const worth = <T extends Pick<TargetSettings, 'fits' | 'score' | 'changes'>>({
        score,
        ...each
      }: T) => ({
        ...each,
        speechToNoiseDb: Number.isFinite(worstRatioDb(score)) ? worstRatioDb(score) : null,
        headroomDb: Number.isFinite(score.headroomDb) ? score.headroomDb : null,
      })
      const schools = known(schoolsOf(patch, shelf), 'schools that nobody cancels').map((each) => worth(each))
      const targets = known(targetsOf(patch, shelf), 'targets that nobody cancels').map((each) => worth(each))
      if (options.json) return say.log(JSON.stringify({ kits, schools, targets }, null, 2))
      const db = (value: number | null) => (value === null ? 'no sound' : decibels(value))
      for (const { way, speechToNoiseDb, toBuy } of kits)
        say.log(`${way}: ${db(speechToNoiseDb)}${toBuy.length ? `, to buy ${toBuy.join(', ')}` : ''}`)
      const line = (
        name: string,
        { fits, speechToNoiseDb, headroomDb }: (typeof targets | typeof schools)[number],
      ) =>
        say.log(`${name}: ${db(speechToNoiseDb)}, headroom ${db(headroomDb)}${fits ? '' : ', does not fit'}`)
      for (const each of schools) line(schoolWords[each.school].name, each)
      for (const each of targets) line(`Peaks ${targetWords(each.target).name}`, each)
    },
  )
}
