import type { Control, Position } from '../model'

/** A control that the search may move. */
export interface FreeControl {
  key: string
  control: Control
  now: Position
}
