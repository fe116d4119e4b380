import { type RecordedChannel, tracksNamed } from '../levels'

/** File name of a rendered recording, without its extension: camera-left for `camera.left`. */
export const renderedName = (recording: string): string => recording.replace('.', '-')

/**
 * The recording that a clip belongs to by its name: the one it was rendered for; else of the box whose name is part of it, as in `camera C-0042.mov`, the track
 * that the recorder names as its first channel, else the first one. Undefined where it names no box, or more than one.
 */
export function recordingOfClip(
  clip: string,
  channels: readonly Pick<RecordedChannel, 'id' | 'box' | 'boxName' | 'names'>[],
  channelNames: readonly string[] = [],
): string | undefined {
  const words = clip.toLowerCase()
  const rendered = channels.find(({ id }) => words === `${renderedName(id)}.wav`.toLowerCase())
  if (rendered) return rendered.id
  const tracks = channels.filter(({ boxName }) => words.includes(boxName.toLowerCase()))
  if (new Set(tracks.map(({ box }) => box)).size !== 1) return undefined
  const [named] = tracksNamed(tracks, channelNames.slice(0, 1))
  return (named ?? tracks[0])?.id
}
