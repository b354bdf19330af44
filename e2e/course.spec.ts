import { expect, type Page } from '@playwright/test'
import { worker } from './ports.ts'
import { dayAhead, expectAccessible, filesOf, fillDetails, invitationsOf, mailTo, openPage, openSessionsOf, otherWindow, signInAs } from './steps.ts'
import { test } from './turned.ts'

const mail = (name: string) => `${name.toLowerCase()}-${worker}@courses.example`

async function take(page: Page, listed: RegExp, name: string): Promise<void> {
  await openPage(page, 'evening-course')
  const dates = page.getByRole('list', { name: 'Dates' })
  await dates.getByRole('button', { name: listed }).filter({ hasText: '3 dates' }).click()
  await fillDetails(page, name, mail(name))
  await page.getByRole('radio', { name: 'Yes' }).check()
  await page.getByRole('button', { name: /^Book \d/ }).click()
}

test('a series is set, taken whole, given back date by date or at one go, and called off from a date on', async ({ page, request, context }) => {
  const [first, second, third] = [dayAhead(22), dayAhead(24), dayAhead(26)]
  const host = await otherWindow(context)
  await signInAs(host, 'Torvald Brekke')
  await openSessionsOf(host, 'Evening course')
  await host.getByLabel('When they are, on your clock').fill(`${first.iso}, ${second.iso}, ${third.iso} 21:15-22:45`)
  await host.getByRole('button', { name: 'Set 3 sessions anyway' }).click()
  const sessions = host.getByRole('link', { name: /21:15–22:45/ })
  await expect(sessions).toHaveCount(3)

  // Two clients at once: the page lists the series where it begins, with all its dates.
  await openPage(page, 'evening-course')
  await expect(page.getByText('A series is booked whole, with all its dates.')).toBeVisible()
  const dates = page.getByRole('list', { name: 'Dates' })
  await expect(dates.getByRole('button', { name: first.listed }).filter({ hasText: '3 dates' })).toContainText('6 seats left')
  await expectAccessible(page)
  await take(page, first.listed, 'Ivy')
  await expect(page.getByRole('heading', { name: 'Your 3 dates are booked.' })).toBeVisible()
  await expectAccessible(page)
  const other = await otherWindow(context)
  await take(other, first.listed, 'Juniper')
  await expect(other.getByRole('heading', { name: 'Your 3 dates are booked.' })).toBeVisible()
  await mailTo(request, mail('Ivy'), 1)

  // Ivy gives back the second date alone, then all the others.
  await page.getByRole('link', { name: second.listed }).click()
  await expect(page.getByRole('heading', { name: 'Your meeting', exact: true })).toBeVisible()
  await expect(page.getByText('one of a series, which is taken whole')).toBeVisible()
  await page.getByRole('button', { name: 'Cancel this meeting' }).click()
  await page.getByRole('button', { name: 'Cancel the meeting' }).click()
  await expect(page.getByRole('heading', { name: 'This meeting is cancelled.' })).toBeVisible()
  await page.getByRole('link', { name: third.listed }).click()
  await expect(page.getByText('given back')).toBeVisible()
  await page.getByRole('button', { name: 'Cancel all 2 dates' }).click()
  await expect(page.getByRole('heading', { name: 'Cancel all 2 dates?' })).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Cancel all 2 dates' }).click()
  await expect(page.getByRole('heading', { name: 'This meeting is cancelled.' })).toBeVisible()
  await mailTo(request, mail('Ivy'), 3)

  // Somebody joins for what is left of it, and the host calls it off from the second date on: each gets one mail.
  await openSessionsOf(host, 'Evening course')
  await sessions.nth(1).click()
  const sheet = host.getByRole('dialog', { name: 'Evening course' })
  await expect(sheet).toContainText('Date 2 of 3')
  await sheet.getByRole('button', { name: 'Add somebody' }).click()
  const add = sheet.getByRole('form', { name: 'Add somebody' })
  await add.getByLabel('Client').fill('Kale')
  await add.getByLabel('Mail').fill(mail('Kale'))
  await add.getByLabel('And the date after it').check()
  await add.getByRole('button', { name: 'Give a seat' }).click()
  await expect(sheet.getByRole('list', { name: 'Who comes' })).toContainText('Kale')
  await mailTo(request, mail('Kale'), 1)
  await sheet.getByRole('button', { name: 'Call off' }).click()
  await sheet.getByLabel('And the date after it; whoever comes to them is told too').check()
  await expectAccessible(host)
  await sheet.getByLabel('Message to all').fill('The meters are away.')
  await sheet.getByRole('button', { name: 'Call off this session' }).click()
  await expect(sheet).toHaveCount(0)
  await mailTo(request, mail('Kale'), 2)
  await mailTo(request, mail('Juniper'), 2)
  await openSessionsOf(host, 'Evening course')
  await expect(sessions).toHaveCount(1)

  // The same again for a new term: the sentence stands there, to be changed.
  const together = host.getByRole('region', { name: 'Set together' })
  await together.getByRole('listitem').first().getByRole('button', { name: /Set again/ }).click()
  await expect(host.getByLabel('When they are, on your clock')).toHaveValue(/21:15-22:45/)
  await expect(host.getByRole('list', { name: 'Dates as they are understood' }).getByRole('listitem')).toHaveCount(3)
  await expectAccessible(host)
  await together.getByRole('listitem').first().getByRole('button', { name: /Add dates/ }).click()
  await expect(host.getByText(/These dates are added to the series from/)).toBeVisible()

  await sessions.click()
  await sheet.getByRole('button', { name: 'Call off' }).click()
  await sheet.getByRole('button', { name: 'Call off this session' }).click()
  await expect(sheet).toHaveCount(0)
})

test('a client takes seats for others too, who are asked what everybody is asked', async ({ page, request, context }) => {
  const [first, second] = [dayAhead(27), dayAhead(29)]
  const host = await otherWindow(context)
  await signInAs(host, 'Torvald Brekke')
  await openSessionsOf(host, 'Evening course')
  await host.getByLabel('When they are, on your clock').fill(`${first.iso}, ${second.iso} 20:35-22:05`)
  await host.getByRole('button', { name: 'Set 2 sessions anyway' }).click()
  await expect(host.getByRole('link', { name: /20:35–22:05/ })).toHaveCount(2)

  await openPage(page, 'evening-course')
  await page.getByRole('list', { name: 'Dates' }).getByRole('button', { name: first.listed }).filter({ hasText: '2 dates' }).click()
  await fillDetails(page, 'Laurel', mail('Laurel'))
  await page.getByRole('radio', { name: 'Yes' }).first().check()
  await page.getByRole('button', { name: 'Bring somebody' }).click()
  const along = page.getByRole('group', { name: 'Person 1 who comes along' })
  await expect(along.getByLabel('Name of whoever comes along')).toBeFocused()
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(along.getByText('Enter the name of whoever comes along.')).toBeVisible()
  await along.getByLabel('Name of whoever comes along').fill('Myrtle')
  await along.getByLabel('Their mail address').fill(mail('Myrtle'))
  await along.getByRole('radio', { name: 'No' }).check()
  await expectAccessible(page)
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByRole('heading', { name: 'Your 2 dates are booked.' })).toBeVisible()
  await expect(page.getByText(/· Myrtle/).first()).toBeVisible()
  const [laurels] = await mailTo(request, mail('Laurel'), 1)
  const [myrtles] = await mailTo(request, mail('Myrtle'), 1)

  // Read by ical.js: an invitation for each date and person, with nobody else's address in it (RFC 5546, 3.2.2: one UID, its attendees).
  const invitations = [await invitationsOf(request, laurels?.path ?? ''), await invitationsOf(request, myrtles?.path ?? '')]
  for (const [i, name] of ['Laurel', 'Myrtle'].entries()) {
    expect(invitations[i]).toHaveLength(2)
    for (const { event } of invitations[i] ?? [])
      expect(event.attendees.map((attendee) => attendee.getFirstValue())).toEqual([`mailto:${mail(name)}`])
    expect(invitations[i]?.map(({ text }) => text.replaceAll('\r\n ', '')).join()).not.toContain(mail(i === 0 ? 'Myrtle' : 'Laurel'))
  }
  expect(new Set(invitations.flat().map(({ event }) => event.uid)).size).toBe(4)
  expect(new Set(invitations.flat().map(({ event }) => event.startDate.toString())).size).toBe(2)

  // And one file with all of Myrtle's dates, in which nothing of Laurel's stands.
  const all = (await filesOf(request, myrtles?.path ?? '')).filter((text) => text.includes('METHOD:PUBLISH'))
  expect(all).toHaveLength(1)
  expect(all[0]?.split('BEGIN:VEVENT')).toHaveLength(1 + 2)
  expect(all[0]?.replaceAll('\r\n ', '')).not.toContain(mail('Laurel'))

  // The host reads who took whose seat.
  await host.reload()
  await host.getByRole('link', { name: /20:35–22:05/ }).first().click()
  const sheet = host.getByRole('dialog', { name: 'Evening course' })
  await expect(sheet.getByRole('list', { name: 'Who comes' }).getByRole('listitem').filter({ hasText: 'Myrtle' })).toContainText('with Laurel')

  // Myrtle's link is hers alone; she gives both of her seats to Nigella, whom the page refuses without an address first.
  const hers = await otherWindow(context)
  await hers.goto((await page.getByRole('link', { name: /· Myrtle/ }).first().getAttribute('href')) ?? '')
  await expect(hers.getByText(/Laurel/)).toHaveCount(0)
  await hers.getByRole('button', { name: 'Give my seat to somebody' }).click()
  await hers.getByLabel('Their name').fill('Nigella')
  await hers.getByRole('button', { name: 'Give the seat' }).click()
  await expect(hers.getByText('Enter their mail address')).toBeVisible()
  await hers.getByLabel('Their mail address').fill(mail('Nigella'))
  await hers.getByLabel('All 2 of these seats').check()
  await expectAccessible(hers)
  await hers.getByRole('button', { name: 'Give the seat' }).click()
  await expect(hers.getByRole('heading', { name: 'Nigella has this seat now.' })).toBeVisible()
  await mailTo(request, mail('Myrtle'), 2)
  await mailTo(request, mail('Nigella'), 1)

  await page.reload()
  await page.getByRole('button', { name: 'Cancel all 2 seats' }).click()
  await page.getByRole('button', { name: 'Cancel all 2 seats' }).click()
  await expect(page.getByRole('heading', { name: 'This meeting is cancelled.' })).toBeVisible()
  await mailTo(request, mail('Laurel'), 2)
  await host.reload()
  await sheet.getByRole('button', { name: 'Call off' }).click()
  await sheet.getByLabel('And the date after it; whoever comes to them is told too').check()
  await sheet.getByRole('button', { name: 'Call off this session' }).click()
  await expect(sheet).toHaveCount(0)
})

test('whoever waits for a full series is offered all its dates at one go', async ({ page, request, context }) => {
  const [first, second] = [dayAhead(28), dayAhead(30)] // within the five weeks that a page shows first, on a Sunday too
  const host = await otherWindow(context)
  await signInAs(host, 'Torvald Brekke')
  await openSessionsOf(host, 'Evening course')
  await host.getByLabel('When they are, on your clock').fill(`${first.iso}, ${second.iso} 07:05-08:35`)
  await host.getByLabel('Seats').fill('2')
  await host.getByRole('button', { name: /^Set 2 sessions/ }).click()
  const sessions = host.getByRole('link', { name: /07:05–08:35/ })
  await expect(sessions).toHaveCount(2)
  await sessions.first().click()
  const sheet = host.getByRole('dialog', { name: 'Evening course' })
  for (const name of ['Oak', 'Pine']) {
    await sheet.getByRole('button', { name: 'Add somebody' }).click()
    const add = sheet.getByRole('form', { name: 'Add somebody' })
    await add.getByLabel('Client').fill(name)
    await add.getByLabel('Mail').fill(mail(name))
    await add.getByLabel('And the date after it').check()
    await add.getByRole('button', { name: 'Give a seat' }).click()
    await expect(sheet.getByRole('list', { name: 'Who comes' })).toContainText(name)
  }

  await openPage(page, 'evening-course')
  await page.getByRole('list', { name: 'Dates' }).getByRole('button', { name: first.listed }).filter({ hasText: '2 dates' }).click()
  await fillDetails(page, 'Quince', mail('Quince'))
  await page.getByRole('radio', { name: 'Yes' }).check()
  await page.getByRole('button', { name: 'Join the waiting list', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'You are on the waiting list.' })).toBeVisible()
  await expect(page.getByText('Your dates')).toBeVisible()
  await mailTo(request, mail('Quince'), 1)

  // Oak can't come to either date: both are Quince's to take, with one press.
  await host.reload()
  await sheet.getByRole('button', { name: 'Oak' }).click()
  const oak = host.getByRole('dialog', { name: 'Oak' })
  await oak.getByRole('button', { name: 'Cancel this seat' }).click()
  await oak.getByLabel(/And the seat after it/).check()
  await oak.getByRole('button', { name: 'Cancel the meeting' }).click()
  await mailTo(request, mail('Quince'), 2)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'A place is free for you.' })).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Take the place' }).click()
  await expect(page.getByRole('heading', { name: 'Your 2 dates are booked.' })).toBeVisible()
  await mailTo(request, mail('Quince'), 3)

  await openSessionsOf(host, 'Evening course')
  await sessions.first().click()
  await sheet.getByRole('button', { name: 'Call off' }).click()
  await sheet.getByLabel('And the date after it; whoever comes to them is told too').check()
  await sheet.getByRole('button', { name: 'Call off this session' }).click()
  await expect(sheet).toHaveCount(0)
})
