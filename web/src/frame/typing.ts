import { useEventListener } from '@vueuse/core'

const fields = 'input, textarea, select, [contenteditable], [role=combobox], [role=listbox]'
const texts = 'input[type=text], input[type=search], input:not([type]), textarea'
const pressables = 'button, a, summary, label, [role=button], [role=option], [role=menuitem]'

/** Whether keys belong to a field being typed into, and not to the application. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null
  return !!target?.closest(fields)
}

/** Whether Space and Enter belong to what has the focus: it does when they are pressed what it is there for. */
export const isPressing = ({ key, target }: KeyboardEvent): boolean =>
  (key === ' ' || key === 'Enter') && !!(target as HTMLElement | null)?.closest(pressables)

/** Whether Escape belongs to a list that hangs open from what has the focus. */
export const hasListOpen = ({ target }: KeyboardEvent): boolean =>
  !!(target as HTMLElement | null)?.closest('[aria-expanded=true][aria-haspopup]')

/**
 * Says of a text field whether something was typed that has not been taken yet. Until then undo is the field's own; from
 * then on it is the application's.
 */
export function useHalfTyped(): (target: EventTarget | null) => boolean {
  let field: EventTarget | null = null
  useEventListener(window, 'input', ({ target }) => (field = target), true)
  for (const over of ['change', 'focusout'] as const)
    useEventListener(window, over, () => (field = null), true)
  return (target) => target instanceof HTMLElement && target.matches(texts) && target === field
}
