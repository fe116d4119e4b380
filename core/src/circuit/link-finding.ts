export type LinkSeverity = 'dead' | 'harmful' | 'degraded' | 'note'

/** Something that the circuit says of a link: what, where, why in figures, how bad, what to do. */
export interface LinkFinding {
  severity: LinkSeverity
  about:
    | 'misfit'
    | 'dead'
    | 'one side'
    | 'both sides'
    | 'polarity'
    | 'cancelled'
    | 'half level'
    | 'shorted output'
    | 'overloaded output'
    | 'supply missing'
    | 'supply weak'
    | 'supply shorted'
    | 'foreign supply'
    | 'unbalanced'
    | 'open leg'
    | 'treble'
    | 'bass'
    | 'some sockets'
    | 'wrong way round'
    | 'stream'
    | 'rate'
    | 'clock'
    | 'two plugs'
  what: string
  where: string
  why: string
  remedy: string
}

/** Severities, worst first. */
export const linkSeverities: readonly LinkSeverity[] = ['dead', 'harmful', 'degraded', 'note']
export const bySeverity = (
  one: Pick<LinkFinding, 'severity'>,
  other: Pick<LinkFinding, 'severity'>,
): number => linkSeverities.indexOf(one.severity) - linkSeverities.indexOf(other.severity)

export const isDeadFinding = ({ severity }: Pick<LinkFinding, 'severity'>): boolean => severity === 'dead'

/** Notes down a finding. */
export type Find = (
  severity: LinkSeverity,
  about: LinkFinding['about'],
  where: string,
  what: string,
  why: string,
  remedy: string,
) => void

export const decibels = (db: number) => `${Math.abs(db).toFixed(1)} dB`
