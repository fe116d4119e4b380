import { describe, expect, it } from 'vitest'
import { bytesSource, wavBytes } from '../media'
import { known } from '../model'
import { amplifierNoise, mixed, speech } from '../signals'
import { isLong } from '../tests/form'
import { type EarSettings, type Helper, measureClip, remoteEars, serveEars, type ThreadPort } from './index'

type Heard = (message: unknown) => void

/** Two ends of a way between threads; what goes over it is copied and arrives later, as it does there. */
function way(): [ThreadPort & { lose: (error: unknown) => void }, ThreadPort] {
  const heard: [Heard?, Heard?] = []
  let failed: ((error: unknown) => void) | undefined
  const end = (own: 0 | 1): ThreadPort => ({
    post(message, transfer) {
      const copy: unknown = structuredClone(message, { transfer: transfer as ArrayBuffer[] })
      queueMicrotask(() => known(heard[own ? 0 : 1], 'somebody who listens')(copy))
    },
    listen(hear, fails) {
      heard[own] = hear
      if (!own) failed = fails
    },
  })
  return [{ ...end(0), lose: (error) => failed?.(error) }, end(1)]
}

const rateHz = 48_000
const lengthS = 5
const voice = (seed: number, levelDbfs: number) =>
  mixed(
    speech({ lengthS, rateHz, seed, levelDbfs, pitchHz: 120 }).samples,
    amplifierNoise({ lengthS, rateHz, seed: seed + 1, levelDbfs: -64 }),
  )
const settings = (channel: number): EarSettings => ({ channel, rateHz, bits: 24, frames: lengthS * rateHz })
const highs = new Float32Array(1)

describe('ears in another thread', () => {
  it.runIf(isLong)('say of every channel what ears here say', { timeout: 60_000 }, async () => {
    const loud = voice(7, -12).map((sample) => Math.max(-0.4, Math.min(0.4, 2 * sample)))
    const channels = [voice(3, -26), loud, voice(3, -38), loud.map((sample) => -sample)]
    // as long as is worth another thread
    const bytes = wavBytes(
      channels.map((samples) => {
        const long = new Float32Array(9 * samples.length)
        for (let part = 0; part < 9; part++) long.set(samples, part * samples.length)
        return long
      }),
      rateHz,
      24,
    )
    let [begun, ended] = [0, 0]
    const helper = (): Helper => {
      const [here, there] = way()
      serveEars(there)
      begun++
      return { ...here, end: () => void ended++ }
    }
    const alone = await measureClip(bytesSource(bytes), 'four.wav')
    expect(await measureClip(bytesSource(bytes), 'four.wav', { helper })).toEqual(alone)
    expect([begun, ended]).toEqual([2, 2])
    expect(alone!.channels[1]!.clipped.length).toBeGreaterThan(0)
  })
  it('are begun for one of many channels that is long enough, and for none of one channel', async () => {
    const begun = new Error('begun')
    const helper = () => {
      throw begun
    }
    const silent = (channels: number) =>
      bytesSource(wavBytes(Array<Float32Array>(channels).fill(new Float32Array(4_100_000)), rateHz))
    await expect(measureClip(silent(2), 'two.wav', { helper })).rejects.toBe(begun)
    let asked = 0
    const cancelled = () => asked++ > 0
    expect(await measureClip(silent(1), 'one.wav', { helper, cancelled })).toBeUndefined()
  })
  it('are not begun for a clip that is soon read', async () => {
    const helper = () => {
      throw new Error('nobody is needed')
    }
    expect(
      await measureClip(bytesSource(wavBytes([voice(3, -20), voice(4, -20)], rateHz)), 'short.wav', {
        helper,
      }),
    ).toMatchObject({ lengthS })
  })
  it('make who reads wait, once much is on its way', async () => {
    const [here] = way()
    const posted: unknown[] = []
    const ear = known(
      remoteEars({ ...here, post: (message) => void posted.push(message) }, [settings(1)]).get(1),
      'the ear',
    )
    let pushes = 0
    while (ear.push(new Float32Array(64), highs) === undefined) pushes++
    expect(pushes).toBeGreaterThan(4)
    expect(pushes).toBeLessThan(100)
  })
  it('tell of a thread that is lost, instead of waiting for ever', async () => {
    const [here] = way()
    const ear = known(remoteEars({ ...here, post: () => undefined }, [settings(1)]).get(1), 'the ear')
    const finished = ear.finish({ loudest: [], quietest: [] })
    here.lose(new Error('out of memory'))
    await expect(finished).rejects.toThrow('out of memory')
    await expect(async () => ear.push(new Float32Array(64), highs)).rejects.toThrow('out of memory')
  })
  it('take no more of a buffer than is theirs', () => {
    const [here] = way()
    const ear = known(
      remoteEars(
        {
          ...here,
          post: (message, transfer) => void structuredClone(message, { transfer: transfer as ArrayBuffer[] }),
        },
        [settings(1)],
      ).get(1),
      'the ear',
    )
    const both = new Float32Array(128).fill(0.5)
    void ear.push(both.subarray(0, 64), highs)
    expect(both[100]).toBe(0.5)
  })
})
