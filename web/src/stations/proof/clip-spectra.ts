import { watchDebounced } from '@vueuse/core'
import { onScopeDispose, shallowRef } from 'vue'
import type { Band } from '@iron-hush/core/measure'
import type { Measurement } from '@iron-hush/core/model'
import { type Job, startLines } from '../../workers/compute'

interface Sight {
  file: Blob | undefined
  measurement: Measurement
  fromS: number
  toS: number
}

const points = 480
/** Longest stretch analysed at once, s. */
const longestS = 60

/** Spectra of the stretch in view, by channel; without the clip itself there is only that of the pauses. */
export function useClipSpectra(wanted: () => boolean, sight: () => Sight) {
  const spectra = shallowRef<(Band[] | undefined)[]>([])
  let reading: Job<Band[]>[] = []
  const cancel = () => {
    for (const job of reading) job.cancel()
  }
  watchDebounced(
    () => ({ ...sight(), wanted: wanted() }),
    async ({ file, measurement, fromS, toS, wanted: isWanted }) => {
      cancel()
      if (!isWanted || !file) return
      const now = measurement.channels.map((_, channel) =>
        startLines(
          { id: '', file, name: measurement.clip, channel },
          fromS,
          Math.min(toS, fromS + longestS),
          points,
        ),
      )
      reading = now
      const read = await Promise.all(now.map(({ result }) => result.catch(() => undefined)))
      if (reading === now) spectra.value = read
    },
    { debounce: 120 },
  )
  onScopeDispose(cancel)
  return spectra
}
