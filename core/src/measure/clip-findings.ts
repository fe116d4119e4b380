import type { ClipFinding } from '../findings'
import type { Measurement } from '../model'

/** A peak under this is low: what is raised later brings the noise along. dBFS. */
const lowPeakDbfs = -40

/** What a clip's measurement has to say, channel by channel. */
export function clipFindings({ channels }: Measurement): ClipFinding[] {
  return channels.flatMap(({ clipped, clippedMore, peakDbfs }, index): ClipFinding[] => {
    const subject = { channel: index + 1 }
    const [first] = clipped
    const found: ClipFinding[] = []
    if (first) {
      const { shape, fromS: firstS, levelDbfs } = first
      const places = clipped.length + clippedMore
      found.push({
        severity: 'harmful',
        code: 'clip',
        subject,
        figures: { shape, places, firstS, levelDbfs },
      })
    }
    if (peakDbfs === null) found.push({ severity: 'dead', code: 'silence', subject, figures: {} })
    else if (peakDbfs < lowPeakDbfs)
      found.push({ severity: 'degraded', code: 'low level', subject, figures: { peakDbfs } })
    return found
  })
}
