/** Grades of trouble, mildest first. */
export type Severity = 'dead' | 'harmful' | 'degraded' | 'note'
export const severities: readonly Severity[] = ['note', 'degraded', 'harmful', 'dead']
export const atLeast = (severity: Severity, limit: Severity): boolean =>
  severities.indexOf(severity) >= severities.indexOf(limit)

/** Something wrong, as a colleague would say it: what, where, how bad, what to do. */
export interface Finding {
  severity: Severity
  /** What kind of trouble it is. */
  about:
    | 'ceiling'
    | 'hiss'
    | 'under noise'
    | 'place'
    | 'window'
    | 'pauses'
    | 'sum'
    | 'ears'
    | 'clip'
    | 'level'
    | 'unrecorded'
  run: string
  /** The part of the chain it is about. */
  part: string
  what: string
  why: string
  remedy: string
}

/** Half of the last figure shown: less is no difference a person could see. */
export const shownDb = 0.05

/** A figure with its sign where it is negative: a sign is never dropped. */
export const signed = (value: number): string =>
  `${value < -shownDb ? '\u2212' : ''}${Math.abs(value).toFixed(1)}`
export const decibels = (value: number): string => `${signed(value)} dB`
export const percent = (share: number): string => `${Math.round(share * 100)} %`

/** Speech over steady noise under which it is hard to use, and over which nobody minds: rules of thumb. */
export const poorSpeechToNoiseDb = 20
export const fairSpeechToNoiseDb = 30
