import type { Outcome } from '../advice'
import { decibels, signed } from '../units'
import { worstRatioName } from './ratio'
import { troubleWords } from './trouble'

/** Outcome of a change, in one sentence. */
export function outcomeWords(outcome: Outcome): string {
  switch (outcome.kind) {
    case 'brings':
      return troubleWords(outcome.finding).what
    case 'cures':
      return `cures: ${troubleWords(outcome.finding).what}`
    case 'refused':
      return outcome.sentence
    case 'clearness':
      return clearness(outcome)
  }
}

function clearness({ beforeDb, afterDb, sources }: Extract<Outcome, { kind: 'clearness' }>): string {
  const worst = `worst ${worstRatioName(sources)}`
  if (afterDb === undefined) return 'nothing is recorded with it yet'
  if (beforeDb === undefined) return `${worst} ${decibels(afterDb)}`
  const [was, is] = [signed(beforeDb), signed(afterDb)]
  return `${worst} ${was === is ? `stays ${is}` : `${was} \u2192 ${is}`} dB`
}
