import { readFileSync, writeFileSync } from 'node:fs'
import { expect } from '@playwright/test'
import { MeasureAnswer } from '@iron-hush/core/model'
import { wavBytes } from '@iron-hush/core/media'
import { amplifierNoise, mixed, speech, talkingClip } from '@iron-hush/core/signals'
import { test } from './application'
import { accessible, open, settled, verdict } from './steps'

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
  const input = page.getByLabel('Clips', { exact: true })
  const kept = page.getByRole('list', { name: 'Clips of this scene' }).getByRole('listitem')
  await input.setInputFiles(file)
  const article = page.locator('article', { hasText: 'bench take 1.wav' })
  await expect(article).toContainText('cut flat at full scale')
  await article.getByRole('combobox', { name: 'Compared with' }).click()
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
  await expect(kept).toHaveCount(1)
  // each stays with its sentence until it is dealt with
  const refused = page.getByRole('list', { name: 'Clips that could not be read' }).getByRole('listitem')
  await expect(refused).toHaveCount(3)
  await accessible(page)
  await page.getByRole('button', { name: 'Try cut.wav again' }).click()
  await expect(refused.filter({ hasText: 'cut.wav' })).toContainText('its header is cut off')
  for (const name of ['empty.wav', 'song.wav', 'cut.wav'])
    await page.getByRole('button', { name: `Dismiss ${name}` }).click()
  await expect(refused).toHaveCount(0)
  await settled(page)
})

test(
  'Proof: a clip is dropped; of three at once one is stopped and the others go to the scene they were given for',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'proof')
    const clip = {
      typicalDbfs: -26,
      noiseDbfsA: -66,
      loudestPeakDbfs: -6,
      lengthS: 10,
      rateHz: 48000,
      seed: 4,
    }
    const input = page.getByLabel('Clips', { exact: true })
    const kept = page.getByRole('list', { name: 'Clips of this scene' }).getByRole('listitem')

    // a real drop, as from a file manager
    const bytes = [...wavBytes([talkingClip({ ...clip, lengthS: 3 })], 48000, 16)]
    const dropped = await page.evaluateHandle((content) => {
      const transfer = new DataTransfer()
      transfer.items.add(new File([new Uint8Array(content)], 'dropped.wav', { type: 'audio/wav' }))
      return transfer
    }, bytes)
    for (const event of ['dragenter', 'dragover', 'drop'])
      await page.dispatchEvent('section.station', event, { dataTransfer: dropped })
    const second = page.locator('article', { hasText: 'dropped.wav' })
    await expect(second).toContainText('A test tone of 1000 Hz')
    await second.getByRole('button', { name: 'Forget' }).click()
    await expect(kept).toHaveCount(0)

    // three at once: one is stopped, the others are read, for the scene they were given for, wherever one goes meanwhile
    const long = wavBytes([talkingClip({ ...clip, lengthS: 60 })], 48000)
    await input.setInputFiles(
      ['first.wav', 'second.wav', 'third.wav'].map((name) => ({
        name,
        mimeType: 'audio/wav',
        buffer: Buffer.from(long),
      })),
    )
    const given = page.getByRole('list', { name: 'Clips being read' })
    await expect(given.getByRole('listitem')).toHaveCount(3)
    await page.getByRole('button', { name: 'Stop second.wav' }).click()
    await page.getByRole('combobox', { name: 'Scene' }).click()
    await page.getByRole('option', { name: 'The pour' }).click()
    await expect(kept).toHaveCount(0)
    await expect(given).toHaveCount(0)
    await expect(kept).toHaveCount(0)
    await page.getByRole('combobox', { name: 'Scene' }).click()
    await page.getByRole('option', { name: 'The founder at the bench' }).click()
    await expect(kept.filter({ hasText: 'first.wav' })).toHaveCount(1)
    await expect(kept.filter({ hasText: 'third.wav' })).toHaveCount(1)
    await expect(kept.filter({ hasText: 'second.wav' })).toHaveCount(0)
    for (const name of ['first.wav', 'third.wav']) {
      await kept.filter({ hasText: name }).getByRole('button').click()
      await page.getByRole('article', { name }).getByRole('button', { name: 'Forget' }).click()
    }
    await expect(kept).toHaveCount(0)
    await settled(page)
  },
)

test(
  'Proof: the stand-in card is asked what is in it, place by place, listened to, and looked at more closely',
  { tag: '@long' },
  async ({ page }) => {
    test.setTimeout(120_000)
    await open(page, 'proof', 2)
    await page.getByRole('button', { name: 'Measure the stand-in card' }).click()
    const list = page.getByRole('list', { name: 'Clips of this scene' })
    await expect(list.getByRole('listitem')).toHaveCount(7, { timeout: 90_000 })
    for (const [name, expected] of [
      [/C-0043/, 'Mains hum at 50 Hz'],
      [/F-0132/, 'Channel 2 has the opposite polarity to channel 1'],
      [/C-0044/, 'Automatic gain is on'],
      [/R-0007/, 'drops out in 2 places'],
      [/P-0009/, 'Peaks are cut flat below full scale'],
      [/F-0131/, 'clean'],
    ] as const)
      await expect(list.getByRole('button', { name })).toContainText(expected)

    // hum is seen in its spectrum, gain that rises in the levels
    await list.getByRole('button', { name: /C-0043/ }).click()
    await page.getByRole('button', { name: 'Show spectrum' }).click()
    const spectrum = page.getByRole('img', { name: /spectrum, .* with the mains of 50 Hz/ })
    await expect(spectrum).toContainText('line: in sight')
    await list.getByRole('button', { name: /C-0044/ }).click()
    await page.getByRole('button', { name: 'Show levels' }).click()
    await expect(page.getByRole('img', { name: /Channel 1: level from 0:00/ })).toContainText(
      'noise in the pauses',
    )

    // the clip whose first amplifier bent, from one place to the next
    await list.getByRole('button', { name: /C-0042/ }).click()
    const clip = page.getByRole('article', { name: 'camera C-0042.mov' })
    await expect(clip).toContainText('An early amplifier overloads')
    await clip.getByRole('button', { name: 'Next place: clipped' }).click()
    await expect(clip.getByRole('list', { name: 'Findings' })).toContainText(/1\/\d+ at 0:0/)
    const wave = clip.getByRole('img', { name: /Channel 1: wave from/ })
    await expect(wave).not.toHaveAccessibleName(/to 0:12/)
    const area = clip.getByRole('group', { name: /^Wave: / })
    await area.press('+')
    await area.press('0')
    await expect(wave).toHaveAccessibleName(/from 0:00\.0 to 0:12\.0/)
    await expect(clip.getByRole('row', { name: /loudest peak/ }).first()).toContainText('\u22127.8')

    // what it teaches goes into a copy of the camera, and the verdict on Levels is another
    const verdictBefore = await verdict(page).textContent()
    const lesson = clip.getByText(/Camera, first amplifier overloads at/).first()
    await expect(lesson).toContainText('not at \u221222.0 dBu')
    await clip.getByRole('button', { name: 'Accept', exact: true }).first().click()
    await expect(lesson).toHaveCount(0)
    await expect(verdict(page)).not.toHaveText(verdictBefore!)
    // undone where it was done, and no clip with it
    await page.keyboard.press('Control+z')
    await expect(verdict(page)).toHaveText(verdictBefore!)
    await expect(list.getByRole('listitem')).toHaveCount(7)
    await page.keyboard.press('Control+y')
    await expect(verdict(page)).not.toHaveText(verdictBefore!)

    await clip.getByRole('button', { name: 'Listen from here' }).click()
    await expect(clip.getByRole('button', { name: 'Stop' })).toBeVisible()
    await clip.getByRole('button', { name: 'Stop' }).click()
    await accessible(page)

    // what was measured outlives a reload; the sound stays on the card, unless it is kept
    await list.getByRole('button', { name: /F-0131/ }).click()
    await page.getByLabel('keep the sound in this browser').check()
    await list.getByRole('button', { name: /C-0042/ }).click()
    await settled(page)
    await page.reload()
    await expect(list.getByRole('listitem')).toHaveCount(7)
    await expect(page.getByText('Drop the clip again to look closer and to listen.')).toBeVisible()
    await list.getByRole('button', { name: /F-0131/ }).click()
    await expect(page.getByLabel('keep the sound in this browser')).toBeChecked()
    await page.getByRole('button', { name: 'Listen from here' }).click()
    await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible()
  },
)

test(
  'Proof: two recordings are compared blind, by their sound in step; findings go out as a table, data and a page',
  { tag: '@long' },
  async ({ page }) => {
    test.setTimeout(120_000)
    await open(page, 'roll')
    await page.getByRole('button', { name: /^Roll take/ }).click()
    await page.getByRole('button', { name: /Aircraft/ }).click()
    await page.getByRole('button', { name: 'End take' }).click()
    await open(page, 'proof')
    // what a second device made of the same moment: later, softer, with noise of its own
    const rateHz = 48_000
    const voice = speech({ lengthS: 12, rateHz, seed: 8, levelDbfs: -24, pitchHz: 120 }).samples
    const hiss = (seed: number) => amplifierNoise({ lengthS: 12, rateHz, seed, levelDbfs: -64 })
    const late = 1.5
    const second = mixed(
      voice.map((sample) => 0.4 * sample),
      hiss(4),
    ).slice(late * rateHz)
    await page.getByLabel('Clips', { exact: true }).setInputFiles([
      {
        name: 'near.wav',
        mimeType: 'audio/wav',
        buffer: Buffer.from(wavBytes([mixed(voice, hiss(3))], rateHz)),
      },
      { name: 'far.wav', mimeType: 'audio/wav', buffer: Buffer.from(wavBytes([second], rateHz)) },
    ])
    const list = page.getByRole('list', { name: 'Clips of this scene' })
    await expect(list.getByRole('listitem')).toHaveCount(2)
    await list.getByRole('button', { name: /near/ }).click()
    // the files were closed when the take ended, so they hold it, and what was marked in it
    await expect(page.getByRole('combobox', { name: 'Take' })).toHaveText('Take 1')
    await expect(page.getByRole('list', { name: 'Marked on Roll' })).toContainText('aircraft')
    await page.getByRole('button', { name: 'Compare', exact: true }).click()
    const panel = page.getByRole('region', { name: 'Compare' })
    await panel.getByRole('combobox', { name: 'Second' }).click()
    await page.getByRole('option', { name: 'far.wav' }).click()
    await expect(panel).toContainText('the second begins 1.500 s later than the first')
    await expect(panel.getByRole('img', { name: /Levels in thirds of an octave/ })).toBeVisible()
    await panel.getByRole('button', { name: 'Play' }).click()
    await panel.getByLabel('blind').check()
    await expect(panel.getByRole('img')).toHaveCount(0)
    await expect(panel.getByRole('radio')).toHaveText(['first', 'second'])
    const prefer = panel.getByRole('button', { name: 'I prefer this one' })
    for (let times = 0; times < 4; times++) await prefer.click()
    await expect(panel).toContainText('4 heard; the result appears after five')
    await prefer.click()
    await expect(panel).toContainText(
      /5 heard: \d for near\.wav, \d for far\.wav; (chance alone|that is no better than chance)/,
    )
    await accessible(page)
    await panel.press('Escape')
    await expect(panel).toHaveCount(0)

    const written = async (name: string) => {
      await page.getByRole('button', { name: 'Export' }).click()
      const [file] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('menuitem', { name }).click(),
      ])
      return readFileSync(await file.path())
    }
    expect((await written('A table of the findings')).toString()).toContain('near.wav,,clean')
    const data = MeasureAnswer.array().parse(JSON.parse((await written('All figures')).toString()))
    expect(new Set(data.map(({ clip }) => clip))).toEqual(new Set(['near.wav', 'far.wav']))
    for (const { against } of data) expect(against[0]!.figures.length).toBeGreaterThan(2)
    expect((await written('One page')).subarray(0, 5).toString()).toBe('%PDF-')
    for (const name of ['near.wav', 'far.wav']) {
      await list.getByRole('button', { name }).click()
      await page.getByRole('article', { name }).getByRole('button', { name: 'Forget' }).click()
    }
    await settled(page)
  },
)
