import qrcode from 'qrcode'
import type { Sharing } from '@iron-hush/core/contract'
import type { Database } from '../database'
import { devicesOf } from './devices'
import { Pairing } from './pairing'

/** How others in the local network reach this server. */
export interface Shared {
  /** Addresses with their port, the first one for the picture: `https://192.0.2.4:4311`. */
  addresses: readonly string[]
  /** The authority's certificate that phones are asked to trust; left out if a proxy has its own. */
  authority?: { certificate: string; fingerprint: string }
}

/** The state of sharing, as shown on the machine that the server runs on. */
export class Sharer {
  readonly pairing: Pairing

  constructor(
    readonly shared?: Shared,
    pairing = new Pairing(),
  ) {
    this.pairing = pairing
  }

  async state(db: Database): Promise<Sharing> {
    const [first] = this.shared?.addresses ?? []
    const address = first ? `${first}/pair` : ''
    const { code, lockedUntil } = this.pairing
    const iso = (ms: number | Date) => new Date(ms).toISOString()
    return {
      on: this.shared !== undefined,
      address,
      qrSvg: address ? await qrcode.toString(address, { type: 'svg', margin: 1 }) : '',
      fingerprint: this.shared?.authority?.fingerprint ?? '',
      code: code ? { digits: code.digits, until: iso(code.untilMs) } : null,
      lockedUntil: lockedUntil === undefined ? null : iso(lockedUntil),
      devices: (await devicesOf(db)).map(({ id, name, paired_at, seen_at }) => ({
        id,
        name,
        pairedAt: iso(paired_at),
        seenAt: iso(seen_at),
      })),
    }
  }
}
