import type { CircuitFinding, LevelFinding } from '../findings'
import { circuitWords, isOfCircuit } from './circuit'
import { levelWords } from './levels'
import type { Sentences } from './sentences'

/** Words for a finding about wiring or levels. */
export const troubleWords = (finding: CircuitFinding | LevelFinding): Sentences =>
  isOfCircuit(finding) ? circuitWords(finding) : levelWords(finding)
