import { expect, type Locator, type Page } from '@playwright/test'
import { worker } from './ports.ts'
import { dayAhead, expectAccessible, fillDetails, mailTo, openPage, openSessionsOf, otherWindow, signInAs } from './steps.ts'
import { test } from './turned.ts'

const mail = (name: string) => `${name.toLowerCase()}-${worker}@sessions.example`

test('sessions are set by a sentence and by drawing, booked, filled by hand, moved and called off', async ({ page, request, context }) => {
  const [first, second] = [dayAhead(25), dayAhead(26)]
  const host = await otherWindow(context)
  await signInAs(host, 'Maren Achterberg')
  await openSessionsOf(host, 'Dimming workshop')

  // What can't be read is said, and what stands in the way is named per date before anything is set.
  const when = host.getByLabel('When they are, on your clock')
  await when.fill('some Tuesdays')
  await expect(host.getByText("“some”: this isn't understood here")).toBeVisible()
  await when.fill(`${first.iso} 20:15`)
  const read = host.getByRole('list', { name: 'Dates as they are understood' })
  await expect(read.getByRole('listitem')).toHaveCount(1)

  // The second is drawn; the sentence says both.
  await host.getByRole('button', { name: 'Draw them on days' }).click()
  await expect(host.getByRole('list', { name: 'Picked times' }).getByRole('listitem')).toHaveCount(1)
  await host.getByLabel('Day', { exact: true }).fill(second.iso)
  await host.getByLabel('Time', { exact: true }).fill('20:15')
  await host.getByRole('button', { name: 'Add this time' }).click()
  await expect(when).toHaveValue(/, .* 20:15-21:45$/)
  await expect(read.getByRole('listitem')).toHaveCount(2)
  await expect(read.getByRole('listitem').first()).toContainText('20:15')
  await expect(read).toContainText(/hours|open/i)
  await host.getByLabel('Seats').fill('1')
  await expect(host.getByText('What several share has 2 to 1000 seats.')).toBeVisible()
  await host.getByLabel('Seats').fill('3')
  await expectAccessible(host)
  await host.getByRole('button', { name: 'Set 2 sessions anyway' }).click()
  await expect(host.getByRole('link', { name: /20:15–21:45/ })).toHaveCount(2)
  await expect(when).toHaveValue('')

  // A client finds the dates in a list, the full one among them, and books one.
  await openPage(page, 'dimming-workshop')
  await expect(page.getByText('Up to 4 people take part each time.')).toBeVisible()
  const dates = page.getByRole('list', { name: 'Dates' })
  await expect(dates.getByRole('listitem').filter({ hasText: 'full' }).first()).toBeVisible()
  await expect(dates.getByRole('button', { name: first.listed }).filter({ hasText: '20:15' })).toContainText('3 seats left')
  await expectAccessible(page)
  await dates.getByRole('button', { name: first.listed }).filter({ hasText: '20:15' }).click() // another may be on that date
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

  // One seat more; and who comes, on paper.
  await sheet.getByRole('button', { name: 'Change the seats' }).click()
  await sheet.getByRole('spinbutton', { name: 'Seats' }).fill('1')
  await sheet.getByRole('button', { name: 'Set', exact: true }).click()
  await expect(sheet.getByText('What several share has 2 to 1000 seats.')).toBeVisible()
  await sheet.getByRole('spinbutton', { name: 'Seats' }).fill('4')
  await sheet.getByRole('button', { name: 'Set', exact: true }).click()
  await expect(sheet.getByText('2 of 4 seats taken')).toBeVisible()
  const paper = await host.context().newPage()
  await paper.goto((await sheet.getByRole('link', { name: 'Sheet to sign' }).getAttribute('href')) ?? '')
  await expect(paper.getByRole('row')).toHaveCount(6)
  await expect(paper.getByRole('cell', { name: 'Tansy' })).toBeVisible()
  await expectAccessible(paper)
  await paper.close()

  // What holds for this date only is told to both, and stands on their pages and beside the date.
  await sheet.getByRole('button', { name: 'Change the details' }).click()
  const details = sheet.getByRole('form', { name: 'Change the details' })
  await details.getByLabel('What clients read about this date').fill('Bring a torch.')
  await details.getByLabel('Location').selectOption({ label: 'at our own address' })
  await details.getByRole('button', { name: 'Save the details' }).click()
  await expect(details.getByText('Enter the address, and how to find it.')).toBeVisible()
  await expect(details).toContainText('Sorrel, Tansy are told.')
  await details.getByLabel('Address, and how to find it').fill('Rua do Farol 14')
  await expectAccessible(host)
  await details.getByRole('button', { name: 'Save the details' }).click()
  await expect(details).toHaveCount(0)
  await mailTo(request, mail('Sorrel'), 2)
  await page.reload()
  await expect(page.getByText('Bring a torch.')).toBeVisible()
  await expect(page.getByText('Rua do Farol 14')).toBeVisible()
  const other = await otherWindow(context)
  await openPage(other, 'dimming-workshop')
  await other.getByRole('list', { name: 'Dates' }).getByRole('button', { name: first.listed }).filter({ hasText: 'Bring a torch.' }).click()
  await expect(other.getByRole('heading', { level: 1 })).toContainText('at our address')
  await other.close()

  // Called off, it says before who is told.
  await sheet.getByRole('button', { name: 'Call off' }).click()
  await expect(sheet).toContainText('Sorrel, Tansy are told.')
  await sheet.getByLabel('Message to all').fill('The dark room is flooded.')
  await sheet.getByRole('button', { name: 'Call off this session' }).click()
  await expect(sheet).toHaveCount(0)
  await mailTo(request, mail('Sorrel'), 3)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'This meeting is cancelled.' })).toBeVisible()

  // The other one, which nobody booked, is called off too.
  await openSessionsOf(host, 'Dimming workshop')
  await host.getByRole('link', { name: /20:15–21:45/ }).click()
  await sheet.getByRole('button', { name: 'Call off' }).click()
  await expect(sheet).toContainText('Nobody has a seat in it.')
  await sheet.getByRole('button', { name: 'Call off this session' }).click()
  await expect(sheet).toHaveCount(0)
  await openSessionsOf(host, 'Dimming workshop')
  await expect(host.getByRole('link', { name: /20:15–21:45/ })).toHaveCount(0)
})

/** Sets one session and gives all its seats away by hand; returns its sheet on the board. */
async function fullSession(host: Page, day: { iso: string }, clock: string): Promise<Locator> {
  await openSessionsOf(host, 'Dimming workshop')
  await host.getByLabel('When they are, on your clock').fill(`${day.iso} ${clock}`)
  await host.getByRole('button', { name: 'Set 1 session anyway' }).click()
  await host.getByRole('link', { name: new RegExp(`${clock}–`) }).click()
  const sheet = host.getByRole('dialog', { name: 'Dimming workshop' })
  for (const name of ['Ash', 'Birch', 'Cedar', 'Doug']) {
    await sheet.getByRole('button', { name: 'Add somebody' }).click()
    const add = sheet.getByRole('form', { name: 'Add somebody' })
    await add.getByLabel('Client').fill(name)
    await add.getByLabel('Mail').fill(mail(name))
    await add.getByRole('button', { name: 'Give a seat' }).click()
    await expect(sheet.getByRole('list', { name: 'Who comes' })).toContainText(name)
  }
  return sheet
}

/** Joins the waiting list of a date that is full; or of any. */
async function joinList(page: Page, listed: RegExp, name: string, any = false): Promise<void> {
  await openPage(page, 'dimming-workshop')
  await page.getByRole('list', { name: 'Dates' }).getByRole('button', { name: listed }).filter({ hasText: '20:45' }).click()
  await fillDetails(page, name, mail(name))
  if (any) await page.getByLabel('Any other date that is full will do too.').check()
  await page.getByRole('button', { name: 'Join the waiting list', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'You are on the waiting list.' })).toBeVisible()
}

test('two clients wait for a full session; the seat that gets free is kept for the first of them', async ({ page, request, context }) => {
  const day = dayAhead(27)
  const host = await otherWindow(context)
  await signInAs(host, 'Maren Achterberg')
  const sheet = await fullSession(host, day, '20:45')

  await joinList(page, day.listed, 'Fern')
  await expect(page.getByText('You are next.')).toBeVisible()
  await expectAccessible(page)
  const other = await otherWindow(context)
  await joinList(other, day.listed, 'Gorse', true) // the demo has another full one
  await expect(other.getByText('Your dates')).toBeVisible()
  await expect(other.getByText('One person comes before you.')).toBeVisible()

  // The host sees who waits; one of the four can't come.
  await host.reload()
  await expect(sheet.getByRole('list', { name: 'Who comes' }).getByRole('listitem').filter({ hasText: 'Fern' })).toContainText('waits for a place')
  await sheet.getByRole('button', { name: 'Birch' }).click()
  const birch = host.getByRole('dialog', { name: 'Birch' })
  await birch.getByRole('button', { name: 'Cancel this seat' }).click()
  await birch.getByRole('button', { name: 'Cancel the meeting' }).click()
  await mailTo(request, mail('Fern'), 2)

  // Nobody else gets the seat meanwhile, and the first takes it.
  await page.reload()
  await expect(page.getByRole('heading', { name: 'A place is free for you.' })).toBeVisible()
  await expect(page.getByText(/It is kept for you until/)).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Take the place' }).click()
  await expect(page.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  await mailTo(request, mail('Fern'), 3)

  // The other one is next, and leaves the list.
  await other.reload()
  await expect(other.getByText('You are next.')).toBeVisible()
  await other.getByRole('button', { name: 'Leave the waiting list' }).click()
  await expect(other.getByRole('heading', { name: 'Leave the waiting list?' })).toBeVisible()
  await other.getByRole('button', { name: 'Leave the waiting list' }).last().click()
  await expect(other.getByRole('heading', { name: 'You are off the waiting list.' })).toBeVisible()

  await openSessionsOf(host, 'Dimming workshop')
  await host.getByRole('link', { name: /20:45–/ }).click()
  await sheet.getByRole('button', { name: 'Call off' }).click()
  await sheet.getByRole('button', { name: 'Call off this session' }).click()
  await expect(sheet).toHaveCount(0)
})
