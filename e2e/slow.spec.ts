import { expect } from '@playwright/test'
import { expectAccessible } from './steps.ts'
import { test } from './turned.ts'

for (const width of [1280, 390])
  test(`open times stand there before the page lives, and a press on them counts, ${width} wide`, async ({ page }) => {
    await page.setViewportSize({ width, height: 844 })
    let go = () => {}
    const held = new Promise<void>((resolve) => {
      go = resolve
    })
    await page.route('**/assets/main-*.js', async (route) => {
      await held
      await route.continue()
    })
    const asked: string[] = []
    page.on('request', (request) => asked.push(new URL(request.url()).pathname))
    await page.goto('/p/quillmere/daylight', { waitUntil: 'commit' })
    const days = page.getByRole('group', { name: 'Days' }).getByRole('button', { name: /\d open$/ })
    await expect(days.first()).toBeVisible()
    await expect(page.getByRole('region', { name: /^(Night|Morning|Afternoon|Evening)$/ }).first()).toBeVisible()
    await expect(page.getByRole('heading', { name: 'Your details' })).toHaveCount(0)
    await expectAccessible(page)
    expect(asked.filter((path) => path.startsWith('/api/'))).toEqual([])

    // Which other day doesn't matter, nor whether it has open times: journeys before this one may have taken them.
    const other = page.getByRole('group', { name: 'Days' }).locator('button[aria-pressed=false]:enabled').last()
    const name = (await other.getAttribute('aria-label')) ?? ''
    await other.click()
    await expect(other).toHaveAttribute('aria-pressed', 'false')
    const pressed = page.getByRole('button', { name, exact: true })
    const drawn = await pressed.boundingBox()
    go()
    await expect(page.getByRole('heading', { name: 'Your details' })).toBeVisible()
    await expect(pressed).toHaveAttribute('aria-pressed', 'true')
    await expect(pressed).toBeFocused()
    expect(await pressed.boundingBox(), 'nothing has moved').toEqual(drawn)
  })
