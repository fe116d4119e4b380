import { connectorNames } from '../model'
import { family } from './contacts'
import { type Facts, factsOf } from './facts'
import { findOnOutput } from './findings-of-outputs'
import { findOnPower } from './findings-of-power'
import { findOnSound, findOnStreams } from './findings-of-sound'
import { findHum } from './hum'
import type { PluggedLink } from './link'
import { bySeverity, type Find, type LinkFinding } from './link-finding'
import { variantsOf } from './variants'

/** A link solved: what it comes to in each kind of socket, and what there is to say. */
export interface LinkReport {
  variants: { touching: string[]; facts: Facts; findings: LinkFinding[] }[]
  findings: LinkFinding[]
}

/** Solves a link in every kind of socket and says what follows. */
export function reportOf(link: PluggedLink): LinkReport {
  const found = variantsOf(link)
  if ('misfit' in found) {
    const { at, one, other } = found.misfit
    const half = ({ shape, gender }: typeof one) => `a ${gender} of ${connectorNames[shape]}`
    const finding: LinkFinding = {
      severity: 'dead',
      about: 'misfit',
      what: `The plugs do not go together: ${half(one)} and ${half(other)}.`,
      where: at,
      why:
        family(one.shape) === family(other.shape)
          ? `Two ${one.gender}s face each other.`
          : 'They are of different families.',
      remedy: 'Put an adapter between them.',
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

/** Findings of all variants as one list; what is only said of some is said to be so. */
function together(all: LinkFinding[][]): LinkFinding[] {
  if (all.length === 1) return all[0]!
  const key = ({ about, where }: LinkFinding) => `${about} ${where}`
  const everywhere = all[0]!.filter((finding) =>
    all.every((list) => list.some((each) => key(each) === key(finding))),
  )
  const known = new Set(everywhere.map(key))
  const sometimes = all.flatMap((list) =>
    list.filter((finding) => !known.has(key(finding)) && known.add(key(finding))),
  )
  const some = sometimes.map((finding): LinkFinding => ({
    ...finding,
    what: `In some sockets: ${finding.what}`,
  }))
  const worst = sometimes.filter(({ severity }) => severity === 'dead' || severity === 'harmful')
  const note: LinkFinding[] = worst.length
    ? [
        {
          severity: 'degraded',
          about: 'some sockets',
          what: 'It works in some sockets and not in others.',
          where: worst[0]!.where,
          why: 'The rings of this plug lie where springs of real sockets differ.',
          remedy: 'Use an adapter with the right number of contacts.',
        },
      ]
    : []
  return [...everywhere, ...some, ...note].sort(bySeverity)
}

/** Everything that one way of touching has to say. */
function findingsIn(link: PluggedLink, facts: Facts): LinkFinding[] {
  const found: LinkFinding[] = []
  const find: Find = (severity, about, where, what, why, remedy) =>
    found.push({ severity, about, where, what, why, remedy })
  findOnOutput(link, facts, find)
  findOnSound(link, facts, find)
  findOnStreams(link, facts, find)
  findOnPower(link, facts, find)
  findHum(link, facts, find)
  return found
}
