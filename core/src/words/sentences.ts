/** Words for a finding: what is wrong, why, and what to do. A sentence each; empty where there is nothing to add. */
export interface Sentences {
  what: string
  why: string
  remedy: string
}
