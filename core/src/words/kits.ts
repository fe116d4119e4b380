import type { KitWay } from '../plan'

/** What stands between, in a few words. */
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
