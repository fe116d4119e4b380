import type { Gear } from '../model'
import type { Scenario, ScenarioChoice } from './scenarios'

/** How a scene is heard: a microphone of the shelf, over a radio or not, or the camera's built-in one. */
export type HeardWith = { microphone: Gear; radio?: boolean } | 'built in'

/** The three answers that a scene is planned from. */
export interface Question extends ScenarioChoice {
  camera: Gear
  scenario: Scenario
  heardWith: HeardWith
}
