import { test } from './application'
import { open } from './steps'
test('look', async ({ page }) => {
  await open(page, 'levels')
  await page.setViewportSize({ width: 768, height: 1024 })
  await page.waitForTimeout(1200)
  await page.screenshot({ path: `/tmp/look-a.png` })
  console.log(
    await page.evaluate(() =>
      [...document.querySelectorAll('input')]
        .map((i) => i.outerHTML.slice(0, 160) + ' in ' + i.parentElement!.outerHTML.slice(0, 100))
        .join('\n'),
    ),
  )
})
