import { spawn } from 'node:child_process'
import { Trouble } from './say.mjs'

/**
 * Runs a program to its end. Resolves with { code, output }; output is everything it wrote, unless it is shown.
 * Options: cwd, env, uid, gid, show (write through to the terminal).
 */
export function run(command, args, { show = false, ...options } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, {
      ...options,
      stdio: ['ignore', show ? 'inherit' : 'pipe', show ? 'inherit' : 'pipe'],
    })
    let output = ''
    child.stdout?.on('data', (part) => (output += part))
    child.stderr?.on('data', (part) => (output += part))
    child.on('error', reject)
    child.on('close', (code) => resolve({ code, output }))
  })
}

/** The same, and a Trouble with the end of its output when it fails. */
export async function mustRun(what, command, args, options) {
  const { code, output } = await run(command, args, options)
  if (code !== 0)
    throw new Trouble(
      `${what} failed (${command} ended with ${code}).\n${output.trim().split('\n').slice(-15).join('\n')}`,
    )
  return output
}
