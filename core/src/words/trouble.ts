import type { CircuitFinding, LevelFinding } from '../findings'
import { circuitWords, isOfCircuit } from './circuit'
import { levelWords } from './levels'
import type { Sentences } from './sentences'

/** What is said of something the wiring or the levels found. */
export const troubleWords = (finding: CircuitFinding | LevelFinding): Sentences =>
  isOfCircuit(finding) ? circuitWords(finding) : levelWords(finding)
