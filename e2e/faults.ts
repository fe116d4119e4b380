/** What a person meets on a screen: runs in the page. */
export interface Limits {
  /** Smallest side of what is pressed, px. */
  targetPx: number
}

/**
 * What cannot be hit, what cannot be read, what is cut off, what lies on something else, and what lies beyond the edge:
 * a line each.
 */
export function faults({ targetPx }: Limits): string[] {
  const found: string[] = []
  const shown = (element: Element) =>
    element.checkVisibility({ visibilityProperty: true, opacityProperty: true }) &&
    !element.closest('.sr-only, .skip') &&
    // for those who hear the page only
    getComputedStyle(element).clipPath !== 'inset(50%)'
  const named = (element: Element) =>
    `${element.tagName.toLowerCase()}.${String(element.getAttribute('class')).split(' ')[0]} "${(element.getAttribute('aria-label') ?? element.textContent ?? '').trim().slice(0, 30)}"`

  const pressed = 'a, button, input, select, textarea, summary, [role=slider], [role=combobox], [role=radio]'
  for (const target of [...document.querySelectorAll(pressed)].filter(shown)) {
    // a word in a sentence is hit as it stands
    if (target.matches('.term, [aria-hidden=true], input[type=file]')) continue
    // a box to tick is hit by its label, a list by its frame
    const frame = target.closest('label') ?? target.closest('.p-select') ?? target
    const { width, height, left, right } = frame.getBoundingClientRect()
    if (width < 2 || height < 2) continue
    if (height < targetPx - 0.5 || width < targetPx - 0.5)
      found.push(`small ${Math.round(width)}x${Math.round(height)}: ${named(target)}`)
    const scrolled = frame.closest('.scrolls')
    if (!scrolled && (left < -1 || right > innerWidth + 1)) found.push(`beyond the edge: ${named(target)}`)
  }

  /** A run of letters as it is seen: what its ancestors cut away is gone. */
  interface Run {
    element: Element
    text: string
    left: number
    right: number
    top: number
    bottom: number
  }
  const runs: Run[] = []
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const element = node.parentElement
    const text = node.textContent?.trim()
    if (!element || !text || !shown(element) || element.closest('script, style, option')) continue
    const size = parseFloat(getComputedStyle(element).fontSize)
    if (size < 11.9) found.push(`letters of ${size} px: ${named(element)}`)
    const range = document.createRange()
    range.selectNodeContents(node)
    for (const whole of range.getClientRects()) {
      const run = {
        element,
        text,
        left: whole.left,
        right: whole.right,
        top: whole.top,
        bottom: whole.bottom,
      }
      let kept = true
      for (
        let above: Element | null = element;
        above && above !== document.body;
        above = above.parentElement
      ) {
        const { overflowX, overflowY, textOverflow } = getComputedStyle(above)
        if (overflowX === 'visible' && overflowY === 'visible') continue
        if (above instanceof SVGElement) continue
        const frame = above.getBoundingClientRect()
        const cutX = run.right > frame.right + 2 || run.left < frame.left - 2
        const cutY = run.bottom > frame.bottom + 4 || run.top < frame.top - 4
        const hidden = (overflowX === 'hidden' && cutX) || (overflowY === 'hidden' && cutY)
        // what is cut short with dots says the rest when it is pointed at, or opened
        const told =
          textOverflow === 'ellipsis' &&
          (above.closest('[title]') ?? above.closest('[aria-label]') ?? above.closest('details:not([open])'))
        if (hidden && !told) found.push(`cut off: ${named(element)} in ${named(above)}`)
        run.left = Math.max(run.left, frame.left)
        run.right = Math.min(run.right, frame.right)
        run.top = Math.max(run.top, frame.top)
        run.bottom = Math.min(run.bottom, frame.bottom)
        kept &&= run.right - run.left > 1 && run.bottom - run.top > 1
      }
      if (kept) runs.push(run)
    }
  }
  const across = (one: Run, other: Run) => Math.min(one.right, other.right) - Math.max(one.left, other.left)
  const along = (one: Run, other: Run) => Math.min(one.bottom, other.bottom) - Math.max(one.top, other.top)
  /** What it lies in that lies over the page: a bar that stays while the rest is scrolled under it, a panel. */
  const layer = (element: Element | null): Element | null =>
    !element || element.matches('.hang, header, footer, [role=dialog], .p-select-overlay, .p-popover')
      ? element
      : /sticky|fixed/.test(getComputedStyle(element).position)
        ? element
        : layer(element.parentElement)
  for (const [index, one] of runs.entries())
    for (const other of runs.slice(index + 1)) {
      if (one.element === other.element || layer(one.element) !== layer(other.element)) continue
      // letters are less high than their line
      if (across(one, other) > 2 && along(one, other) > 5)
        found.push(`"${one.text.slice(0, 30)}" lies on "${other.text.slice(0, 30)}"`)
    }
  if (document.documentElement.scrollWidth > innerWidth + 1)
    found.push(`the page is ${document.documentElement.scrollWidth} px wide`)
  return [...new Set(found)]
}
