import { ClipMeter } from '../measure/clip-meter'
import { known, type ClipFault } from '../model'
import type { KnownClip, Truth } from './known-clips'

/** What was found in a clip, beside what is known of it. */
export interface Verdict {
  clip: KnownClip
  found: boolean
  /** Whether shape, level, time and the like are within their tolerance; as words where they are not. */
  off: string[]
  /** Faults that are not there. */
  alarms: string[]
}

/** What is reported and is not a fault. */
const facts = new Set(['channels equal', 'channels unequal'])
/** Tolerances asked for. */
const within = { ceilingDb: 0.5, humDb: 1, placeS: 0.05, delayFrames: 1, releaseShare: 0.25 }

/** Lets the meter look at a clip. */
export async function judged(clip: KnownClip): Promise<Verdict> {
  const { channels, rateHz, bits, truth } = clip
  const meter = new ClipMeter({ channels: channels.length, rateHz, bits, frames: channels[0]!.length })
  for (let from = 0; from < channels[0]!.length; from += 65_536)
    await meter.push(channels.map((samples) => samples.subarray(from, from + 65_536)))
  const { faults, channels: measured } = await meter.finish()
  const clipped = measured.flatMap((channel) => (channel.clipped.length ? [channel] : []))
  const alarms = [
    ...faults.filter(({ code }) => code !== truth?.code && !facts.has(code)).map(({ code }) => code),
    ...(truth?.code === 'clip' ? [] : clipped.map((channel) => channel.clipped[0]!.shape)),
  ]
  if (!truth) return { clip, found: false, off: [], alarms }
  if (truth.code === 'clip') {
    const [channel] = clipped
    const off: string[] = []
    if (channel && channel.clipped[0]!.shape !== truth.shape)
      off.push(`is called ${channel.clipped[0]!.shape}`)
    const byDb = channel ? known(channel.ceilingDbfs ?? undefined, 'a ceiling') - truth.ceilingDbfs! : 0
    if (Math.abs(byDb) > within.ceilingDb) off.push(`ceiling ${byDb.toFixed(1)} dB`)
    return { clip, found: channel !== undefined, off, alarms }
  }
  const fault = faults.find(({ code }) => code === truth.code)
  return { clip, found: fault !== undefined, off: fault ? offBy(fault, truth, rateHz) : [], alarms }
}

function offBy(fault: ClipFault, truth: Truth, rateHz: number): string[] {
  const off: string[] = []
  if (fault.code === 'hum') {
    if (fault.mainsHz !== truth.mainsHz) off.push(`${fault.mainsHz} Hz`)
    const byDb = fault.levelDbfs - truth.levelDbfs!
    if (Math.abs(byDb) > within.humDb) off.push(`level ${byDb.toFixed(1)} dB`)
  }
  if (fault.code === 'pumping') {
    const share = fault.releaseS / truth.releaseS! - 1
    if (Math.abs(share) > within.releaseShare) off.push(`release ${(100 * share).toFixed(0)} %`)
  }
  if (fault.code === 'channels delayed') {
    const by = (fault.delayMs * rateHz) / 1000 - truth.delayFrames!
    if (Math.abs(by) > within.delayFrames) off.push(`delay ${by.toFixed(1)} frames`)
  }
  for (const { fromS, toS } of truth.places ?? []) {
    const near = fault.ranges.find(
      (range) => range.fromS < toS + within.placeS && range.toS > fromS - within.placeS,
    )
    if (!near) off.push(`misses ${fromS.toFixed(2)} s`)
    else if (truth.code === 'dropout' || truth.code === 'rustle') {
      if (Math.abs(near.fromS - fromS) > within.placeS || Math.abs(near.toS - toS) > within.placeS)
        off.push(`${(near.fromS - fromS).toFixed(2)} to ${(near.toS - toS).toFixed(2)} s`)
    }
  }
  const real = truth.places
  if (real)
    for (const range of fault.ranges)
      if (
        !real.some(({ fromS, toS }) => range.fromS < toS + within.placeS && range.toS > fromS - within.placeS)
      )
        off.push(`also at ${range.fromS.toFixed(2)} s`)
  return off
}
