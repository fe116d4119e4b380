import { defineStore } from 'pinia'
import { recordingOfClip, takeOfClip } from '@iron-hush/core/advice'
import { channelsOf } from '@iron-hush/core/levels'
import { type Measurement, trackKey } from '@iron-hush/core/model'
import { newId } from '../sync/new-id'
import { startCard } from '../workers/compute'
import { useClipFiles } from './clip-files'
import { type QueuedClip, useClipQueue } from './clip-queue'
import { useNotices } from './notices'
import { useProofs } from './proofs'
import { useScene } from './scene'
import { useTakes } from './takes'

/** A clip belongs to the scene that was open when it was given. */
export interface WaitingClip extends QueuedClip {
  scene: string
  sceneName: string
  /** The recording that it belongs to, once the recorder's names of its channels are known. */
  recordingOf: (channelNames?: readonly string[]) => string
}

/** Clips are read a few at a time, and go on being read when the station is left. */
export const useMeasuring = defineStore('measuring', () => {
  const scene = useScene()
  const proofs = useProofs()
  const takes = useTakes()
  const notices = useNotices()
  const clipFiles = useClipFiles()
  const queue = useClipQueue<WaitingClip>(keep)

  /** @param otherwise the recording of clips whose name says none: if left out, that of the selected run */
  function add(files: Iterable<Blob & { name: string }>, otherwise = recordingInHand(scene)): void {
    const { document, levels } = scene
    if (!document) return notices.say('No scene is open: open one, and add the clips again.')
    const channels = levels ? channelsOf(levels) : []
    queue.add(
      [...files].map((file) => ({
        id: newId(),
        name: file.name,
        scene: document.id,
        sceneName: document.patch.name,
        recordingOf: (names) => recordingOfClip(file.name, channels, names) ?? otherwise,
        file,
        share: 0,
        soFar: undefined,
        isBeingRead: false,
      })),
    )
  }
  function keep({ scene: of, recordingOf, file }: WaitingClip, measurement: Measurement): void {
    const recording = recordingOf(measurement.stream.channelNames)
    const lastModifiedMs = file instanceof File ? file.lastModified : undefined
    const take = scene.document?.id === of ? takeOfClip({ measurement, lastModifiedMs }, takes.list) : null
    clipFiles.files.set(proofs.keep(measurement, { scene: of, recording, take }).id, file)
  }

  /** The clips of the stand-in card, for a first look; each is read as soon as it is made. */
  async function addCard(): Promise<void> {
    await startCard((name, bytes) => add([new File([bytes as Uint8Array<ArrayBuffer>], name)], '')).result
  }
  /** What a folder holds; where nothing of it may be sound, that is said. */
  function addFolder(files: readonly File[]): void {
    if (files.length) add(files)
    else
      notices.say(
        'Nothing in it is a sound or film file that can be read here: WAV, AIFF, FLAC, MOV, MP4 or M4A.',
      )
  }
  const { waiting, again, stop, stopAll } = queue
  return { waiting, add, again, stop, stopAll, addFolder, addCard }
})

/** The recording of the selected run: the likeliest that a clip belongs to. */
function recordingInHand({ run, levels }: ReturnType<typeof useScene>): string {
  if (run?.end.kind === 'recording') return trackKey(run.end)
  return (levels && channelsOf(levels)[0]?.id) ?? ''
}
