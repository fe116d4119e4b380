// npm run bench, third part: measuring a clip against a standard program that measures its loudness alone, and what
// memory a short and a long one take. `--long` measures two hours instead of a quarter of one.
import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, openSync, closeSync, rmSync, writeSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { performance } from 'node:perf_hooks'
import { fileURLToPath } from 'node:url'
import { wavFrames, wavHead, type WavLayout } from '@iron-hush/core/media'
import { measureClip } from '@iron-hush/core/measure'
import { amplifierNoise, mixed, speech } from '@iron-hush/core/signals'
import { beginHelper } from '../cli/src/helper'
import { fileSource } from '../cli/src/input'
import { needDebian } from './packages.mjs'

const rateHz = 48_000
const own = fileURLToPath(import.meta.url)
const hush = fileURLToPath(new URL('../cli/bin/hush.mjs', import.meta.url))
const [, , task, file] = process.argv

/** Somebody speaks for half a minute, again and again. */
function writeClip(to: string, minutes: number, channels: number): void {
  const lengthS = 30
  const voice = speech({ lengthS, rateHz, seed: 3, levelDbfs: -24, pitchHz: 120 }).samples
  const hiss = (seed: number) => amplifierNoise({ lengthS, rateHz, seed, levelDbfs: -70 })
  const layout: WavLayout = { channels, rateHz, bits: 24, format: 'integer' }
  const part = wavFrames(
    Array.from({ length: channels }, (_, channel) => mixed(voice, hiss(channel + 5))),
    layout,
  )
  const opened = openSync(to, 'w')
  writeSync(opened, wavHead(layout, minutes * 60 * rateHz))
  for (let half = 0; half < 2 * minutes; half++) writeSync(opened, part)
  closeSync(opened)
}

async function measureAlone(clip: string): Promise<void> {
  const source = await fileSource(clip)
  const from = performance.now()
  await measureClip(source, path.basename(clip), { helper: beginHelper })
  await source.close()
  console.log(JSON.stringify({ ms: performance.now() - from, mb: process.resourceUsage().maxRSS / 1024 }))
}
/** Measures in a separate process, so that its memory is counted alone. */
function measuredApart(clip: string): { ms: number; mb: number } {
  const output = execFileSync(process.execPath, ['--import', 'tsx', own, 'measure', clip], {
    encoding: 'utf8',
  })
  return JSON.parse(output.trim().split('\n').at(-1)!) as { ms: number; mb: number }
}
/** How long a command takes from beginning to end, ms. */
function tookMs(command: string, ...given: readonly string[]): number {
  const from = performance.now()
  spawnSync(command, given)
  return performance.now() - from
}

async function bench(): Promise<void> {
  await needDebian('ffmpeg', () => existsSync('/usr/bin/ffmpeg'), ['--no-install-recommends'])
  const folder = mkdtempSync(path.join(os.tmpdir(), 'iron-hush-bench-'))
  const say = (what: string, value: string, aim: string) =>
    console.log(`${what.padEnd(76)} ${value.padStart(10)}   aim ${aim}`)
  try {
    const [stereo, short, long] = ['stereo.wav', 'short.wav', 'long.wav'].map((name) =>
      path.join(folder, name),
    )
    const longMinutes = process.argv.includes('--long') ? 120 : 15
    writeClip(stereo!, 10, 2)
    // built beforehand, as it is for anyone who uses it
    const measure = () => tookMs(process.execPath, hush, 'measure', '--json', stereo!)
    tookMs(process.execPath, hush, '--version')
    // turn by turn, so that a machine that gets slower is slower for both
    const ratios = [0, 1, 2].map(
      () =>
        measure() /
        tookMs(
          '/usr/bin/ffmpeg',
          '-v',
          'error',
          '-i',
          stereo!,
          '-af',
          'ebur128=peak=true',
          '-f',
          'null',
          '-',
        ),
    )
    say(
      'all that is measured in ten minutes of stereo against loudness by ffmpeg',
      ratios.sort((one, other) => one - other)[1]!.toPrecision(3),
      '0.5',
    )
    writeClip(short!, 2, 1)
    writeClip(long!, longMinutes, 1)
    const [two, many] = [measuredApart(short!), measuredApart(long!)]
    say(`memory for ${longMinutes} minutes over that for two, MB`, (many.mb - two.mb).toFixed(1), 'under 20')
    say(
      'time a minute for the long one against the short one',
      (many.ms / longMinutes / (two.ms / 2)).toPrecision(3),
      '1',
    )
  } finally {
    rmSync(folder, { recursive: true })
  }
}

await (task === 'measure' ? measureAlone(file!) : bench())
