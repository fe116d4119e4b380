import { type Remote, releaseProxy, wrap } from 'comlink'

/** Work under way. Cancelling ends its worker; the result then never comes. */
export interface Job<T> {
  result: Promise<T>
  cancel: () => void
}

/** A worker and what it offers. */
interface Hand<Api> {
  worker: Worker
  api: Remote<Api>
}
const mostIdle = 3
const idleMs = 15_000
const arrivesMs = 2000

/** Workers of one kind. One that has done its work waits a while for more: beginning one takes longer than many a job. */
export class Pool<Api> {
  private readonly idle: { hand: Hand<Api>; timer: ReturnType<typeof setTimeout> }[] = []

  constructor(private readonly begin: () => Worker) {}

  /** Begins a worker before it is needed, where none waits. */
  warmUp(): void {
    if (this.idle.length === 0) this.putBack(this.beginHand())
  }

  job<T>(run: (api: Remote<Api>) => Promise<T>): Job<T> {
    const hand = this.takeHand()
    let ended = false
    const once = (end: () => void) => () => {
      if (ended) return
      ended = true
      end()
    }
    const [putBack, end] = [once(() => this.putBack(hand)), once(() => endHand(hand))]
    const result = run(hand.api)
    // an unexpected failure may have left the worker in any state
    void result.then(putBack, end)
    return { result, cancel: end }
  }

  private beginHand(): Hand<Api> {
    const worker = this.begin()
    return { worker, api: wrap<Api>(worker) }
  }

  private takeHand(): Hand<Api> {
    const waiting = this.idle.pop()
    if (!waiting) return this.beginHand()
    clearTimeout(waiting.timer)
    return waiting.hand
  }

  private putBack(hand: Hand<Api>): void {
    const { idle } = this
    // its last message may still be under way, so it is not terminated at once
    const timer = setTimeout(
      () => {
        idle.splice(
          idle.findIndex((each) => each.hand === hand),
          1,
        )
        endHand(hand)
      },
      idle.length < mostIdle ? idleMs : arrivesMs,
    )
    idle.push({ hand, timer })
  }
}

function endHand<Api>({ worker, api }: Hand<Api>): void {
  api[releaseProxy]()
  worker.terminate()
}
