/** A check before a take. */
export type PreflightItem =
  /** A transmitter and its receiver; the channel where it is chosen. */
  | { kind: 'radio'; sender: string; receiver: string; channel?: string }
  /** Switches of a box or of a piece, each with the position of the plan. */
  | { kind: 'switches'; box: string; switches: { name: string; position: string }[] }
  | { kind: 'phantom power' }
  /** A box whose automatic gain acts: it sets its own level. */
  | { kind: 'own level'; box: string }
  | { kind: 'cards'; recorders: string[] }
  /** Recordings whose meters must move, and whether by speech. */
  | { kind: 'meters'; recorders: string[]; speech: boolean }
  /** Boxes with headphones; none if the only way is to play a clip. */
  | { kind: 'listen'; boxes: string[] }
  | { kind: 'start'; recorders: string[] }
  | { kind: 'consent' }
