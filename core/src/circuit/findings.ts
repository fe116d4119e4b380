import { bySeverity, type CircuitFinding, type Find } from '../findings'
import { family } from './contacts'
import { type Facts, factsOf } from './facts'
import { findOnOutput } from './findings-of-outputs'
import { findOnPower } from './findings-of-power'
import { findOnSound, findOnStreams } from './findings-of-sound'
import { findHum } from './hum'
import type { PluggedLink } from './link'
import { variantsOf } from './variants'

/** A solved link: facts for each kind of socket, and findings. */
export interface LinkReport {
  variants: { touching: string[]; facts: Facts; findings: CircuitFinding[] }[]
  findings: CircuitFinding[]
}

/** Solves a link in every kind of socket and derives its findings. */
export function reportOf(link: PluggedLink): LinkReport {
  const found = variantsOf(link)
  if ('misfit' in found) {
    const { at, one, other } = found.misfit
    const half = ({ shape, gender }: typeof one) => ({ shape, gender })
    const finding: CircuitFinding = {
      severity: 'dead',
      code: 'misfit',
      subject: { where: at },
      figures: { one: half(one), other: half(other), sameFamily: family(one.shape) === family(other.shape) },
    }
    return { variants: [], findings: [finding] }
  }
  const variants = found.variants.map((variant) => {
    const facts = factsOf(link, variant)
    return {
      touching: variant.matings.map(
        ({ at, pairs }) =>
          `${at}: ${pairs.map(([plug, socket]) => (plug === socket ? plug : `${plug} on ${socket}`)).join(', ')}`,
      ),
      facts,
      findings: findingsIn(link, facts).sort(bySeverity),
    }
  })
  return { variants, findings: together(variants.map((variant) => variant.findings)) }
}

/** Findings of all variants as one list; those of only some variants are marked. */
function together(all: CircuitFinding[][]): CircuitFinding[] {
  if (all.length === 1) return all[0]!
  const key = ({ code, subject: { where, contact } }: CircuitFinding) => `${code} ${where} ${contact}`
  const everywhere = all[0]!.filter((finding) =>
    all.every((list) => list.some((each) => key(each) === key(finding))),
  )
  const known = new Set(everywhere.map(key))
  const sometimes = all.flatMap((list) =>
    list.filter((finding) => !known.has(key(finding)) && known.add(key(finding))),
  )
  const some = sometimes.map((finding): CircuitFinding => ({
    ...finding,
    someSocketsOnly: true,
  }))
  const worst = sometimes.filter(({ severity }) => severity === 'dead' || severity === 'harmful')
  const note: CircuitFinding[] = worst.length
    ? [
        {
          severity: 'degraded',
          code: 'some sockets',
          subject: worst[0]!.subject,
          figures: {},
        },
      ]
    : []
  return [...everywhere, ...some, ...note].sort(bySeverity)
}

/** Everything that one way of touching has to say. */
function findingsIn(link: PluggedLink, facts: Facts): CircuitFinding[] {
  const found: CircuitFinding[] = []
  const find: Find = (severity, code, subject, figures) =>
    // the signature of Find ties each code to its figures
    found.push({ severity, code, subject, figures } as CircuitFinding)
  findOnOutput(link, facts, find)
  findOnSound(link, facts, find)
  findOnStreams(link, facts, find)
  findOnPower(link, facts, find)
  findHum(link, facts, find)
  return found
}
