import { expect, type Page, test } from '@playwright/test'
import { chooseDay, fillDetails, openPage, signInAs } from './steps.ts'

async function take(page: Page, name: string): Promise<void> {
  await page.evaluate(() => document.fonts.ready)
  await page.screenshot({ path: `../docs/screenshots/${name}.png`, animations: 'disabled' })
}

test('the host’s views', async ({ browser }) => {
  const page = await (await browser.newContext({ timezoneId: 'Europe/Lisbon' })).newPage()
  await signInAs(page, 'Ines Valadares')
  await expect(page.getByRole('article').first()).toBeVisible()
  await take(page, 'today')
  await page.goto('/types/1')
  await page.getByLabel('Buffer after in minutes').fill('30')
  await expect(page.getByText(/−\d+ lost/)).toBeVisible()
  await page.getByRole('heading', { level: 1 }).click()
  await take(page, 'meeting-type')
  await page.goto('/hours')
  await page.getByRole('textbox', { name: /Wednesday/ }).fill('9-12, 1-6:30pm')
  await page.getByRole('textbox', { name: /Saturday/ }).fill('10-13')
  await expect(page.getByRole('button', { name: /Saturday 10:00/ })).toBeVisible()
  await take(page, 'hours')
  await page.goto('/calendars')
  await expect(page.getByText('Family')).toBeVisible()
  await take(page, 'calendars')
})

test('the client’s page', async ({ page, browser }) => {
  await openPage(page, 'loan-call')
  await (await chooseDay(page, 5)).nth(3).click()
  await fillDetails(page, 'Oluwaseun Adeyemi-Clarke', 'oluwaseun@harbourmaritime.example')
  await take(page, 'client')
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 }, timezoneId: 'America/Halifax' })).newPage()
  await openPage(phone, 'loan-call')
  await (await chooseDay(phone, 1)).nth(2).click()
  await take(phone, 'client-phone')
})
