import type { Gear } from '../model'
import type { Scenario, ScenarioChoice } from './scenarios'

/** What a scene is heard with: a microphone of the shelf, over a radio or not, or what the camera has built in. */
export type HeardWith = { microphone: Gear; radio?: boolean } | 'built in'

/** The three answers that a scene is planned from. */
export interface Question extends ScenarioChoice {
  camera: Gear
  scenario: Scenario
  heardWith: HeardWith
}
