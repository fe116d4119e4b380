import type { PreflightItem } from '../findings'
import { settingWords } from './setting'

/** A line of the list before a take. */
export function preflightWords(item: PreflightItem): string {
  switch (item.kind) {
    case 'radio':
      return `${item.sender} linked to ${item.receiver}${item.channel === undefined ? '' : `, both on channel ${item.channel}`}, fresh cells at both ends`
    case 'switches':
      return `${item.box}: ${item.switches.map(({ name, position }) => settingWords(name, position)).join(', ')}`
    case 'phantom power':
      return 'Phantom power as planned, muted while plugging'
    case 'own level':
      return `${item.box} sets its own level: let it hear the loudest words just before the take`
    case 'cards':
      return `Room to record, cards formatted: ${item.recorders.join(', ')}`
    case 'meters':
      return `Meters move on the real ${item.speech ? 'voice' : 'sound'}: ${item.recorders.join(', ')}`
    case 'listen':
      return item.boxes.length
        ? `Headphones on, started low: ${item.boxes.join(', ')}`
        : 'No headphones in this plan: record ten seconds and play them back'
    case 'start':
      return item.recorders.length > 1
        ? `Start ${item.recorders.join(', then ')}, then clap`
        : `Start ${item.recorders[0]}, and see that it really records`
    case 'consent':
      return 'Tell people that the microphone is live'
  }
}
