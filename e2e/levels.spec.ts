import { expect } from '@playwright/test'
import { wavBytes } from '@iron-hush/core/media'
import { test } from './application'
import { accessible, open, settled, verdict } from './steps'

test('Levels: turning a control moves everything to its right, by keys and by pointer', async ({ page }) => {
  await open(page, 'levels', 2)
  await expect(verdict(page)).toContainText('bends at Camera, first amplifier')
  // a long chain opens box by box; a box opens where it stands, or all of them do
  await expect(page.getByRole('button', { name: /^First amplifier/ })).toHaveCount(0)
  await page.getByRole('button', { name: 'Stages of Camera' }).click()
  await expect(page.getByRole('button', { name: /^First amplifier/ })).toHaveCount(1)
  await page.getByRole('radio', { name: 'stages' }).click()
  const map = page.getByRole('img', { name: /Level map/ })
  const headroom = async (place: string) =>
    Number(
      new RegExp(`${place}: floor [^;]*headroom ([\u2212-]?[\\d.]+)`)
        .exec((await map.getAttribute('aria-label'))!)![1]!
        .replace('\u2212', '-'),
    )
  const knob = page.getByRole('slider', { name: 'Recorder, Output level' })
  const [capsule, amplifier] = [await headroom('Boom, Capsule'), await headroom('Camera, First amplifier')]
  await knob.focus()
  await page.keyboard.press('ArrowDown')
  await page.keyboard.press('Shift+ArrowDown')
  await expect(knob).toHaveAttribute('aria-valuetext', '\u221217 dB')
  expect(await headroom('Camera, First amplifier')).toBeCloseTo(amplifier + 11, 1)
  expect(await headroom('Boom, Capsule')).toBe(capsule)
  const box = (await knob.boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + 30)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2, box.y + 30 - 55, { steps: 8 })
  await page.mouse.up()
  await expect(knob).toHaveAttribute('aria-valuetext', '\u22126 dB')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('button', { name: /Switched mini pad/ })).toHaveAttribute(
    'aria-pressed',
    'true',
  )
  for (const mode of ['volts', 'dBFS', 'as pressure']) {
    await page.getByRole('radio', { name: mode, exact: true }).click()
    await expect(map).toBeVisible()
  }
  await accessible(page)
})

test('Levels: Balance proposes, one is accepted, then all, and undo takes them back', async ({ page }) => {
  await open(page, 'levels', 2)
  await expect(verdict(page)).toContainText('too hot')
  await page.keyboard.press('b')
  const proposal = page.getByRole('region', { name: 'Proposal of Balance' })
  await expect(proposal).toContainText(/\d controls to move/)
  const count = Number(/(\d) controls/.exec((await proposal.textContent())!)![1])
  await page.getByTitle('Accept Record level alone').click()
  await expect(proposal).toContainText(`${count - 1} controls to move`)
  await page.getByRole('button', { name: 'Accept all' }).click()
  await expect(verdict(page)).toContainText(/^(Clean|Usable|Noisy):/)
  await page.keyboard.press('b')
  await expect(proposal).toContainText('Nothing to change')
  await page.keyboard.press('Escape')
  await page.keyboard.press('Control+z')
  await expect(verdict(page)).toContainText('too hot')
  await page.keyboard.press('Control+Shift+z')
  await expect(verdict(page)).toContainText(/^(Clean|Usable|Noisy):/)
  await settled(page)
})

test(
  'Levels: a locked camera costs something, automatic gain swells in pauses, and a pad is better after the output',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'levels', 2)
    // lock the camera where it stands, near its second step, and see what that costs
    const worst = async () =>
      Number(
        /\u2192\s+(\d+\.\d) dB/.exec(
          (await page.getByRole('region', { name: 'Proposal of Balance' }).textContent())!,
        )![1],
      )
    await page.keyboard.press('b')
    await expect(page.getByRole('region', { name: 'Proposal of Balance' })).toBeVisible({ timeout: 30_000 })
    const free = await worst()
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Lock Record level' }).click()
    await page.keyboard.press('b')
    await expect(page.getByRole('region', { name: 'Proposal of Balance' })).toBeVisible({ timeout: 30_000 })
    expect(await worst()).toBeLessThan(free)
    await page.keyboard.press('Escape')
    await page.getByRole('button', { name: 'Lock Record level' }).click()
    await page.getByRole('slider', { name: 'Camera, Record level' }).focus()
    await page.keyboard.press('End')

    // the same attenuation before the output amplifier instead of after it: the hiss comes up
    const hiss = async () =>
      Number(
        /over the boxes alone\s*(\S+) dB/
          .exec((await page.locator('.result').textContent())!)![1]!
          .replace('\u2212', '-'),
      )
    const pad = page.getByRole('radiogroup', { name: 'Switched mini pad, Pad' })
    await pad.getByRole('radio', { name: '\u221230' }).click()
    const after = await hiss()
    const listen = page.getByRole('region', { name: 'Listen' })
    const heard = () => expect(listen.getByRole('button', { name: 'Pause' })).toBeVisible({ timeout: 30_000 })
    await page.keyboard.press('l')
    await heard()
    await listen.getByRole('button', { name: 'Save to compare' }).click()
    await page.keyboard.press('l')
    await pad.getByRole('radio', { name: 'none' }).click()
    const output = page.getByRole('slider', { name: 'Recorder, Output level' })
    await output.focus()
    for (let step = 0; step < 3; step++) await page.keyboard.press('Shift+ArrowDown')
    await expect.poll(hiss).toBeLessThan(after - 8)
    // and is heard: of the two at one loudness, the one padded after the output has less at the top of its spectrum
    await page.keyboard.press('l')
    await heard()
    const top = async () =>
      Number(
        await listen
          .getByRole('img', { name: /thirds of an octave/ })
          .locator('rect')
          .last()
          .getAttribute('height'),
      )
    const before = await top()
    await listen.getByRole('radio', { name: 'as kept' }).click()
    await expect.poll(top).toBeLessThan(before - 2)
    await page.keyboard.press('l')

    await settled(page)

    // automatic gain on: the verdict says what the pauses do
    await open(page, 'levels', 0)
    await page
      .getByRole('radiogroup', { name: /Camera, / })
      .getByRole('radio', { name: 'automatic' })
      .click()
    const lifts = /Automatic gain lifts it by \d+\.\d dB in pauses/
    // some run of the camera hisses little enough for its gain to open
    for (let run = 0; run < 8 && !lifts.test((await verdict(page).textContent())!); run++)
      await page.keyboard.press(']')
    await expect(verdict(page)).toContainText(lifts)
    await expect(page.getByLabel('What automatic gain does')).toContainText(
      /in a pause the noise is up.*after 3 s/,
    )
    await page.keyboard.press('l')
    await heard()
    await page.keyboard.press('l')
    await page.keyboard.press('Control+z')
    await settled(page)
  },
)

test(
  'Levels: where no setting helps, a cure is found and taken; clipping is kept rare; all runs stand side by side',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'levels', 2)
    for (const name of ['Lock Output level', 'Lock Pad']) await page.getByRole('button', { name }).click()
    await page.keyboard.press('b')
    const proposal = page.getByRole('region', { name: 'Proposal of Balance' })
    await expect(proposal).toContainText(/No setting keeps 3\.0 dB under every ceiling/, { timeout: 30_000 })
    await proposal.getByRole('button', { name: 'What would cure it?' }).click()
    const cures = proposal.getByRole('list', { name: 'Cures' })
    const unlock = cures.getByRole('button', { name: /^Unlock .*nothing to buy/ }).first()
    await expect(unlock).toBeVisible({ timeout: 60_000 })
    await accessible(page)
    await unlock.click()
    await expect(verdict(page)).toContainText(/^(Clean|Usable|Noisy):/)

    await page.getByRole('combobox', { name: 'Keep clipping rarer than' }).click()
    await page.getByRole('option', { name: 'one take in 100', exact: true }).click()
    await expect(proposal).toContainText(/With \d+ dB under every ceiling/, { timeout: 60_000 })
    await proposal.getByRole('button', { name: 'Accept all' }).click()
    await expect(page.getByLabel('Tolerance known from')).toContainText(
      /Clips in\s*(less than one|one) take in/,
      {
        timeout: 20_000,
      },
    )

    await page.keyboard.press('a')
    const runs = page.getByRole('img', { name: /^Runs side by side/ })
    await expect(runs).toBeVisible()
    const safety = page.locator('.facts').getByRole('button', { name: /Recorder, safety/ })
    await safety.click()
    await expect(safety).toHaveAttribute('aria-pressed', 'true')
    await accessible(page)
    await page.getByRole('checkbox', { name: 'ambience' }).uncheck()
    await page.keyboard.press('a')
    await settled(page)
  },
)

test(
  'Levels: what it would sound like, now against proposed, at one loudness and blind',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'levels', 2)
    await page.keyboard.press('b')
    await expect(page.getByRole('region', { name: 'Proposal of Balance' })).toBeVisible({ timeout: 30_000 })
    await page.keyboard.press('l')
    const listen = page.getByRole('region', { name: 'Listen' })
    await expect(listen.getByRole('button', { name: 'Pause' })).toBeVisible({ timeout: 30_000 })
    // it opens below the map, and comes into sight by itself
    await expect(listen.getByRole('button', { name: 'Pause' })).toBeInViewport({ ratio: 1 })
    await expect(listen).toContainText('Start low')
    await expect(listen).toContainText('\u221230.0 dB')
    const level = async () => (await listen.textContent())!.match(/recorded at (\S+) dBFS/)![1]
    const now = await level()
    await listen.getByRole('radio', { name: 'proposed' }).click()
    await expect.poll(level).not.toBe(now)
    await accessible(page)
    await listen.getByRole('checkbox', { name: 'blind' }).check()
    for (let heard = 0; heard < 5; heard++)
      await listen.getByRole('button', { name: 'I prefer this one' }).click()
    await expect(listen).toContainText(/5 heard: \d for now, \d for proposed; /)
    const silent = wavBytes([new Float32Array(96_000)], 96_000)
    await listen
      .getByLabel('Your own WAV')
      .setInputFiles({ name: 'silent.wav', mimeType: 'audio/wav', buffer: Buffer.from(silent) })
    await expect(page.locator('.notices')).toContainText('it is silent')
    // a clip of another rate is brought to ours, and takes the place of the made-up voice
    const spoken = wavBytes(
      [Float32Array.from({ length: 192_000 }, (_, at) => 0.2 * Math.sin(at / 40))],
      96_000,
    )
    await listen
      .getByLabel('Your own WAV')
      .setInputFiles({ name: 'mine-96.wav', mimeType: 'audio/wav', buffer: Buffer.from(spoken) })
    await expect(listen).toContainText('mine-96.wav')
    await expect(listen.getByRole('button', { name: 'Pause' })).toBeVisible({ timeout: 30_000 })
    await listen.getByRole('checkbox', { name: 'blind' }).uncheck()
    const written = page.waitForEvent('download')
    await listen.getByRole('button', { name: 'Export WAV' }).click()
    expect((await written).suggestedFilename()).toMatch(/^the-tuning-(now|proposed)\.wav$/)
    await page.keyboard.press('l')
    await expect(listen).toHaveCount(0)
    await page.getByRole('button', { name: 'Accept all' }).click()
    await expect(verdict(page)).toContainText(/^(Clean|Usable|Noisy):/)
    await settled(page)
  },
)
