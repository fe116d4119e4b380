/** Grades of trouble, mildest first. */
export const severities = ['note', 'degraded', 'harmful', 'dead'] as const
export type Severity = (typeof severities)[number]

export const atLeast = (severity: Severity, limit: Severity): boolean =>
  severities.indexOf(severity) >= severities.indexOf(limit)
/** Worst first. */
export const bySeverity = (one: { severity: Severity }, other: { severity: Severity }): number =>
  severities.indexOf(other.severity) - severities.indexOf(one.severity)
export const isDead = ({ severity }: { severity: Severity }): boolean => severity === 'dead'

/** Subject of a finding. */
export interface Subject {
  link?: string
  run?: string
  /** Box or piece, by id. */
  part?: string
  /** Of a clip, from 1. */
  channel?: number
  /** A port or junction by its name, with a contact of it. */
  where?: string
  contact?: string
}

/**
 * Something wrong or worth knowing, as facts: what kind of trouble, how bad, where, and the figures it rests on. What is
 * said of it, and what to do, core/words makes of these.
 */
export interface Finding<Code extends string = string, Figures = unknown> {
  code: Code
  severity: Severity
  subject: Subject
  figures: Figures
}

/** Every finding of a table of figures by code. */
export type FindingOf<Table> = {
  [Code in keyof Table & string]: Finding<Code, Table[Code]>
}[keyof Table & string]
