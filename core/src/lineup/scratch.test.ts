import { describe, expect, it } from 'vitest'
import { applyEdits, type Edit } from '../edits'
import type { Patch } from '../model'
import { scene, shelf } from '../tests/demo'
import { benchOf } from './bench'
import { scratchFinding, scratchSteps } from './scratch'

const tuning = scene('3-the-tuning')
const outputAt = (position: number): Patch =>
  applyEdits(
    tuning,
    [{ kind: 'set control', part: 'recorder', control: 'output', position } satisfies Edit],
    shelf,
  )
const scratched = (patch: Patch) => {
  const [step] = scratchSteps(benchOf(patch, shelf))
  return step!
}
const tracksOf = (patch: Patch) => {
  const { expect: expected } = scratched(patch)
  return expected.kind === 'channels' ? expected.tracks : []
}

describe('a microphone that is scratched', () => {
  it('moves the tracks of every box, however much lower one box records than another', () => {
    expect(tracksOf(tuning)).toEqual(['recorder.1', 'recorder.safety', 'camera.left'])
    // the camera is now some 30 dB below the recorder, whose meter is its own
    const quiet = outputAt(-40)
    expect(tracksOf(quiet)).toEqual(tracksOf(tuning))
    const bench = benchOf(quiet, shelf)
    expect(
      scratchFinding(bench, scratched(quiet), ['recorder.1', 'recorder.safety', 'camera.left']).code,
    ).toBe('as planned')
  })
})
