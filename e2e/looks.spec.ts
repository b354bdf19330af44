import { deflateSync } from 'node:zlib'
import { expect } from '@playwright/test'
import { agree, expectAccessible, openPage, otherWindow, signInAs } from './steps.ts'
import { test } from './turned.ts'

/** A PNG of one colour (ISO/IEC 15948), so that no picture has to lie in the repository. */
function png(width: number, height: number, [r, g, b]: [number, number, number]): Buffer {
  const chunk = (name: string, data: Buffer) => {
    const body = Buffer.concat([Buffer.from(name), data])
    const out = Buffer.alloc(body.length + 8)
    out.writeUInt32BE(data.length)
    body.copy(out, 4)
    out.writeUInt32BE(crc(body), body.length + 4)
    return out
  }
  const header = Buffer.alloc(13)
  header.writeUInt32BE(width)
  header.writeUInt32BE(height, 4)
  header.set([8, 2, 0, 0, 0], 8)
  const row = Buffer.concat([Buffer.from([0]), Buffer.alloc(width * 3, Buffer.from([r, g, b]))])
  const pixels = deflateSync(Buffer.concat(Array.from({ length: height }, () => row)))
  return Buffer.concat([Buffer.from('89504e470d0a1a0a', 'hex'), chunk('IHDR', header), chunk('IDAT', pixels), chunk('IEND', Buffer.alloc(0))])
}

function crc(data: Buffer): number {
  let c = 0xffffffff
  for (const byte of data) {
    c ^= byte
    for (let k = 0; k < 8; k++) c = c & 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1
  }
  return (c ^ 0xffffffff) >>> 0
}

test('a workspace’s looks are tried at three widths, corrected to be readable, and published', async ({ page, context }) => {
  const act = () => getComputedStyle(document.documentElement).getPropertyValue('--color-act').trim()
  const client = await otherWindow(context)
  await openPage(client, 'daylight')
  const before = await client.evaluate(act)
  await signInAs(page, 'Ines Valadares')
  await page.getByRole('link', { name: 'Workspace' }).click()
  await page.getByRole('button', { name: 'Looks of your pages' }).click()
  const phone = page.frameLocator('iframe[title="Your page, 390 wide"]')
  await expect(phone.getByRole('heading', { level: 1 })).toHaveText('Quillmere Light Advisers')
  await page.getByLabel('Colour of what can be pressed').fill('#f3c623')
  await expect(page.getByText('can’t be read on our ground')).toBeVisible()
  await expect.poll(() => phone.locator('html').evaluate((html) => getComputedStyle(html).getPropertyValue('--color-act').trim())).not.toBe(before)
  await page.getByLabel('Logo: a PNG or JPEG').setInputFiles({ name: 'logo.png', mimeType: 'image/png', buffer: Buffer.from('<svg onload="alert(1)"/>') })
  await expect(page.getByText('This is no picture that can be shown here.')).toBeVisible()
  await page.getByLabel('Logo: a PNG or JPEG').setInputFiles({ name: '../../logo.png', mimeType: 'image/png', buffer: png(96, 48, [243, 198, 35]) })
  await expect(page.getByAltText('Logo as it is')).toBeVisible()
  await page.getByLabel('Banner: a PNG or JPEG').setInputFiles({ name: 'banner.png', mimeType: 'image/png', buffer: png(800, 120, [40, 60, 58]) })
  await expect(page.getByAltText('Banner as it is')).toBeVisible()
  const kept = page.waitForResponse(async (r) => r.url().endsWith('/looks/draft') && r.request().method() === 'PUT' && (await r.text()).includes('Reserve'))
  await page.getByLabel('On the button that books').fill('Reserve')
  await kept
  await expectAccessible(page, ['iframe'])

  // A draft: kept on the server, for other windows too, and not seen by clients yet.
  const elsewhere = await otherWindow(context)
  await signInAs(elsewhere, 'Ines Valadares')
  await elsewhere.goto('/workspace/looks')
  await expect(elsewhere.getByLabel('On the button that books')).toHaveValue('Reserve')
  await page.reload()
  await expect(page.getByLabel('On the button that books')).toHaveValue('Reserve')
  await client.reload()
  await expect(client.getByRole('group', { name: 'Days' })).toBeVisible()
  expect(await client.evaluate(act)).toBe(before)
  await page.getByRole('button', { name: 'Publish the looks' }).click()
  await expect(page.getByText('a draft; clients see the old looks')).toHaveCount(0)
  await client.reload()
  await client.getByRole('group', { name: 'Days' }).getByRole('button', { name: /\d open$/ }).first().click()
  await client.getByRole('region', { name: /^(Night|Morning|Afternoon|Evening)$/ }).getByRole('button').first().click()
  await expect(client.getByRole('button', { name: /^Reserve \d/ })).toBeVisible()
  expect(await client.evaluate(() => document.documentElement.scrollWidth > innerWidth), 'nothing runs out of the page').toBe(false)
  expect(await client.evaluate(act)).not.toBe(before)
  await expectAccessible(client)
  await client.emulateMedia({ colorScheme: 'dark' })
  await expectAccessible(client)
  await page.getByRole('button', { name: /^Undo: / }).click()
  await agree(page, 'Undo it')
  await expect(page.getByLabel('Colour of what can be pressed')).toHaveValue('')
  await client.emulateMedia({ colorScheme: 'light' })
  await client.reload()
  await expect(client.getByRole('group', { name: 'Days' })).toBeVisible()
  expect(await client.evaluate(act)).toBe(before)
})

test('a workspace’s short name, clock and language, and a photo of somebody', async ({ page, browser }) => {
  await signInAs(page, 'Ines Valadares')
  await page.getByRole('link', { name: 'Workspace' }).click()
  await page.getByLabel('Short name').fill('Quillmere Light Advisers')
  await page.getByLabel('Clock on pages').selectOption('12')
  await page.getByLabel('Language of pages').selectOption('fr')
  await expectAccessible(page)
  await page.getByRole('button', { name: /^Save/ }).click()
  await expect(page.getByText('A short name has at most 20 letters.')).toBeVisible()
  await page.getByLabel('Short name').fill('Light Advice')
  await page.getByRole('button', { name: /^Save/ }).click()
  await expect(page.getByText(/not saved/)).toHaveCount(0)
  // The host’s own views follow the clock; what a field and the server take doesn’t.
  await page.getByRole('link', { name: 'Board' }).click()
  await expect(page.locator('.ruler').first()).toContainText('10 am')
  await page.keyboard.press('n')
  await page.getByLabel('From', { exact: true }).fill('15:30')
  await expect(page.getByRole('button', { name: 'Book 3:30 pm' })).toBeVisible()
  await expectAccessible(page)
  await page.keyboard.press('Escape')
  await page.getByRole('link', { name: 'People' }).click()
  await page.getByRole('button', { name: 'Change Ines Valadares' }).click()
  await page.getByLabel('Photo: a PNG or JPEG').setInputFiles({ name: 'ines.png', mimeType: 'image/png', buffer: png(64, 64, [120, 90, 60]) })
  await expect(page.getByAltText('Photo as it is')).toBeVisible()
  await page.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(page.getByAltText('Photo as it is')).toHaveCount(0)

  // A browser that asks for Swedish gets French; its phone shows the short name, and times in halves of the day.
  const client = await (await browser.newContext({ viewport: { width: 390, height: 844 }, locale: 'sv-SE', timezoneId: 'Europe/Lisbon' })).newPage()
  await client.goto('/p/quillmere/loan-call')
  await expect(client.locator('html')).toHaveAttribute('lang', 'fr')
  await expect(client.getByRole('heading', { name: 'Vos coordonnées' })).toBeVisible()
  await expect(client.getByRole('banner').getByText('Light Advice', { exact: true })).toBeVisible()
  await expect(client.getByRole('button', { name: /^\d{1,2}:\d\d [ap]m/ }).first()).toBeVisible()
  expect(await client.evaluate(() => document.documentElement.scrollWidth > innerWidth), 'nothing runs out of the page').toBe(false)
  await expectAccessible(client)
  await client.goto('/p/quillmere/with/ines-valadares')
  await expect(client.getByRole('heading', { level: 1 }).locator('img')).toBeVisible()
  await expectAccessible(client)

  await page.getByRole('link', { name: 'Workspace' }).click()
  await page.getByRole('button', { name: /^Undo: / }).click()
  await agree(page, 'Undo it')
  await expect(page.getByLabel('Short name')).toHaveValue('Quillmere')
})
