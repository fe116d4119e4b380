import { readFileSync, writeFileSync } from 'node:fs'
import { expect, type Page, test } from '@playwright/test'
import { wavBytes } from '@iron-hush/core/media'
import { talkingClip } from '@iron-hush/core/signals'
import { Application } from './application'
import { accessible, asShipped, open, settled, verdict } from './steps'

const application = new Application(Number(process.env.E2E_PORT ?? 4399), 'story')

test.describe.configure({ mode: 'serial' })
test.beforeAll(async () => {
  test.setTimeout(240_000)
  await application.start()
})
test.afterAll(async () => {
  await application.end()
})

test('it opens on a verdict, without reading or an account', async ({ page }) => {
  const strangers: string[] = []
  page.on(
    'request',
    (request) =>
      !request.url().startsWith(`http://127.0.0.1:${application.port}`) &&
      !request.url().startsWith('data:') &&
      !request.url().startsWith('blob:') &&
      strangers.push(request.url()),
  )
  await page.goto('/')
  await expect(verdict(page)).toContainText(/Speech-to-noise .* dB/)
  await expect(page.getByRole('navigation', { name: 'Stations' }).getByRole('link')).toHaveText([
    /Brief/,
    /Patch/,
    /Levels/,
    /Proof/,
    /Roll/,
  ])
  expect(strangers).toEqual([])
})

test('Brief: an edit in the paragraph moves the camera and the ranking, and can be undone', async ({
  page,
}) => {
  await open(page, 'brief')
  const plan = page.getByRole('img', { name: /Plan to scale/ })
  await expect(plan).toHaveAccessibleName(/camera 2\.7 m/)
  const far = page.locator('li', { hasText: 'on the camera supercardioid' }).locator('.figure')
  const before = await far.textContent()
  await page.getByRole('combobox', { name: 'Framing' }).click()
  await page.getByRole('option', { name: 'whole figure' }).click()
  await expect(plan).toHaveAccessibleName(/camera 5\.3 m/)
  await expect(far).not.toHaveText(before!)
  await page.getByRole('spinbutton', { name: 'Level of fans' }).fill('60')
  await page.keyboard.press('Tab')
  await expect(page.locator('li', { hasText: 'lapel' }).locator('.why')).toContainText('noise of the place')
  await accessible(page)
  await page.locator('h1').click()
  await page.keyboard.press('Control+z')
  await page.keyboard.press('Control+z')
  await expect(plan).toHaveAccessibleName(/camera 2\.7 m/)
  await page.keyboard.press('Control+Shift+z')
  await expect(plan).toHaveAccessibleName(/camera 5\.3 m/)
  await page.keyboard.press('Control+z')
  await settled(page)
})

test('Patch: swap a box, put in a pad, add a box, and see what each would bring', async ({ page }) => {
  await open(page, 'patch')
  await page.getByRole('button', { name: 'Link Recorder to Camera' }).click()
  const panel = page.getByRole('complementary', { name: 'The link in hand' })
  await expect(panel).toContainText(/Loses \d+\.\d dB/)
  const loss = async () => Number(/Loses (\d+\.\d) dB/.exec((await panel.textContent())!)![1])
  expect(await loss()).toBeLessThan(1)
  await panel.getByRole('button', { name: /Mini pad, 25 dB/ }).click()
  await expect.poll(loss).toBeGreaterThan(20)
  await accessible(page)
  // it has taken the place of the lead that was there; undo brings that back
  await page.keyboard.press('Control+z')
  await expect.poll(loss).toBeLessThan(1)
  await panel.getByRole('button', { name: 'Close' }).click()

  await page.getByRole('button', { name: /^Camera/ }).click()
  await page
    .getByRole('complementary', { name: 'The box in hand' })
    .getByRole('button', { name: /Old reflex/ })
    .click()
  await expect(page.getByRole('button', { name: /^Camera.*Old reflex/ })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(page.getByRole('button', { name: /^Camera.*Mirrorless/ })).toBeVisible()
  await page.keyboard.press('Escape')

  await page.getByRole('button', { name: 'Add a box' }).click()
  const add = page.getByRole('complementary', { name: 'Add to the chain' })
  await add.getByRole('combobox', { name: 'What' }).click()
  await page.getByRole('option', { name: /Action camera/ }).click()
  await add.getByRole('combobox', { name: 'Stands' }).click()
  await page.getByRole('option', { name: 'boom from above' }).click()
  await add.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByRole('button', { name: /^Action camera/ })).toBeVisible()
  await expect(page.locator('.plan', { hasText: 'Action camera' })).toContainText('founder')
  await page.getByRole('button', { name: 'Take out of the chain' }).click()
  await expect(page.getByRole('button', { name: /^Action camera/ })).toHaveCount(0)
  await settled(page)
})

test('Levels: turning a control moves everything to its right, by keys and by pointer', async ({ page }) => {
  await open(page, 'levels', 2)
  await expect(verdict(page)).toContainText('bends at Camera, first amplifier')
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
    await page.getByRole('button', { name: mode, exact: true }).click()
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

test('Levels: a locked camera costs something, automatic gain swells in pauses, and a pad is better after the output', async ({
  page,
}) => {
  await asShipped(page, 2, '3-the-tuning')
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
  await listen.getByRole('button', { name: 'Keep this' }).click()
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
  await asShipped(page, 2, '3-the-tuning')

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
})

test('Levels: where no setting helps, a cure is found and taken; clipping is kept rare; all runs stand side by side', async ({
  page,
}) => {
  await asShipped(page, 2, '3-the-tuning')
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
  await expect(page.getByLabel('How sure it is')).toContainText(/Clips in\s*(less than one|one) take in/, {
    timeout: 20_000,
  })

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
})

test('Levels: what it would sound like, now against proposed, at one loudness and blind', async ({
  page,
}) => {
  await asShipped(page, 2, '3-the-tuning')
  await open(page, 'levels', 2)
  await page.keyboard.press('b')
  await expect(page.getByRole('region', { name: 'Proposal of Balance' })).toBeVisible({ timeout: 30_000 })
  await page.keyboard.press('l')
  const listen = page.getByRole('region', { name: 'Listen' })
  await expect(listen.getByRole('button', { name: 'Pause' })).toBeVisible({ timeout: 30_000 })
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
  await expect(listen).toContainText(/5 heard: now \d, proposed \d/)
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
  await listen.getByRole('button', { name: 'Write WAV' }).click()
  expect((await written).suggestedFilename()).toMatch(/^the-tuning-(now|proposed)\.wav$/)
  await page.keyboard.press('l')
  await expect(listen).toHaveCount(0)
  await page.getByRole('button', { name: 'Accept all' }).click()
  await expect(verdict(page)).toContainText(/^(Clean|Usable|Noisy):/)
  await settled(page)
})

test('Proof: a dropped clip is measured beside the plan; what is no WAV is refused in a sentence', async ({
  page,
}, info) => {
  await open(page, 'proof')
  const clip = { typicalDbfs: -26, noiseDbfsA: -66, loudestPeakDbfs: 6, lengthS: 10, rateHz: 48000, seed: 4 }
  const file = info.outputPath('bench take 1.wav')
  writeFileSync(
    file,
    wavBytes([talkingClip(clip), talkingClip({ ...clip, loudestPeakDbfs: -6, seed: 5 })], 48000),
  )
  const input = page.locator('input[type=file]')
  await input.setInputFiles(file)
  const article = page.locator('article', { hasText: 'bench take 1.wav' })
  await expect(article).toContainText('cut flat at full scale')
  await article.getByRole('combobox', { name: 'Held against' }).click()
  await page.getByRole('option', { name: 'Recorder, track 1' }).click()
  const row = article.getByRole('row', { name: /noise in the pauses/ }).first()
  const measured = Number((await row.getByRole('cell').nth(1).textContent())!.replace('\u2212', '-'))
  expect(Math.abs(measured + 66)).toBeLessThan(1)
  await expect(article.getByRole('row', { name: /loudest peak/ }).first()).toContainText(
    'louder than the brief says',
  )
  for (const [name, content, expected] of [
    ['empty.wav', '', /empty\.wav was refused: it is empty/],
    ['song.wav', 'ID3 and so on', /in spite of its name it is an MP3/],
    ['cut.wav', wavBytes([talkingClip(clip)], 48000).slice(0, 30), /its header is cut off/],
  ] as const) {
    const bad = info.outputPath(name)
    writeFileSync(bad, content)
    await input.setInputFiles(bad)
    await expect(page.getByText(expected)).toBeVisible()
  }
  await expect(page.locator('article')).toHaveCount(1)
  await accessible(page)

  // a real drop, as from a file manager
  const bytes = [...wavBytes([talkingClip({ ...clip, loudestPeakDbfs: -6, lengthS: 3 })], 48000, 16)]
  const dropped = await page.evaluateHandle((content) => {
    const transfer = new DataTransfer()
    transfer.items.add(new File([new Uint8Array(content)], 'dropped.wav', { type: 'audio/wav' }))
    return transfer
  }, bytes)
  for (const event of ['dragenter', 'dragover', 'drop'])
    await page.dispatchEvent('section.station', event, { dataTransfer: dropped })
  const second = page.locator('article', { hasText: 'dropped.wav' })
  await expect(second).toContainText('No flat tops were found')
  await second.getByRole('button', { name: 'Forget' }).click()
  await expect(page.locator('article')).toHaveCount(1)
  await settled(page)
})

test.describe('on a phone', () => {
  test.use({ viewport: { width: 390, height: 844 }, hasTouch: true })
  test('Roll: two takes with marks, a verdict, a report; and nothing is lost while the server is away', async ({
    page,
    context,
  }, info) => {
    await open(page, 'roll')
    await accessible(page)
    await page.getByRole('button', { name: 'Roll take 1' }).tap()
    await expect(page.getByText('ROLLING', { exact: true })).toBeVisible()
    await page.getByRole('radio', { name: /track 2/ }).tap()
    await page.getByRole('button', { name: /Rustle/ }).tap()
    await page.getByRole('button', { name: /Aircraft/ }).tap()
    await page.getByRole('button', { name: 'Undo' }).last().tap()
    await accessible(page)
    await page.getByRole('button', { name: 'End take' }).tap()
    await settled(page)

    await context.setOffline(true)
    await page.getByRole('button', { name: 'Roll take 2' }).tap()
    await page.getByRole('button', { name: /Hum/ }).tap()
    await page.getByRole('button', { name: /Word/ }).tap()
    await page.getByRole('textbox', { name: 'Word' }).fill('=spare, by the "door"')
    await page.getByRole('button', { name: 'Keep' }).tap()
    await page.getByRole('button', { name: 'End take' }).tap()
    await expect(page.locator('.stored')).toContainText(/kept here, server away/)
    await context.setOffline(false)
    await settled(page)
    await expect(page.locator('.stored')).toContainText('2 stored')

    await page
      .getByRole('group', { name: 'Verdict on take 2' })
      .getByRole('button', { name: 'good', exact: true })
      .tap()
    const download = page.waitForEvent('download')
    await page.getByRole('button', { name: 'Sound report' }).tap()
    const file = info.outputPath('report.csv')
    await (await download).saveAs(file)
    const lines = readFileSync(file, 'utf8').trim().split('\r\n')
    expect(lines[0]).toBe('scene,take,what,time,length,verdict,channels,note')
    expect(lines.filter((line) => /,\d+,take,/.test(line))).toHaveLength(2)
    expect(lines.find((line) => line.includes('rustle'))).toContain('"Recorder, track 2"')
    expect(lines.join()).not.toContain('aircraft')
    expect(lines.find((line) => line.includes('spare'))).toContain('"\'=spare, by the ""door"""')
    expect(lines.find((line) => line.includes(',2,take,'))).toContain(',good,')
    await settled(page)
  })
})

test('Gear: the shelf shows where figures come from, and remembers what is owned', async ({ page }) => {
  await open(page, 'gear')
  await page.getByRole('button', { name: /^Mirrorless/ }).click()
  await expect(page.locator('article')).toContainText('measured')
  await expect(page.locator('article')).toContainText('input ceiling')
  await accessible(page)
  await page.getByRole('button', { name: /^Small mixer/ }).click()
  await page.getByRole('spinbutton', { name: 'How many you own' }).fill('1')
  await page.keyboard.press('Tab')
  await settled(page)
  await page.reload()
  await expect(page.getByRole('button', { name: /^Small mixer.*1/ })).toBeVisible()
})

test('two windows on one scene: the second is told, and keeps its change on top of the other', async ({
  page,
  context,
}) => {
  await open(page, 'levels')
  const other = await context.newPage()
  await open(other, 'levels')
  const gain = (each: Page) => each.getByRole('slider', { name: 'Recorder, Gain 2' })
  await gain(page).focus()
  await page.keyboard.press('ArrowUp')
  await settled(page)
  const school = other.getByRole('combobox', { name: 'Where peaks should lie' })
  await school.click()
  await other.getByRole('option', { name: /cautious/ }).click()
  const dialog = other.getByRole('dialog', { name: 'This scene was changed elsewhere' })
  await expect(dialog).toBeVisible()
  await expect(dialog.getByRole('listitem')).toHaveText([/plan: cautious school/])
  await expect(dialog.getByRole('row', { name: /Gain 2/ })).toBeVisible()
  await expect(other.getByRole('listbox')).toHaveCount(0)
  await accessible(other)
  await dialog.getByRole('button', { name: 'Put mine on top' }).click()
  await settled(other)
  await expect(gain(other)).toHaveAttribute(
    'aria-valuenow',
    (await gain(page).getAttribute('aria-valuenow'))!,
  )
  await other.reload()
  await expect(other.getByRole('combobox', { name: 'Where peaks should lie' })).toContainText('cautious')
})

test('night has its contrast too', async ({ page }) => {
  await open(page, 'levels')
  await page.getByRole('button', { name: 'Night' }).click()
  await accessible(page)
  await page.keyboard.press('1')
  await expect(page.locator('h1').first()).toHaveText('Brief')
  await accessible(page)
  await page.getByRole('button', { name: 'Day' }).click()
})

test('killed outright, it recovers by itself at the next start', async ({ page }) => {
  test.setTimeout(120_000)
  await application.end('SIGKILL')
  await expect
    .poll(
      () =>
        page.request.get('/api/shoots').then(
          () => 'there',
          () => 'gone',
        ),
      { timeout: 20_000 },
    )
    .toBe('gone')
  await application.start()
  await open(page, 'levels')
  await expect(verdict(page)).toContainText('Speech-to-noise')
})

test('Ctrl-C and a second start: a change made while the server is gone arrives, and all is still there', async ({
  page,
}) => {
  test.setTimeout(120_000)
  await open(page, 'levels')
  const knob = page.getByRole('slider', { name: 'Recorder, Gain 2' })
  await expect(knob).toBeVisible()
  expect(await application.end('SIGINT')).toBe(0)
  await knob.focus()
  await page.keyboard.press('End')
  await expect(page.getByText(/server away, \d+ kept here/)).toBeVisible()
  await application.start()
  expect(Number(/\((\d+\.\d) s\)/.exec(application.output)![1])).toBeGreaterThan(0)
  await settled(page)
  await page.reload()
  await expect(knob).toHaveAttribute('aria-valuenow', '70')
  await open(page, 'levels', 2)
  await expect(verdict(page)).toContainText(/^(Clean|Usable|Noisy):/)
  await open(page, 'proof')
  await expect(page.locator('article')).toContainText('bench take 1.wav')
  await open(page, 'roll')
  await expect(page.getByRole('list', { name: 'Takes' }).getByRole('listitem')).toHaveCount(2)
})
