import { createServer, request as ask } from 'node:http'
import type { AddressInfo } from 'node:net'
import { expect } from '@playwright/test'
import { ports } from './ports.ts'
import { expectAccessible, signInAs } from './steps.ts'
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

test('a view that is long in coming says so, and one that cannot be read says why', async ({ page }) => {
  await signInAs(page, 'Maren Achterberg')
  let fail = () => {}
  await page.route('**/api/workspace', async (route) => {
    await new Promise<void>((resolve) => {
      fail = resolve
    })
    await route.fulfill({ status: 500, contentType: 'application/problem+json', body: '{' })
  })
  await page.keyboard.press('9')
  const matter = page.getByRole('main')
  await expect(page.getByRole('heading', { name: 'Workspace', level: 1 })).toBeVisible()
  await expect(matter.getByRole('status')).toHaveText('Reading …')
  fail()
  await expect(matter.getByRole('alert')).toBeVisible()
  await expectAccessible(page)

  await page.unroute('**/api/workspace')
  await page.reload()
  await expect(matter.getByLabel('Name', { exact: true })).toHaveValue('Quillmere Light Advisers')
})

/** The program as it is behind a long line: what is changed arrives a second later, if whoever sent it is still there. */
function behindALongLine() {
  return createServer((asked, answer) => {
    let left = false
    answer.on('close', () => {
      left = !answer.writableEnded
    })
    const body: Buffer[] = []
    asked.on('data', (part) => body.push(part))
    asked.on('end', async () => {
      if (asked.method === 'PUT') await new Promise((resolve) => setTimeout(resolve, 1000))
      if (left) return
      const on = ask({ port: ports.corrim, path: asked.url, method: asked.method, headers: asked.headers }, (answered) => {
        answer.writeHead(answered.statusCode ?? 0, answered.headers)
        answered.pipe(answer)
      })
      on.end(Buffer.concat(body))
    })
  })
}

test('a change arrives though its page is left at once', async ({ page, context }) => {
  await context.unrouteAll() // what is held back here already goes with the page
  const line = behindALongLine().listen(0)
  const far = `http://localhost:${(line.address() as AddressInfo).port}`
  await page.goto(far)
  await page.getByRole('button', { name: 'Callum Whitlock' }).click()
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Callum Whitlock' }).click()
  const told = page.getByRole('checkbox', { name: 'A meeting was cancelled: Mail' })
  const sent = page.waitForRequest((asked) => asked.method() === 'PUT')
  const before = await told.isChecked()
  await told.click()
  await sent
  await page.goto('about:blank')
  await expect(async () => {
    await page.goto(`${far}/account`)
    await expect(told).toBeChecked({ checked: !before, timeout: 1000 })
  }).toPass()
  await told.click()
  await page.waitForResponse((answered) => answered.request().method() === 'PUT')
  line.close()
})
