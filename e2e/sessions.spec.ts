import { expect, type Page, test } from '@playwright/test'
import { worker } from './ports.ts'
import { expectAccessible, fillDetails, mailTo, openPage, otherWindow, signInAs } from './steps.ts'

const mail = (name: string) => `${name.toLowerCase()}-${worker}@sessions.example`

/** A date so many days from now, as ISO and as it is listed. */
function dayAhead(days: number): { iso: string; listed: RegExp } {
  const at = new Date(Date.now() + days * 86_400_000)
  const month = at.toLocaleString('en', { month: 'long', timeZone: 'UTC' })
  return { iso: at.toISOString().slice(0, 10), listed: new RegExp(`${at.getUTCDate()} ${month}`) }
}

/** Maren's sessions of the workshop. */
async function openSessions(page: Page): Promise<void> {
  await page.goto('/types')
  await page.getByRole('button', { name: 'Dimming workshop', exact: true }).click()
  await page.getByRole('navigation', { name: 'Parts of Dimming workshop' }).getByRole('link', { name: 'Sessions' }).click()
  await expect(page.getByRole('heading', { name: 'Coming sessions' })).toBeVisible()
}

test('sessions are set by a sentence, booked, filled by hand, moved and called off', async ({ page, request, context }) => {
  const [first, second] = [dayAhead(25), dayAhead(26)]
  const host = await otherWindow(context)
  await signInAs(host, 'Maren Achterberg')
  await openSessions(host)

  // What can't be read is said, and what stands in the way is named per date before anything is set.
  const when = host.getByLabel('When they are, on your clock')
  await when.fill('some Tuesdays')
  await expect(host.getByText("“some”: this isn't understood here")).toBeVisible()
  await when.fill(`${first.iso}, ${second.iso} 20:15`)
  const read = host.getByRole('list', { name: 'Dates as they are understood' })
  await expect(read.getByRole('listitem')).toHaveCount(2)
  await expect(read.getByRole('listitem').first()).toContainText('20:15')
  await expect(read).toContainText(/hours|open/i)
  await expectAccessible(host)
  await host.getByRole('button', { name: 'Set 2 sessions anyway' }).click()
  await expect(host.getByRole('link', { name: /20:15–21:45/ })).toHaveCount(2)
  await expect(when).toHaveValue('')

  // A client finds the dates in a list, the full one among them, and books one.
  await openPage(page, 'dimming-workshop')
  await expect(page.getByText('Up to 4 people take part each time.')).toBeVisible()
  const dates = page.getByRole('list', { name: 'Dates' })
  await expect(dates.getByRole('listitem').filter({ hasText: 'full' }).first()).toBeVisible()
  await expectAccessible(page)
  await dates.getByRole('button', { name: first.listed }).filter({ hasText: '4 seats left' }).click()
  await fillDetails(page, 'Sorrel', mail('Sorrel'))
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()

  // The host sees it, adds somebody by hand, and moves the session: both are told.
  await host.reload()
  await host.getByRole('link', { name: /20:15–21:45/ }).first().click()
  const sheet = host.getByRole('dialog', { name: 'Dimming workshop' })
  await expect(sheet.getByRole('list', { name: 'Who comes' })).toContainText('Sorrel')
  await sheet.getByRole('button', { name: 'Add somebody' }).click()
  const add = sheet.getByRole('form', { name: 'Add somebody' })
  await add.getByLabel('Client').fill('Sorrel again')
  await add.getByLabel('Mail').fill(mail('Sorrel').toUpperCase())
  await add.getByRole('button', { name: 'Give a seat' }).click()
  await expect(add).toContainText('Sorrel has a seat in it already')
  await add.getByLabel('Client').fill('Tansy')
  await add.getByLabel('Mail').fill(mail('Tansy'))
  await add.getByRole('button', { name: 'Give a seat' }).click()
  await expect(sheet.getByRole('list', { name: 'Who comes' })).toContainText('Tansy')
  await mailTo(request, mail('Tansy'), 1)
  await expectAccessible(host)

  // Called off, it says before who is told.
  await sheet.getByRole('button', { name: 'Call off' }).click()
  await expect(sheet).toContainText('Sorrel, Tansy are told.')
  await sheet.getByLabel('Message to all').fill('The dark room is flooded.')
  await sheet.getByRole('button', { name: 'Call off this session' }).click()
  await expect(sheet).toHaveCount(0)
  await mailTo(request, mail('Sorrel'), 2)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'This meeting is cancelled.' })).toBeVisible()

  // The other one, which nobody booked, is called off too.
  await openSessions(host)
  await host.getByRole('link', { name: /20:15–21:45/ }).click()
  await sheet.getByRole('button', { name: 'Call off' }).click()
  await expect(sheet).toContainText('Nobody has a seat in it.')
  await sheet.getByRole('button', { name: 'Call off this session' }).click()
  await openSessions(host)
  await expect(host.getByRole('link', { name: /20:15–21:45/ })).toHaveCount(0)
})
