import { expect, test } from '@playwright/test'
import { expectAccessible } from './steps.ts'

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

    const drawn = await days.nth(0).boundingBox()
    await days.nth(1).click()
    await expect(days.nth(1)).toHaveAttribute('aria-pressed', 'false')
    go()
    await expect(page.getByRole('heading', { name: 'Your details' })).toBeVisible()
    await expect(days.nth(1)).toHaveAttribute('aria-pressed', 'true')
    await expect(days.nth(1)).toBeFocused()
    expect(await days.nth(0).boundingBox(), 'nothing has moved').toEqual(drawn)
  })
