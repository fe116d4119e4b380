import type { GainSchool } from '../balance'
import type { KitWay } from '../plan'

/** The boxes between, in a few words. */
export function kitWords(way: KitWay): string {
  switch (way.kind) {
    case 'as it is':
      return 'As it is, balanced'
    case 'straight in':
      return 'Straight into the camera'
    case 'between':
      return `${way.thing} between`
    case 'alone':
      return `${way.thing} alone`
  }
}

/** A school of gain by what it does, and how. */
export const schoolWords: Record<GainSchool, { name: string; how: string }> = {
  'hot early': { name: 'Feed it hot early', how: 'most gain in the first quiet stage' },
  'no box works hard': { name: 'No box works hard', how: 'every control near the middle of its range' },
}
