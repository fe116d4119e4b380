/** Whether keys belong to a field being typed into, and not to the application. */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement | null
  return !!target?.closest('input, textarea, select, [contenteditable], [role=combobox], [role=listbox]')
}
