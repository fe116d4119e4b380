import { defineStore } from 'pinia'
import { Change, changesPath } from '@iron-hush/core/contract'
import { z } from 'zod'

/** A message: a change, or that some may have been missed while nobody listened. */
const Heard = z.union([Change, z.literal('missed')])
export type Heard = z.infer<typeof Heard>

/** Time over which changes are collected, ms: an import is then read once, not a thousand times. */
export const gatherMs = 120

/**
 * Hears what other devices and windows change. A browser allows a server only a few connections, so one tab listens, and
 * passes on what it hears to the others; when it goes, another takes its place.
 */
export const useLive = defineStore('live', () => {
  const listeners = new Set<(heard: Heard) => void>()
  const tell = (heard: Heard) => listeners.forEach((listener) => listener(heard))
  const on = (listener: (heard: Heard) => void) => void listeners.add(listener)

  function listen(): void {
    if (!('EventSource' in globalThis) || !navigator.locks) return
    const tabs = new BroadcastChannel('iron-hush.changes')
    tabs.addEventListener('message', ({ data }) => {
      const heard = Heard.safeParse(data)
      if (heard.success) tell(heard.data)
    })
    let isListening = false
    // where another tab listens: what this page shows it may have read before it heard anything
    setTimeout(() => isListening || tell('missed'), gatherMs)
    void navigator.locks.request('iron-hush.changes', () => {
      isListening = true
      hearing((heard) => {
        tell(heard)
        tabs.postMessage(heard)
      })
      // held until the tab goes
      return new Promise<void>(() => undefined)
    })
  }
  return { on, listen }
})

function hearing(tell: (heard: Heard) => void): void {
  const source = new EventSource(changesPath)
  source.addEventListener('message', ({ data }: MessageEvent<string>) => {
    const change = Change.safeParse(JSON.parse(data))
    if (change.success) tell(change.data)
  })
  source.addEventListener('missed', () => tell('missed'))
  // what was read before may be out of date, the first time too
  source.addEventListener('open', () => tell('missed'))
}
