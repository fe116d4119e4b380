/** A text as a sentence begins with it. */
export const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)

/** Words for a finding: what is wrong, why, and what to do. A sentence each; empty where there is nothing to add. */
export interface Sentences {
  what: string
  why: string
  remedy: string
}
