// One start at a time works in a home.
import { linkSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import path from 'node:path'
import { run } from './run.mjs'
import { Trouble } from './say.mjs'

/** @param {number} pid */
function lives(pid) {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return /** @type {NodeJS.ErrnoException} */ (error).code === 'EPERM'
  }
}

/**
 * The command line of a process; empty where there is none or it has ended and only its number is left, undefined where
 * the machine cannot say.
 * @param {number} pid
 */
export async function commandOf(pid) {
  if (!lives(pid)) return ''
  const { output } = await run('ps', ['-o', 'stat=,args=', '-p', String(pid)]).catch(() => ({ output: '' }))
  const [, state, command] = /^(\S+)\s+(.*)/.exec(output.trim()) ?? []
  return state?.startsWith('Z') ? '' : command
}

/**
 * Holds a home until `release`. Another start that lives there is said so, with its address; what a start that was killed
 * left behind is taken over.
 * @param {string} home
 * @param {number} port
 */
export async function lockHome(home, port) {
  mkdirSync(home, { recursive: true, mode: 0o755 })
  const file = path.join(home, 'start.lock')
  const mine = `${file}.${process.pid}`
  writeFileSync(mine, JSON.stringify({ pid: process.pid, port }))
  try {
    for (;;) {
      try {
        // made whole beside its place: anyone who finds a lock finds all of it
        linkSync(mine, file)
        return { release: () => rmSync(file, { force: true }) }
      } catch (error) {
        if (/** @type {NodeJS.ErrnoException} */ (error).code !== 'EEXIST') throw error
      }
      const holder = holderOf(file)
      if (
        holder &&
        holder.pid !== process.pid &&
        /start\.mjs/.test((await commandOf(holder.pid)) ?? 'start.mjs')
      )
        throw new Trouble(
          `Iron Hush runs already with the data in ${home}: open http://127.0.0.1:${holder.port}, or end that start first (process ${holder.pid}). For a second one beside it set IRON_HUSH_HOME to another folder.`,
        )
      rmSync(file, { force: true })
    }
  } finally {
    rmSync(mine, { force: true })
  }
}

/**
 * @param {string} file
 * @returns {{ pid: number, port: number } | undefined}
 */
function holderOf(file) {
  try {
    return JSON.parse(readFileSync(file, 'utf8'))
  } catch {
    return undefined
  }
}
