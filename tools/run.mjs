import { spawn } from 'node:child_process'
import { Trouble } from './say.mjs'

/**
 * Runs a program to its end. The output is everything it wrote, `said` only what it wrote to standard output; both are
 * empty when it is shown: written through to the terminal.
 * @param {string} command
 * @param {string[]} args
 * @param {import('node:child_process').SpawnOptions & { show?: boolean }} options
 * @returns {Promise<{ code: number | null, output: string, said: string }>}
 */
export function run(command, args, { show = false, ...options } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      ...options,
      stdio: ['ignore', show ? 'inherit' : 'pipe', show ? 'inherit' : 'pipe'],
    })
    let output = ''
    let said = ''
    child.stdout?.on('data', (part) => {
      output += part
      said += part
    })
    child.stderr?.on('data', (part) => (output += part))
    child.on('error', reject)
    child.on('close', (code) => resolve({ code, output, said }))
  })
}

/**
 * The same, and a Trouble with the end of its output when it fails.
 * @param {string} what
 * @param {string} command
 * @param {string[]} args
 * @param {Parameters<typeof run>[2]} [options]
 */
export async function mustRun(what, command, args, options) {
  const { code, output } = await run(command, args, options)
  if (code !== 0)
    throw new Trouble(
      `${what} failed (${command} ended with ${code}).\n${output.trim().split('\n').slice(-15).join('\n')}`,
    )
  return output
}
