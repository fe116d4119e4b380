import { expect } from '@playwright/test'
import { test } from './application'
import { accessible, open, settled, verdict } from './steps'

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

test('Brief: a microphone is dragged on the plan, and moved by keys', { tag: '@long' }, async ({ page }) => {
  await open(page, 'brief')
  const boom = page.getByRole('slider', { name: 'Distance of boom' })
  await expect(boom).toHaveAttribute('aria-valuetext', '45 cm')
  const before = await verdict(page).textContent()
  const from = (await boom.boundingBox())!
  const [x, y] = [from.x + from.width / 2, from.y + from.height / 2]
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + 90, y - 40, { steps: 6 })
  await page.mouse.up()
  await expect.poll(async () => Number(await boom.getAttribute('aria-valuenow'))).toBeGreaterThan(0.6)
  await expect(verdict(page)).not.toHaveText(before!)
  const dragged = Number(await boom.getAttribute('aria-valuenow'))
  await expect(page.getByRole('spinbutton', { name: /boom/ }).first()).toHaveValue(/.+/)
  await page.keyboard.press('Control+z')
  await expect(boom).toHaveAttribute('aria-valuetext', '45 cm')
  await boom.focus()
  await page.keyboard.press('Shift+ArrowUp')
  await page.keyboard.press('ArrowDown')
  await expect(boom).toHaveAttribute('aria-valuetext', '90 cm')
  expect(dragged).toBeLessThan(5)
  await settled(page)
})

test(
  'Brief: a field takes what people type; what it cannot use stays in sight and changes nothing',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'brief')
    const typed = async (label: string, text: string) => {
      const field = page.getByRole('spinbutton', { name: label })
      await field.fill(text)
      await page.keyboard.press('Tab')
      return field
    }
    for (const [label, text, shown] of [
      ['Level of fans', '49,5', '49.5 dB(A)'],
      ['Quietest', '44.5 dB', '44.5 dB(A)'],
      ['Typical level', '62,5', '62.5 dB(A)'],
      ['Distance of boom from above', '55 cm', '0.55 m'],
      ['Reverberation', '700 ms', '0.7 s'],
    ] as const)
      await expect(await typed(label, text)).toHaveValue(shown)
    await expect(await typed('Focal length', 'wide')).toHaveValue('wide')
    await expect(page.getByRole('alert')).toHaveText('Type a number in mm; it stays 35 mm.')
    await expect(await typed('Level of fans', '')).toHaveValue('')
    await page.keyboard.press('Escape')
    await settled(page)
    await page.reload()
    await expect(page.getByRole('spinbutton', { name: 'Level of fans' })).toHaveValue('49.5 dB(A)')
    await expect(page.getByRole('spinbutton', { name: 'Focal length' })).toHaveValue('35 mm')
  },
)

test(
  'what the brief holds is added, named and removed there, and undone',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'brief')
    await page.getByText('Sources, noises and places').click()
    const heard = page.getByRole('region', { name: 'Who or what is heard' })
    const names = heard.getByRole('textbox')
    await heard.getByRole('button', { name: 'speaker' }).click()
    await expect(names).toHaveCount(2)
    await names.last().fill('the smith')
    await names.last().blur()
    await expect(page.getByRole('combobox', { name: 'Who or what' })).toBeVisible()
    await expect(verdict(page)).toContainText(/dB/)
    await heard.getByRole('button', { name: 'Remove the smith' }).click()
    await expect(names).toHaveCount(1)
    await heard.getByRole('button', { name: 'line feed' }).click()
    await expect(verdict(page)).toContainText(/Not recorded: new line feed\. .*\. Speech-to-noise/)
    await heard.getByRole('button', { name: 'Remove new line feed' }).click()
    await expect(verdict(page)).not.toContainText('Not recorded')
    const noises = page.getByRole('region', { name: 'Noises of the place' })
    await noises.getByRole('button', { name: 'noise', exact: true }).click()
    await expect(noises.getByRole('textbox', { name: 'Name of new noise' })).toBeVisible()
    await page.getByRole('button', { name: 'Undo' }).click()
    await expect(noises.getByRole('textbox', { name: 'Name of new noise' })).toHaveCount(0)
    await noises.getByRole('button', { name: 'noise', exact: true }).click()
    await noises.getByRole('button', { name: 'Remove new noise' }).click()
    await expect(noises.getByRole('textbox', { name: 'Name of new noise' })).toHaveCount(0)
    const places = page.getByRole('region', { name: 'Places for microphones' })
    await places.getByRole('button', { name: 'place', exact: true }).click()
    await places.getByRole('textbox', { name: 'Name of new place' }).fill('by the anvil')
    await places.getByRole('textbox', { name: 'Name of new place' }).blur()
    await expect(places.getByRole('textbox', { name: 'Name of by the anvil' })).toBeVisible()
    await accessible(page)
    await places.getByRole('button', { name: 'Remove by the anvil' }).click()
    await expect(places.getByRole('textbox', { name: 'Name of by the anvil' })).toHaveCount(0)
    // the lapel microphone stands there and goes on without a place
    await places.getByRole('button', { name: /^Remove lapel/ }).click()
    await expect(places.getByRole('textbox')).toHaveCount(1)
    await settled(page)
  },
)

test(
  'a line feed that the brief names is carried by a desk, and let go of when the brief drops it',
  { tag: '@long' },
  async ({ page }) => {
    await open(page, 'brief')
    await page.getByText('Sources, noises and places').click()
    const heard = page.getByRole('region', { name: 'Who or what is heard' })
    await heard.getByRole('button', { name: 'line feed' }).click()
    await expect(verdict(page)).toContainText('Not recorded: new line feed.')
    await page.getByRole('link', { name: /Patch/ }).click()
    await page.getByRole('button', { name: 'Add a box' }).click()
    const adding = page.getByRole('complementary', { name: 'Add to the chain' })
    await adding.getByRole('combobox', { name: 'What' }).click()
    await page.getByRole('option', { name: 'House desk (desk, not owned)' }).click()
    await adding.getByRole('button', { name: 'Add', exact: true }).click()
    const desk = page.getByRole('complementary', { name: 'Selected box' })
    const carries = desk.getByRole('combobox', { name: 'Line feed it carries' })
    await expect(carries).toHaveText('new line feed')
    await expect(verdict(page)).toContainText(
      'The microphone that picks it up is not connected to a recording.',
    )
    await carries.click()
    await page.getByRole('option', { name: 'nothing' }).click()
    await expect(verdict(page)).toContainText('It feeds no box of the chain.')
    await carries.click()
    await page.getByRole('option', { name: 'new line feed' }).click()
    await expect(verdict(page)).toContainText(
      'The microphone that picks it up is not connected to a recording.',
    )
    await page.getByRole('link', { name: /Brief/ }).click()
    await page.getByText('Sources, noises and places').click()
    await heard.getByRole('button', { name: 'Remove new line feed' }).click()
    await expect(verdict(page)).not.toContainText('Not recorded')
    await settled(page)
  },
)
