import { randomInt } from 'node:crypto'

const codeMs = 2 * 60_000
const mostWrong = 5
const lockMs = 5 * 60_000

/** A code on the laptop's screen lets one device in. It lasts two minutes; five wrong ones lock for five. */
export class Pairing {
  private offered: { digits: string; untilMs: number } | undefined
  private wrong = 0
  private lockedUntilMs = 0

  constructor(private readonly nowMs: () => number = Date.now) {}

  /** Makes a new code in place of the one before. */
  offer(): void {
    const digits = String(randomInt(0, 1_000_000)).padStart(6, '0')
    this.offered = { digits, untilMs: this.nowMs() + codeMs }
  }

  get code(): { digits: string; untilMs: number } | undefined {
    return this.offered && this.offered.untilMs > this.nowMs() ? this.offered : undefined
  }
  get lockedUntil(): number | undefined {
    return this.lockedUntilMs > this.nowMs() ? this.lockedUntilMs : undefined
  }

  /** Tries a code. The right one is used up. */
  attempt(digits: string): 'in' | 'wrong' | 'locked' {
    if (this.lockedUntil) return 'locked'
    if (this.code && this.code.digits === digits.replace(/\D/g, '')) {
      this.offered = undefined
      this.wrong = 0
      return 'in'
    }
    if (++this.wrong < mostWrong) return 'wrong'
    this.wrong = 0
    this.offered = undefined
    this.lockedUntilMs = this.nowMs() + lockMs
    return 'locked'
  }
}
