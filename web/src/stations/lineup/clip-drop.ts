import { useDropZone } from '@vueuse/core'
import { type Ref, ref } from 'vue'
import { channelOf, type LineUpStep } from '@iron-hush/core/lineup'
import type { ClipReading } from '@iron-hush/core/model'
import { useNotices } from '../../state/notices'
import { startClipReading } from '../../workers/compute'
import type { LiningUp } from './lining-up'

/** Clips that are dropped or chosen for a step: each is read for it, and its reading is handed on. */
export function useClipDrop(
  zone: Readonly<Ref<HTMLElement | null>>,
  { bench }: Pick<LiningUp, 'bench'>,
  /** The step that clips are taken for; undefined while it takes none. */
  step: () => LineUpStep | undefined,
  onReading: (result: ClipReading) => void,
) {
  const notices = useNotices()
  /** The clip that is being read, by its name. */
  const reading = ref('')
  async function read(file: File | null | undefined): Promise<void> {
    const wanted = step()
    if (!file || !wanted || !bench.value) return
    reading.value = file.name
    try {
      onReading(await startClipReading(file, file.name, channelOf(bench.value, wanted), wanted).result)
    } catch (error) {
      notices.say(error instanceof Error ? error.message : String(error))
    } finally {
      reading.value = ''
    }
  }
  const { isOverDropZone } = useDropZone(zone, { onDrop: (files) => void read(files?.[0]) })
  return { reading, isOverDropZone, read }
}
