import { useEventListener } from '@vueuse/core'
import { useView } from '../state/view'
import { stations } from './stations'
import { hasListOpen, isPressing, isTyping } from './typing'

interface Shortcut {
  /** As the list of keys shows it. */
  shown: string
  does: string
  matches: (event: KeyboardEvent) => boolean
  /** Whether a held key does it again and again. */
  repeats?: true
}

const key =
  (...names: string[]) =>
  ({ key: pressed }: KeyboardEvent) =>
    names.includes(pressed.length === 1 ? pressed.toLowerCase() : pressed)

/** Every shortcut of the application, once: the stations give what each does, and the list of keys shows them. */
export const shortcuts = {
  station: {
    shown: stations.map((each) => each.key).join(' '),
    does: `stations: ${stations.map(({ title }) => title).join(', ')}`,
    matches: key(...stations.map((each) => each.key)),
  },
  gear: { shown: 'G', does: 'Gear', matches: key('g') },
  previousRun: { shown: '[', does: 'previous run', matches: key('['), repeats: true },
  nextRun: { shown: ']', does: 'next run', matches: key(']'), repeats: true },
  along: {
    shown: '\u2190 \u2192',
    does: 'along the chain, on Levels',
    matches: key('ArrowLeft', 'ArrowRight'),
    repeats: true,
  },
  turn: {
    shown: '\u2191 \u2193',
    does: 'turn the selected control; with Shift ten steps',
    matches: key('ArrowUp', 'ArrowDown'),
    repeats: true,
  },
  type: { shown: '=', does: 'type the position of the selected control', matches: key('=') },
  balance: { shown: 'B', does: 'Balance', matches: key('b') },
  accept: { shown: 'Enter', does: 'accept what Balance proposes', matches: key('Enter') },
  close: { shown: 'Escape', does: 'discard a proposal, close a panel', matches: key('Escape') },
  remove: {
    shown: 'Delete',
    does: 'remove the selected box or link, on Patch',
    matches: key('Delete', 'Backspace'),
  },
  listen: { shown: 'L', does: 'listen to this run, or stop', matches: key('l') },
  pin: { shown: 'P', does: 'pin the selected column', matches: key('p') },
  allRuns: { shown: 'A', does: 'all runs side by side, or this one', matches: key('a') },
  take: { shown: 'Space', does: 'start or end a take, on Roll', matches: key(' ') },
  mark: { shown: '1 \u2026 6', does: 'marks, on Roll', matches: key('1', '2', '3', '4', '5', '6') },
  find: { shown: '/', does: 'find', matches: key('/') },
  keys: { shown: '?', does: 'this list', matches: key('?') },
} as const satisfies Record<string, Shortcut>
export type ShortcutName = keyof typeof shortcuts

/** Action of a shortcut here; false if it does nothing now, so that the key keeps its usual meaning. */
type Handler = (event: KeyboardEvent) => unknown

/** Answers to shortcuts while the caller is on screen and nobody types, unless a panel of the frame is open. */
export function useShortcuts(handlers: Partial<Record<ShortcutName, Handler>>): void {
  const view = useView()
  const all = Object.entries(handlers) as [ShortcutName, Handler][]
  useEventListener(window, 'keydown', (event) => {
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || view.dialog) return
    if (shortcuts.close.matches(event) ? hasListOpen(event) : isTyping(event) || isPressing(event)) return
    const found = all.find(([name]) => shortcuts[name].matches(event))
    if (!found) return
    const shortcut: Shortcut = shortcuts[found[0]]
    if ((event.repeat && !shortcut.repeats) || found[1](event) !== false) event.preventDefault()
  })
}
