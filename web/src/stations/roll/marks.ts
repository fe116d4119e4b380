import type { MarkKind } from '@iron-hush/core/model'

/** Marks during a take, by the keys 1 to 6. */
export const marks: { kind: MarkKind; name: string; hint: string }[] = [
  { kind: 'aircraft', name: 'Aircraft', hint: 'or traffic, out of shot' },
  { kind: 'rustle', name: 'Rustle', hint: 'cloth, handling' },
  { kind: 'too loud', name: 'Too loud', hint: 'meter at the top' },
  { kind: 'wind', name: 'Wind', hint: 'or breath' },
  { kind: 'dropout', name: 'Dropout', hint: 'radio, crackle' },
  { kind: 'hum', name: 'Hum', hint: 'buzz, hiss' },
]
