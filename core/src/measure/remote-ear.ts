import {
  ChannelEar,
  type Ear,
  type EarExcerpts,
  type EarReport,
  type EarSettings,
  type SoFar,
} from './channel-ear'

/** Messages to ears in another thread. */
type Asked =
  | { do: 'listen'; settings: EarSettings }
  | { do: 'push'; channel: number; samples: Float32Array; highs: Float32Array }
  | { do: 'finish'; channel: number; excerpts: EarExcerpts }
/** Their answers: intermediate results after each push, everything at the end. */
type Answered = { channel: number; soFar: SoFar } | { channel: number; report: EarReport }

/** A connection to another thread of any kind. */
export interface ThreadPort {
  post: (message: unknown, transfer: ArrayBufferLike[]) => void
  /** @param failed called when the thread is lost */
  listen: (heard: (message: unknown) => void, failed?: (error: unknown) => void) => void
}

/** Another thread that listens to some of the channels, until it is ended. */
export interface Helper extends ThreadPort {
  end: () => void
}

/** Listens to channels for another thread. */
export function serveEars({ post, listen }: ThreadPort): void {
  const ears = new Map<number, ChannelEar>()
  const earOf = (channel: number): ChannelEar => {
    const ear = ears.get(channel)
    if (!ear) throw new Error(`nobody asked to listen to channel ${channel}`)
    return ear
  }
  const answer = (answered: Answered) => post(answered, [])
  listen((message) => {
    const asked = message as Asked
    if (asked.do === 'listen') ears.set(asked.settings.channel, new ChannelEar(asked.settings))
    else if (asked.do === 'push') {
      const ear = earOf(asked.channel)
      ear.push(asked.samples, asked.highs)
      answer({ channel: asked.channel, soFar: ear.soFar() })
    } else answer({ channel: asked.channel, report: earOf(asked.channel).finish(asked.excerpts) })
  })
}

/** Most blocks on their way to the other thread: more would fill the memory while it starts. */
const mostUnderWay = 24

/** Ears in another thread, one for each of some channels. */
export function remoteEars({ post, listen }: ThreadPort, all: readonly EarSettings[]): Map<number, Ear> {
  const ears = new Map(all.map((settings) => [settings.channel, remoteEar(settings)]))
  const ask = (asked: Asked, ...transfer: ArrayBufferLike[]) => post(asked, transfer)

  function remoteEar({ channel }: EarSettings) {
    let soFar: SoFar = { peakDbfs: -Infinity, cut: 0 }
    let underWay = 0
    let lost: { error: unknown } | undefined
    let waiting: { more: () => void; failed: (error: unknown) => void } | undefined
    let report: ((report: EarReport) => void) | undefined
    /** Resolves when the other thread has room again, or rejects when it is lost. */
    const wait = () =>
      new Promise<void>((resolve, reject) => {
        if (lost) reject(lost.error as Error)
        waiting = { more: resolve, failed: reject }
      })
    return {
      push(samples: Float32Array, highs: Float32Array): void | Promise<void> {
        underWay++
        // a transferred buffer is lost here, so part of a shared one is copied
        const own = samples.byteLength === samples.buffer.byteLength ? samples : samples.slice()
        ask({ do: 'push', channel, samples: own, highs }, own.buffer)
        return underWay < mostUnderWay && !lost ? undefined : wait()
      },
      soFar: () => soFar,
      finish: (excerpts: EarExcerpts) =>
        new Promise<EarReport>((resolve, reject) => {
          if (lost) reject(lost.error as Error)
          waiting = { more: () => undefined, failed: reject }
          report = resolve
          ask({ do: 'finish', channel, excerpts })
        }),
      hear(answered: Answered): void {
        if ('report' in answered) return report?.(answered.report)
        soFar = answered.soFar
        underWay--
        if (!report) waiting?.more()
      },
      lose(error: unknown): void {
        lost = { error }
        waiting?.failed(error)
      },
    }
  }
  listen(
    (message) => {
      const answered = message as Answered
      ears.get(answered.channel)?.hear(answered)
    },
    (error) => {
      for (const ear of ears.values()) ear.lose(error)
    },
  )
  for (const settings of all) ask({ do: 'listen', settings })
  return ears
}
