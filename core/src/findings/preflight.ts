/** What must be true before the first take. */
export type PreflightItem =
  | { kind: 'radios linked' | 'level by hand' | 'phantom power' | 'headphones' | 'consent' }
  | { kind: 'start'; recorders: string[] }
