import type { RecordedChannel } from '../levels'

/**
 * The recording that a clip belongs to by its name: the first track of the box whose name stands in it, as in `camera
 * C-0042.mov`. Undefined where none does, or more than one.
 */
export function recordingOfClip(
  clip: string,
  channels: readonly Pick<RecordedChannel, 'id' | 'box' | 'boxName'>[],
): string | undefined {
  const words = clip.toLowerCase()
  const named = channels.filter(({ boxName }) => words.includes(boxName.toLowerCase()))
  return new Set(named.map(({ box }) => box)).size === 1 ? named[0]?.id : undefined
}
