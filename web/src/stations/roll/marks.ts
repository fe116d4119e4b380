import type { MarkKind } from '@iron-hush/core/model'

/** What can be marked while a take runs, by the keys 1 to 6. */
export const marks: { kind: MarkKind; name: string; hint: string }[] = [
  { kind: 'aircraft', name: 'Aircraft', hint: 'or traffic, out of shot' },
  { kind: 'rustle', name: 'Rustle', hint: 'cloth, handling' },
  { kind: 'too loud', name: 'Too loud', hint: 'meter at the top' },
  { kind: 'wind', name: 'Wind', hint: 'or breath' },
  { kind: 'dropout', name: 'Dropout', hint: 'radio, crackle' },
  { kind: 'hum', name: 'Hum', hint: 'buzz, hiss' },
]
