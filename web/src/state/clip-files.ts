import { defineStore } from 'pinia'
import { shallowReactive } from 'vue'
import { useOutbox } from '../sync/outbox'
import { useNotices } from './notices'

/**
 * Files of the clips measured since the page was opened, by the id of their measurement, and those that this browser was
 * told to keep. They stay on this machine.
 */
export const useClipFiles = defineStore('clip files', () => {
  const { storage } = useOutbox()
  const notices = useNotices()
  const files = shallowReactive(new Map<string, Blob>())
  const kept = shallowReactive(new Set<string>())
  void storage.clips().then((clips) => {
    for (const { id, file } of clips) {
      kept.add(id)
      if (!files.has(id)) files.set(id, file)
    }
  })

  /** Keeps the sound of a clip in this browser, so that it can be listened to another day. */
  async function keepSound(id: string): Promise<void> {
    const file = files.get(id)
    if (!file) return
    try {
      await storage.keepClip(id, file)
      kept.add(id)
    } catch {
      notices.say(
        'The sound was not kept: this browser has no room for it. The measurement is kept, and the clip stays where it is.',
      )
    }
  }
  function dropSound(id: string): void {
    kept.delete(id)
    storage.removeClip(id)
  }
  return { files, kept, keepSound, dropSound }
})
