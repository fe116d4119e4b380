// The browser that drives the tests, the pictures and the benchmarks: Debian's Chromium without a window.
import { existsSync } from 'node:fs'
import { needDebian } from './packages.mjs'
import { Trouble } from './say.mjs'

/** The one made to run without a window loads a page in two thirds of the time. */
const packages = ['chromium-headless-shell', 'chromium']
const program = () => packages.map((name) => `/usr/bin/${name}`).find((each) => existsSync(each))

export async function needBrowser() {
  for (const name of packages) {
    if (program()) return
    await needDebian(name, () => existsSync(`/usr/bin/${name}`), ['--no-install-recommends']).catch(
      (/** @type {unknown} */ trouble) => {
        if (name === packages.at(-1) || !(trouble instanceof Trouble)) throw trouble
      },
    )
  }
}

export const launchOptions = {
  executablePath: program() ?? '/usr/bin/chromium',
  args: [
    '--no-sandbox',
    '--disable-gpu',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
}
