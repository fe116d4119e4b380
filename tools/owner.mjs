// Whose application this is, for the server's door on this machine.
import { randomBytes } from 'node:crypto'
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import path from 'node:path'

/** Whether the kernel of this machine says whose program holds a connection (Linux, proc_net(5)). */
export const kernelTells = () => existsSync('/proc/net/tcp')

/**
 * The key that opens it where the kernel does not say who asks: made once for a home, readable by its owner alone.
 * @param {string} home
 */
export function keyOf(home) {
  const file = path.join(home, 'access.key')
  if (!existsSync(file)) {
    mkdirSync(home, { recursive: true, mode: 0o755 })
    writeFileSync(file, randomBytes(24).toString('base64url'), { mode: 0o600 })
  }
  return readFileSync(file, 'utf8').trim()
}
