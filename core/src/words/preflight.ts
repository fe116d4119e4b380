import type { PreflightItem } from '../findings'

/** A line of the list before the first take. */
export function preflightWords(item: PreflightItem): string {
  switch (item.kind) {
    case 'radios linked':
      return 'Radios linked, both on the same channel, fresh cells'
    case 'level by hand':
      return 'Level by hand where there is a choice'
    case 'phantom power':
      return 'Phantom power as planned, muted while plugging'
    case 'headphones':
      return 'Headphones on, started low'
    case 'start':
      return `Start ${item.recorders.join(', then ')}, then clap`
    case 'consent':
      return 'Tell people that the microphone is live'
  }
}
