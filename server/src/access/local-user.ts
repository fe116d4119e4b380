import { existsSync, readFileSync } from 'node:fs'
import type { Socket } from 'node:net'

const tables = ['/proc/net/tcp', '/proc/net/tcp6']
const established = '01'

/**
 * The user whose program holds the other end of a connection within this machine (Linux, proc_net(5)); undefined where
 * the kernel does not say.
 */
export function localUserOf({
  remotePort,
  localPort,
}: Pick<Socket, 'remotePort' | 'localPort'>): number | undefined {
  if (remotePort === undefined || localPort === undefined) return undefined
  const [from, to] = [remotePort, localPort].map(portInTable)
  for (const file of tables.filter((each) => existsSync(each)))
    for (const line of readFileSync(file, 'utf8').split('\n')) {
      const [, local, remote, state, , , , user] = line.trim().split(/\s+/)
      if (local?.endsWith(`:${from}`) && remote?.endsWith(`:${to}`) && state === established)
        return Number(user)
    }
  return undefined
}

/** As the kernel writes it: four hexadecimal digits. */
const portInTable = (port: number): string => port.toString(16).toUpperCase().padStart(4, '0')
