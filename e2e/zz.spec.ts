import { execSync } from 'node:child_process'
import { test } from './application'
import { open } from './steps'
test('look', async ({ page }) => {
  test.setTimeout(400_000)

  const rss = () =>
    execSync(
      "ps -eo rss,args | grep -- '--type=renderer' | grep -v grep | awk '{s+=$1; if($1>m)m=$1} END{print s/1024, m/1024}'",
    )
      .toString()
      .trim()
  await open(page, 'proof', 2)
  const files = page.getByLabel('Clips', { exact: true })
  for (const name of ['stereo.wav']) {
    console.log(name, 'before', rss())
    await page.evaluate(() => {
      const w = window as any
      w.t0 = 0
      w.t1 = 0
      document.querySelector('input[aria-label="Clips"]')!.addEventListener(
        'change',
        () => {
          w.t0 = performance.now()
          const o = () => {
            if (document.querySelector('.waiting path')?.getAttribute('d')) w.t1 = performance.now()
            else requestAnimationFrame(o)
          }
          o()
        },
        { once: true, capture: true },
      )
    })
    const t = Date.now()
    await files.setInputFiles('/tmp/sp/' + name)
    await page.waitForFunction(() => (window as any).t1 > 0)
    console.log(name, 'first wave ms', await page.evaluate(() => (window as any).t1 - (window as any).t0))
    let shot = false
    for (;;) {
      await page.waitForTimeout(name === 'stereo.wav' ? 1000 : 5000)
      const n = await page.locator('.waiting li').count()
      if (!n) break
      if (!shot && Date.now() - t > 3000) {
        shot = true
        await page.screenshot({ path: '/tmp/l1.png' })
      }
      console.log(
        ((Date.now() - t) / 1000).toFixed(0),
        rss(),
        await page
          .locator('.waiting .figure')
          .first()
          .innerText()
          .catch(() => ''),
      )
    }
    console.log(name, 'took', Date.now() - t, rss())
  }
  await page.screenshot({ path: '/tmp/l2.png' })
})
