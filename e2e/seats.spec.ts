import { expect, type Page } from '@playwright/test'
import { worker } from './ports.ts'
import { chooseDay, expectAccessible, fillDetails, find, mailTo, ofType, openPage, otherWindow, signInAs } from './steps.ts'
import { test } from './turned.ts'

const mail = (name: string) => `${name.toLowerCase()}-${worker}@seats.example`

/** Books the first time of a day far off and returns the booking's path and how the time was called. */
async function bookSeat(page: Page, name: string, day: number, time: RegExp | number): Promise<{ path: string; clock: string }> {
  await openPage(page, 'loan-call-americas')
  const times = await chooseDay(page, day)
  const chosen = typeof time === 'number' ? times.nth(time) : times.filter({ hasText: time }).first()
  const clock = ((await chosen.textContent()) ?? '').slice(0, 5)
  await chosen.click()
  await fillDetails(page, name, mail(name))
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  return { path: new URL(page.url()).pathname, clock }
}

test('clients share a time until it is full; one gives the seat back, and the host cancels the rest', async ({ page, request, context }) => {
  // The host lets two clients share a time.
  const host = await otherWindow(context)
  await signInAs(host, 'Callum Whitlock')
  await openType(host)
  await host.getByLabel('How many clients share a time').selectOption({ label: 'Clients share a time' })
  await host.getByLabel('Clients at most').fill('2')
  await expectAccessible(host)
  await host.getByRole('button', { name: 'Save changes' }).click()
  await expect(host.getByText('not saved')).toHaveCount(0)

  // Whoever finds a time full can wait for it.
  await host.getByRole('link', { name: 'Booking page' }).click()
  await host.getByLabel('What becomes of clients when a time is full').selectOption('first')
  await host.getByRole('button', { name: 'Save changes' }).click()
  await expect(host.getByText('not saved')).toHaveCount(0)

  // Two browsers at once: one is the first, the other joins, a third finds it full.
  const first = await bookSeat(page, 'Quince', 10, 2)
  const other = await otherWindow(context)
  await openPage(other, 'loan-call-americas')
  await expect(other.getByText('Up to 2 people share a time.')).toBeVisible()
  const shared = (await chooseDay(other, 10)).filter({ hasText: '1 seat left' })
  await expect(shared).toHaveCount(1)
  await expectAccessible(other)
  await shared.click()
  await fillDetails(other, 'Medlar', mail('Medlar'))
  await other.getByRole('button', { name: /^Book \d/ }).click()
  await expect(other.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  await openPage(page, 'loan-call-americas')
  await chooseDay(page, 10)
  const full = page.getByRole('region', { name: 'Full times' }).getByRole('button', { name: new RegExp(`^${first.clock}`) })
  await expect(page.getByRole('button', { name: new RegExp(`^${first.clock}`) })).toHaveCount(1)
  await full.click()
  await expectAccessible(page)
  await fillDetails(page, 'Damson', mail('Damson'))
  await page.getByRole('button', { name: 'Join the waiting list', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'You are on the waiting list.' })).toBeVisible()
  await mailTo(request, mail('Damson'), 1)

  // The first gives the seat back; the other one's meeting stands.
  await page.goto(first.path)
  await page.getByRole('button', { name: 'Cancel this meeting' }).click()
  await page.getByRole('button', { name: 'Cancel the meeting' }).click()
  await expect(page.getByRole('heading', { name: 'This meeting is cancelled.' })).toBeVisible()
  await other.reload()
  await expect(other.getByRole('heading', { name: 'Your meeting' })).toBeVisible()
  await mailTo(request, mail('Damson'), 2) // there is a seat, for whoever is first

  // The host sees who comes, and cancels for all.
  await host.goto('/')
  await expect(host.getByRole('navigation', { name: 'Views' })).toBeVisible()
  await find(host, 'Medlar')
  await host.getByRole('option', { name: /Bookings$/ }).first().click()
  const sheet = host.getByRole('dialog', { name: 'Medlar' })
  await expect(sheet.getByRole('list', { name: 'Who comes' })).toContainText('Quince')
  await expect(sheet).toContainText('1 of 2 seats taken')
  const saved = host.waitForEvent('download')
  await sheet.getByRole('link', { name: 'Save the list as CSV' }).click()
  expect((await saved).suggestedFilename()).toBe('participants.csv')
  await expectAccessible(host)
  await sheet.getByRole('button', { name: /^Cancel/ }).first().click()
  await sheet.getByLabel('Message to the client').fill('We are moving house.')
  await sheet.getByRole('button', { name: 'Cancel the meeting' }).click()
  await mailTo(request, mail('Medlar'), 2)

  await openType(host)
  await host.getByLabel('How many clients share a time').selectOption({ label: 'One client has the time alone' })
  await host.getByRole('button', { name: 'Save changes' }).click()
  await expect(host.getByText('not saved')).toHaveCount(0)
})

/** Opens the type whose clients are to share a time. */
async function openType(page: Page): Promise<void> {
  await page.goto('/types')
  await page.getByRole('button', { name: 'Loan condition call, Americas', exact: true }).click()
}

test('the clinic of the demo shows its filling to clients and to its host', async ({ page }) => {
  await openPage(page, 'lux-clinic')
  await expect(page.getByText('Up to 8 people share a time.')).toBeVisible()
  await signInAs(page, 'Callum Whitlock')
  await page.goto('/')
  const clinic = page.getByRole('article', { name: /Oaxaca Loom Museum \+\d/ })
  await expect(clinic).toContainText('of 8 seats taken')
  await expectAccessible(page)

  // In the ledger a meeting counts once, or once for each of its clients.
  await page.goto('/types')
  await ofType(page, 'Lux meter clinic', 'Hosts')
  const given = page.getByRole('region', { name: /Ledger/ }).getByRole('row').filter({ hasText: 'Callum' }).getByRole('cell').nth(3)
  const meetings = Number(await given.textContent())
  const counts = page.getByLabel('how shared meetings count')
  for (const counted of ['once for each client', 'once']) {
    await counts.selectOption({ label: counted })
    await page.getByRole('button', { name: 'Save changes' }).click()
    await expect(page.getByText('not saved')).toHaveCount(0)
    if (counted === 'once') await expect(given).toHaveText(String(meetings))
    else await expect.poll(async () => Number(await given.textContent())).toBeGreaterThan(meetings)
  }
})
