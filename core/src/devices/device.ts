import type { Position } from '../model'
import type { TestSignal } from '../signals'

/** A recording asked of a device: a box of a scene, as it is set, and the sound meanwhile. */
export interface RecordRequest {
  /** The box that records. */
  box: string
  /** Control positions that differ from the scene, by `box.control`. */
  settings: Readonly<Record<string, Position>>
  sound: RecordedSound
}

export type RecordedSound =
  /** A test signal, sent from the recording of a box, or played straight into the box that records. */
  | { kind: 'signal'; signal: TestSignal; from?: string }
  /** The scene's sources, with the noise of the place. */
  | { kind: 'scene'; lengthS: number }
  /** One microphone alone is spoken into. */
  | { kind: 'microphone'; microphone: string }
  /** Silence with everything before the box switched off: the box's own hiss. */
  | { kind: 'silence' }

/** A recording as a card would hold it. */
export interface DeviceClip {
  name: string
  /** A WAV file with a channel for each track of the box. */
  bytes: Uint8Array
  /** The track of each channel, as `box.track`. */
  tracks: string[]
}

/** The reading of the device's meter. */
export type MeterShows = { track: string; levelDbfs: number } | { track: string; mark: string }

/**
 * A device that can be asked for a clip: a simulated one, or where there is a way to reach it, a real one. Whatever it
 * is, it is told the scene's settings and answers as the card and the meter of a real box would.
 */
export interface Device {
  id: string
  name: string
  /** It is simulated, and says so wherever it appears. */
  isStandIn: boolean
  record: (request: RecordRequest) => Promise<DeviceClip>
  readMeters: (request: RecordRequest) => Promise<MeterShows[]>
  /** Marks of the meter of a box, lowest first; none where it shows numbers. */
  marks: (box: string) => { id: string; name: string }[]
}
