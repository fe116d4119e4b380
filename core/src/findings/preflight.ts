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
  /** Recordings on which sound must be seen; what of, where somebody speaks. */
  | { kind: 'meters'; recorders: string[]; speech: boolean }
  /** Boxes that can be listened at; none where nothing is left but to play a clip. */
  | { kind: 'listen'; boxes: string[] }
  | { kind: 'start'; recorders: string[] }
  | { kind: 'consent' }
