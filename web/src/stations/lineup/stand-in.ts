import { ref } from 'vue'
import { type MeterShows, type RecordRequest, soundOfStep } from '@iron-hush/core/devices'
import { type LineUpStep, type Setting, settingsFor, trackOf } from '@iron-hush/core/lineup'
import type { ReadingResult } from '@iron-hush/core/model'
import { useGear } from '../../state/gear'
import { useNotices } from '../../state/notices'
import { useScene } from '../../state/scene'
import { standIns, useStandIns } from '../../state/stand-ins'
import {
  startClipReading,
  startStandInClip,
  startStandInMark,
  startStandInMeters,
} from '../../workers/compute'
import type { LiningUp } from './lining-up'

/** A channel this far below the loudest does not move, dB. */
const movesDb = 26

/** The work of stand-ins, one piece at a time: begun, waited for, and what it refuses reported. */
function useStandInWork() {
  const notices = useNotices()
  const working = ref(false)
  async function guarded(work: () => Promise<void>): Promise<void> {
    if (working.value) return
    working.value = true
    try {
      await work()
    } catch (error) {
      notices.say(error instanceof Error ? error.message : String(error))
    } finally {
      working.value = false
    }
  }
  return { working, guarded }
}

/** The boxes whose meters tell of a step. */
const boxesOf = (step: LineUpStep): string[] =>
  step.expect.kind === 'channels'
    ? [...new Set(step.expect.tracks.map((track) => track.slice(0, track.indexOf('.'))))]
    : [step.box]

/** The channels that a meter shows moving. */
function movedOn(shown: readonly MeterShows[]): string[] {
  const levels = shown.flatMap((each) => ('levelDbfs' in each ? [each.levelDbfs] : []))
  const loudest = Math.max(...levels, -200)
  return shown.flatMap((each) =>
    ('mark' in each ? each.mark : each.levelDbfs > loudest - movesDb) ? [each.track] : [],
  )
}

/** Asks the stand-in of a box for what a card or a meter of the real one would hold. */
export function useStandIn({ bench, keep }: LiningUp) {
  const scene = useScene()
  const gear = useGear()
  const devices = useStandIns()
  const { working, guarded } = useStandInWork()
  let asked = 0

  const simulated = () => ({ patch: scene.openPatch, gear: gear.all, devices: standIns })
  const requestFor = (step: LineUpStep, box = step.box): RecordRequest => ({
    box,
    settings: bench.value ? settingsFor(bench.value, step.set) : {},
    sound: soundOfStep(step),
  })

  /** A clip as the card of the box would hold it. @param stays the step stays current */
  const record = (step: LineUpStep, stays = false) =>
    guarded(async () => {
      const clip = await startStandInClip(simulated(), { ...requestFor(step), seed: ++asked }).result
      const file = new File([clip.bytes as Uint8Array<ArrayBuffer>], clip.name)
      const channel = Math.max(0, clip.tracks.indexOf(trackOf(step)))
      keep(step, await startClipReading(file, clip.name, channel, step).result, { stays })
    })
  /** The same with controls set as a trial asks. */
  const recordAt = (step: LineUpStep, set: Setting[]) => record({ ...step, set }, true)

  async function meterReading(step: LineUpStep): Promise<ReadingResult | undefined> {
    if (step.expect.kind === 'mark')
      return {
        kind: 'level',
        levelDbfs: await startStandInMark(simulated(), requestFor(step), step.expect.mark).result,
      }
    const all: MeterShows[][] = []
    for (const box of boxesOf(step))
      all.push(await startStandInMeters(simulated(), requestFor(step, box)).result)
    if (step.kind === 'scratch') return { kind: 'channels', moved: all.flatMap(movedOn) }
    const shown = all.flat()
    const mine = shown.find(({ track }) => track === trackOf(step)) ?? shown[0]
    if (!mine) return undefined
    return 'levelDbfs' in mine
      ? { kind: 'level', levelDbfs: mine.levelDbfs }
      : { kind: 'mark', mark: mine.mark || 'none' }
  }
  /** Its meter reading. */
  const readMeter = (step: LineUpStep) =>
    guarded(async () => {
      const result = await meterReading(step)
      if (result) keep(step, result)
    })
  return { devices, working, boxesOf, record, recordAt, readMeter }
}
export type StandInDevice = ReturnType<typeof useStandIn>
