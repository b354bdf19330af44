import { readFileSync } from 'node:fs'
import { expect } from '@playwright/test'
import ICAL from 'ical.js'
import { calendars, inbox } from './ports.ts'
import { book, chooseDay, eventOf, expectAccessible, fillDetails, mailTo, openPage, signInAs, times } from './steps.ts'
import { test } from './turned.ts'

test('a client sees both clocks, books, and everybody is told', async ({ page, request, context }) => {
  await openPage(page, 'loan-call')
  await expect(page.getByRole('heading', { level: 1 })).toContainText('A loan condition call of 30 minutes with Ines Valadares')
  await expect(page.getByLabel('Your time zone')).toHaveValue('America/Halifax')
  const open = await chooseDay(page, 2)
  await expect(open.first()).toHaveAccessibleName(/^\d\d:\d\d, \d\d:\d\d in Lisbon$/)
  await expectAccessible(page)
  const [mine = '', theirs = ''] = ((await open.nth(1).getAttribute('aria-label')) ?? '').match(/\d\d:\d\d/g) ?? []
  await open.nth(1).click()
  await expect(page.getByRole('heading', { level: 1 })).toContainText(`at ${mine} your time`)
  await fillDetails(page, 'Harbour Books', 'harbour@books.example', 'Two maps; one on "vellum", très fragile')
  await page.getByRole('button', { name: `Book ${mine}` }).click()

  await expect(page.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  await expect(page.getByText(`${mine} to`)).toContainText(/Halifax, UTC−[34]/)
  await expect(page.getByText(`${theirs} to`)).toContainText('Lisbon')
  await expectAccessible(page)

  // The room of the link says which meeting it is and that it is not open yet.
  const room = (await page.getByRole('link', { name: /\/r\// }).getAttribute('href')) ?? ''
  const visitor = await context.newPage()
  await visitor.goto(room)
  await expect(visitor.getByRole('heading')).toHaveText('Loan condition call')
  await expect(visitor.getByText('not open yet')).toBeVisible()

  // The file to download, read by ical.js.
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Add to calendar' }).click()])
  const file = eventOf(readFileSync(await download.path(), 'utf8'))
  expect(file.summary).toBe('Loan condition call: Harbour Books with Ines Valadares')
  const starts = new Date(file.startDate.convertToZone(ICAL.Timezone.utcTimezone).toString())
  expect(starts.toLocaleTimeString('en-GB', { timeZone: 'Europe/Lisbon', hour: '2-digit', minute: '2-digit' })).toBe(theirs)

  // Exactly one mail each; the client's holds the invitation, as an alternative and as a file.
  const toClient = await mailTo(request, 'harbour@books.example', 1)
  expect(toClient).toHaveLength(1)
  await visitor.goto(inbox + toClient[0]?.path)
  await expect(visitor.getByText('Invitation (REQUEST)')).toBeVisible()
  await expect(visitor.locator('pre').last()).toHaveText(
    /multipart\/mixed\s+multipart\/alternative\s+text\/plain\s+text\/html\s+text\/calendar\s+text\/calendar/,
  )
  const attached = await request.get(inbox + ((await visitor.getByRole('link', { name: 'invite.ics' }).getAttribute('href')) ?? ''))
  expect(eventOf(await attached.text()).uid).toBe(file.uid)
  const invitation = eventOf((await visitor.locator('pre').nth(1).textContent()) ?? '')
  for (const written of [file, invitation]) {
    expect(written.uid).toBe(file.uid)
    expect(written.sequence).toBe(0)
    expect(written.summary).toBe('Loan condition call: Harbour Books with Ines Valadares')
    expect(written.description).toContain('Your remark: Two maps; one on "vellum", très fragile')
    expect(written.location).toBe(room)
    expect(written.component.getFirstPropertyValue('conference')).toBe(room)
    expect(written.component.getFirstPropertyValue('status')).toBe('CONFIRMED')
    expect(written.startDate.toString()).toBe(file.startDate.toString())
    expect(written.duration.toSeconds()).toBe(30 * 60)
  }
  // Answers to the invitation come to an address of this booking's, in the host's name.
  expect(invitation.organizer).toMatch(/^mailto:bookings\+c[\da-z]+-[a-z2-7]{16}@quillmere\.example$/)
  expect(invitation.component.getFirstProperty('organizer')?.getParameter('cn')).toBe('Ines Valadares')
  expect(invitation.attendees.map((a) => [a.getFirstValue(), a.getParameter('cn')])).toEqual([['mailto:harbour@books.example', 'Harbour Books']])
  const toHost = (await mailTo(request, 'ines@quillmere.example', 1)).filter((m) => m.subject.includes('Harbour Books'))
  expect(toHost).toHaveLength(1)

  // The host's own calendar has it, with the answers; so has Today, with the way in.
  await visitor.goto(`${calendars}/page/ines`)
  await expect(visitor.getByText('Loan condition call: Harbour Books with Ines Valadares', { exact: true })).toBeVisible()
  await expect(visitor.locator('pre', { hasText: 'très fragile' })).toContainText('CONFERENCE;FEATURE=VIDEO')
  const host = await context.newPage()
  await signInAs(host, 'Ines Valadares')
  const meeting = host.getByRole('article', { name: /Harbour Books/ })
  await expect(meeting).toContainText(`${mine} Halifax`)
  await expect(meeting).toContainText('très fragile')
  await expect(meeting.getByRole('link', { name: /Join the room/ })).toHaveAttribute('href', room)
})

test('a client moves and cancels by the link in the mail, and everything follows', async ({ page, request, context }) => {
  const who = { name: 'Moving Museum', mail: 'moving@museum.example' }
  const path = await book(page, 'daylight', who, 3, 0)
  const [mail] = await mailTo(request, who.mail, 1)
  await page.goto(inbox + mail?.path)
  const link = (await page.locator('pre').first().getByRole('link', { name: /\/b\// }).getAttribute('href')) ?? ''
  expect(link).toContain(path)
  const first = await invitationIn(page)

  await page.goto(link)
  const room = (await page.getByRole('link', { name: /\/r\// }).getAttribute('href')) ?? ''
  await page.getByRole('button', { name: 'Move', exact: true }).click()
  await (await chooseDay(page, 4)).nth(1).click()
  const button = page.getByRole('button', { name: /^Move to \d/ })
  const to = ((await button.textContent()) ?? '').replace('Move to ', '')
  await button.click()
  await expect(page.getByText(`${to} to`)).toBeVisible()

  const [moved] = await mailTo(request, who.mail, 2)
  expect(moved?.subject).toMatch(/^Moved/)
  await page.goto(inbox + moved?.path)
  const second = await invitationIn(page)
  expect(second.uid).toBe(first.uid)
  expect(second.sequence).toBe(first.sequence + 1)
  expect(second.startDate.toString()).not.toBe(first.startDate.toString())

  await page.goto(link)
  await expect(page.getByRole('link', { name: /\/r\// })).toHaveAttribute('href', room)
  await page.getByRole('button', { name: 'Cancel this meeting' }).click()
  await page.getByLabel(/Message to/).fill('The roof leaks.')
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Cancel the meeting' }).click()
  await expect(page.getByRole('heading', { name: 'This meeting is cancelled.' })).toBeVisible()

  const [cancelled] = await mailTo(request, who.mail, 3)
  await page.goto(inbox + cancelled?.path)
  await expect(page.getByText('Invitation (CANCEL)')).toBeVisible()
  const third = await invitationIn(page)
  expect([third.uid, third.sequence]).toEqual([first.uid, first.sequence + 2])
  await page.goto(room)
  await expect(page.getByText('This room is closed.')).toBeVisible()
  await page.goto(`${calendars}/page/torvald`)
  await expect(page.getByText('Moving Museum')).toHaveCount(0)
  const host = await context.newPage()
  await signInAs(host, 'Torvald Brekke')
  await expect(host.getByText('“The roof leaks.”')).toBeVisible()
  await expect(host.getByRole('article', { name: /Moving Museum/ })).toHaveCount(0)
})

async function invitationIn(page: import('@playwright/test').Page): Promise<ICAL.Event> {
  return eventOf((await page.locator('pre', { hasText: 'BEGIN:VCALENDAR' }).textContent()) ?? '')
}

test('two clients press Book for one time: one gets it, the other keeps what was typed', async ({ browser }) => {
  const contexts = await Promise.all([browser.newContext(), browser.newContext()])
  const [one, two] = await Promise.all([contexts[0].newPage(), contexts[1].newPage()])
  for (const [page, name] of [
    [one, 'First Hall'],
    [two, 'Second Hall'],
  ] as const) {
    await openPage(page, 'case-review')
    await (await chooseDay(page, 2)).first().click()
    await fillDetails(page, name, 'hall@race.example', 'typed with care')
  }
  const press = (page: typeof one) => page.getByRole('button', { name: /^Book \d/ }).click()
  await Promise.all([press(one), press(two)])
  const done = (page: typeof one) => page.getByRole('heading', { name: 'Your meeting is booked.' })
  const taken = (page: typeof one) => page.getByText('This time has just been taken.')
  await expect(done(one).or(taken(one))).toBeVisible()
  await expect(done(two).or(taken(two))).toBeVisible()
  const [winner, loser] = (await done(one).isVisible()) ? [one, two] : [two, one]
  await expect(done(winner)).toBeVisible()
  await expect(taken(loser)).toBeVisible()
  await expect(loser.getByLabel(/should know/)).toHaveValue('typed with care')
  await expectAccessible(loser)

  // The nearest open times are offered, and one of them can be booked at once.
  await loser.getByText('Open nearby').getByRole('button').first().click()
  await press(loser)
  await expect(done(loser)).toBeVisible()
  await Promise.all(contexts.map((context) => context.close()))
})

test('an event added in the calendar makes the times vanish, even between looking and booking', async ({ page, context }) => {
  await openPage(page, 'lux-lesson')
  const open = await chooseDay(page, 3)
  const [, theirs = ''] = ((await open.first().getAttribute('aria-label')) ?? '').match(/\d\d:\d\d/g) ?? []
  await open.first().click()
  await fillDetails(page, 'Slow Museum', 'slow@museum.example')
  const date = await chosenDate(page)

  const calendar = await context.newPage()
  await calendar.goto(`${calendars}/page/siewlin`)
  await calendar.getByLabel('Title').fill('Sudden visit')
  await calendar.getByLabel('Day').first().fill(await hostDate(page, date))
  await calendar.getByLabel('From').first().fill(theirs)
  await calendar.getByLabel('To').first().fill(`${theirs.slice(0, 3)}${theirs.endsWith('00') ? '05' : '59'}`)
  await calendar.getByRole('button', { name: 'Add event' }).click()
  await expect(calendar.getByText('Sudden visit', { exact: true })).toBeVisible()

  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByText('This time has just been taken.')).toBeVisible()
  await expect(page.getByLabel('Name')).toHaveValue('Slow Museum')

  // At the next look it isn't there either.
  await page.reload()
  await expect(page.getByRole('group', { name: 'Days' })).toBeVisible()
  await page.locator(`[data-date="${date}"]`).click()
  await expect(times(page).filter({ hasText: theirs })).toHaveCount(0)
  await expect(page.getByLabel('Name'), 'what was typed outlives a reload').toHaveValue('Slow Museum')
})

/** The chosen day as the page's heading has it. */
async function chosenDate(page: import('@playwright/test').Page): Promise<string> {
  return (await page.locator('[data-date][aria-pressed=true]').getAttribute('data-date')) ?? ''
}

/** The chosen start's date on the host's clock in Singapore, which is ahead of Halifax. */
async function hostDate(page: import('@playwright/test').Page, date: string): Promise<string> {
  const label = (await page.locator('button[aria-pressed=true][aria-label*="Singapore"]').getAttribute('aria-label')) ?? ''
  const [mine = '', theirs = ''] = label.match(/\d\d:\d\d/g) ?? []
  const next = new Date(`${date}T12:00:00Z`)
  if (theirs < mine) next.setUTCDate(next.getUTCDate() + 1)
  return next.toISOString().slice(0, 10)
}

test('by keyboard alone, at phone width', async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, timezoneId: 'Asia/Kathmandu' })
  const page = await context.newPage()
  await openPage(page, 'loan-call-americas')
  await expect(page.locator('[data-date][aria-pressed=true]'), 'the chosen day is in sight').toBeInViewport({ ratio: 1 })
  await expectAccessible(page)
  const day = page.getByRole('group', { name: 'Days' }).locator('[tabindex="0"]')
  await day.focus()
  await page.keyboard.press('ArrowDown') // a week later
  await expect(times(page).first()).toBeVisible()
  await times(page).first().focus()
  await page.keyboard.press('Enter')
  await page.getByLabel('Name').focus()
  await page.keyboard.type('Patan Hall of Lamps')
  await page.keyboard.press('Tab')
  await page.keyboard.type('lamps@patan.example')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  await expect(page.getByText(/Kath?mandu, UTC\+5:45/)).toBeVisible()
  const wide = await page.evaluate(() => document.documentElement.scrollWidth > innerWidth)
  expect(wide, 'nothing runs out of the page at phone width').toBe(false)
  await context.close()
})

test('what is wrong is said where it is, and nothing typed is lost', async ({ page }) => {
  await page.goto('/p/quillmere/no-such-type')
  await expect(page.getByText("This page doesn't exist, or not any more.")).toBeVisible()
  await page.goto('/b/AAAAAAAAAAAAAAAAAAAAAA')
  await expect(page.getByText("This link doesn't lead to a booking")).toBeVisible()

  await openPage(page, 'first-conversation')
  await expect(page.getByRole('button', { name: 'Choose a time first' })).toBeDisabled()
  await (await chooseDay(page, 1)).first().click()
  await fillDetails(page, '', 'somebody', 'kept')
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByText('Enter your name')).toBeVisible()
  await expect(page.getByText('not a complete mail address')).toBeVisible()
  await expect(page.getByLabel('Name')).toBeFocused()
  await expectAccessible(page)
  await fillDetails(page, 'Somebody', 'somebody@hall.example', 'x'.repeat(140_000))
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByText(/more text than can be taken|at most 4000 letters|expected length/)).toBeVisible()
  await expect(page.getByLabel('Name')).toHaveValue('Somebody')
})

test('another zone shows other days and times', async ({ page }) => {
  await openPage(page, 'first-conversation')
  const before = await (await chooseDay(page, 2)).first().getAttribute('aria-label')
  await page.getByLabel('Your time zone').selectOption('Europe/Lisbon')
  await expect((await chooseDay(page, 2)).first()).toHaveAccessibleName(/^\d\d:\d\d$/)
  expect(before).toContain('in Lisbon')
})
