import type { Locator } from '@playwright/test'

/** An action on a slider or a field. */
type Deed = { key: string } | { typed: string }

/** Actions before timing starts: by then the browser has compiled what it needs. */
const untimed = 40
const timed = 100

/** One step down and up by turns: a step that the end of a scale refuses would count as fast. */
export const downAndUp: readonly Deed[] = [{ key: 'ArrowDown' }, { key: 'ArrowUp' }]

/** From each of some deeds, by turns, to everything worked out that the browser must know before it can paint, ms. */
export const redrawnMs = (on: Locator, deeds: readonly Deed[], drawing: string): Promise<number[]> =>
  on.evaluate(
    async (element, asked) => {
      const times: number[] = []
      /** Everything that the page does at once, without the pause of a timer. */
      const drained = () =>
        new Promise<void>((resolve) => {
          const { port1, port2 } = new MessageChannel()
          port1.onmessage = () => resolve()
          port2.postMessage(undefined)
        })
      for (let turn = 0; turn < asked.untimed + asked.timed; turn++) {
        const deed = asked.deeds[turn % asked.deeds.length]!
        const from = performance.now()
        if ('key' in deed)
          element.dispatchEvent(
            new KeyboardEvent('keydown', { key: deed.key, bubbles: true, cancelable: true }),
          )
        else {
          const field = element as HTMLInputElement
          field.value = deed.typed
          field.dispatchEvent(new Event('input', { bubbles: true }))
        }
        await drained()
        document.querySelector(asked.drawing)!.getBoundingClientRect()
        if (turn >= asked.untimed) times.push(performance.now() - from)
        await drained()
      }
      return times
    },
    { deeds, drawing, untimed, timed },
  )
