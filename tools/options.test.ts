import { spawnSync } from 'node:child_process'
import { mkdtempSync, readdirSync, rmSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { describe, expect, it } from 'vitest'

/** A command of ours, run in a folder of its own; `left` is what it left there. */
function ran(script: string, ...given: string[]) {
  const folder = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-options-'))
  const file = path.join(import.meta.dirname, script)
  const { status, stdout, stderr } = spawnSync(process.execPath, [file, ...given], {
    cwd: folder,
    encoding: 'utf8',
  })
  const left = readdirSync(folder)
  rmSync(folder, { recursive: true })
  return { status, stdout, stderr, left }
}

describe('what stands behind a command', () => {
  it('is explained when that is asked, and nothing is done', () => {
    expect(ran('backup.mjs', '--help')).toEqual({
      status: 0,
      stdout: 'Use: npm run backup [FILE]\n',
      stderr: '',
      left: [],
    })
  })
  it.each([
    [['one', 'two'], '"two" is one too many.'],
    [['--odd'], "Unknown option '--odd'"],
  ])('is refused where it means nothing: %s', (given, why) => {
    const { status, stderr, left } = ran('backup.mjs', ...given)
    expect([status, stderr, left]).toEqual([1, `${why}\nUse: npm run backup [FILE]\n`, []])
  })
})
