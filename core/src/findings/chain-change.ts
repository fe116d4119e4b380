/** Changes of a chain between two moments. */
export type ChainChange =
  | { kind: 'moved'; partName: string; controlName: string; from: string; to: string }
  | { kind: 'swapped' | 'added' | 'removed'; partName: string }
