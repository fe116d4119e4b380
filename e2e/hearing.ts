import { mkdtempSync, writeFileSync } from 'node:fs'
import os from 'node:os'
import path from 'node:path'
import { wavBytes } from '@iron-hush/core/media'
import { launchOptions } from '../tools/browser.mjs'

export const rateHz = 48_000

/** A browser that hears these samples in place of a microphone, over and over. */
export function hearing(samples: Float32Array) {
  const file = path.join(mkdtempSync(path.join(os.tmpdir(), 'iron-hush-heard-')), 'heard.wav')
  writeFileSync(file, wavBytes([samples, samples], rateHz, 16))
  return {
    permissions: ['microphone'],
    launchOptions: {
      ...launchOptions,
      args: [
        ...launchOptions.args,
        '--use-fake-ui-for-media-stream',
        '--use-fake-device-for-media-stream',
        `--use-file-for-fake-audio-capture=${file}`,
      ],
    },
  }
}
