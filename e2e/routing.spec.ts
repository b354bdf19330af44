import { expect } from '@playwright/test'
import { calendars } from './ports.ts'
import { book, chooseDay, comingMonday, daysAfter, expectAccessible, fillDetails, mailTo, ofType, openPage, otherWindow, signInAs } from './steps.ts'
import { test } from './turned.ts'

test('a routing is composed as sentences, with what it will do beside it, and finds its hosts', async ({ page, context }) => {
  await signInAs(page, 'Ines Valadares')
  await page.getByRole('link', { name: 'Meeting types' }).click()
  await ofType(page, 'Light advice call', 'Hosts')
  await expect(page.getByRole('list', { name: 'Next bookings' }).getByRole('listitem')).toHaveCount(10)
  await expect(page.getByText('All 3 combinations of answers lead to somebody who has open times.')).toBeVisible()
  await expectAccessible(page)

  // An answer that nobody has leads nowhere: that shows before a client finds it.
  await page.getByLabel('Rule 1: answers, with commas between').fill('Dutch, Thai')
  await expect(page.getByText('language Thai')).toBeVisible()
  await expect(page.getByText('No eligible host.')).toBeVisible()
  await page.getByLabel('Rule 1: answers, with commas between').fill('Dutch, Norwegian')
  await expect(page.getByText('All 3 combinations')).toBeVisible()
  await page.getByLabel('Rule 1: who takes it', { exact: true }).selectOption('Torvald Brekke')
  await page.getByLabel('Rule 1: who takes it, or 2').selectOption('Maren Achterberg')
  await expect(page.getByLabel('Rule 1: who takes it, or 3').locator('option:checked')).toHaveText('nobody else')
  await page.getByRole('button', { name: 'Discard changes' }).click()

  // The forecast is what happens.
  const first = await page.getByRole('list', { name: 'Next bookings' }).getByRole('listitem').first().textContent()
  const client = await otherWindow(context)
  await openPage(client, 'lux-advice')
  await (await chooseDay(client, 0)).first().click()
  await fillDetails(client, 'Silo Museum', 'post@silo.example')
  await client.getByRole('button', { name: /^Book \d/ }).click()
  await expect(client.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  const host = /(Torvald Brekke|Maren Achterberg)/.exec(first ?? '')?.[0] ?? 'nobody'
  await expect(client.getByText(`${host}, Quillmere Light Advisers`)).toBeVisible()
  await client.close()
  await page.reload()
  const given = page.getByRole('list', { name: 'Given bookings' }).getByRole('listitem').first()
  await expect(given).toContainText(`Silo Museum: ${host} Next in turn.`)

  // Somebody who speaks Dutch gets who speaks it, and then stays with her.
  const dutch = await otherWindow(context)
  await openPage(dutch, 'lux-advice')
  await dutch.getByLabel('language').selectOption('Dutch')
  await expectAccessible(dutch)
  await (await chooseDay(dutch, 1)).first().click()
  await fillDetails(dutch, 'Hofje Museum', 'info@hofje.example')
  await dutch.getByRole('button', { name: /^Book \d/ }).click()
  await expect(dutch.getByText('Maren Achterberg, Quillmere Light Advisers')).toBeVisible()
  await dutch.close()
  await page.reload()
  await expect(given).toContainText('By answer rule 1.')

  await page.getByRole('button', { name: 'Correct the count of Torvald Brekke' }).click()
  await page.getByRole('button', { name: 'Correct the count', exact: true }).click()
  await expect(page.getByText('Say by how many and why')).toBeVisible()
  await page.getByLabel('Why', { exact: true }).fill('Took two by phone')
  await page.getByLabel(/Bookings to add/).fill('2')
  await page.getByRole('button', { name: 'Correct the count', exact: true }).click()
  await expect(page.getByRole('row', { name: /Torvald Brekke 1 \d 2/ })).toBeVisible()
})

test('the client chooses a colleague; two advisers together suit both', async ({ page, request }) => {
  await openPage(page, 'conservators-hour')
  await page.getByLabel('With whom').selectOption('Callum Whitlock')
  await (await chooseDay(page, 1)).first().click()
  await fillDetails(page, 'Bell Foundry', 'desk@bellfoundry.example')
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByText('Callum Whitlock, Quillmere Light Advisers')).toBeVisible()

  const before = (await mailTo(request, 'maren@quillmere.example', 0)).length
  await openPage(page, 'two-adviser-review')
  await expect(page.getByText('Torvald Brekke and Maren Achterberg')).toBeVisible()
  await book(page, 'two-adviser-review', { name: 'Salt Barn', mail: 'barn@salt.example' }, 2, 0)
  for (const user of ['torvald', 'maren']) {
    await expect.poll(async () => (await (await request.get(`${calendars}/page/${user}`)).text()).includes('Salt Barn'), user).toBe(true)
  }
  await mailTo(request, 'maren@quillmere.example', before + 1)
  await signInAs(page, 'Ines Valadares')
  const { types }: { types: { id: number; slug: string }[] } = await (await page.request.get('/api/types?all=true')).json()
  const tomorrow = daysAfter(new Date().toISOString().slice(0, 10), 1)
  const type = types.find(({ slug }) => slug === 'case-review')?.id
  const byHand = { type, date: tomorrow, minute: 11 * 60, host: 0, name: 'Weekend Guild', mail: 'desk@guild.example', outside: true }
  expect((await page.request.post('/api/host-bookings', { data: byHand })).ok()).toBe(true)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Colleagues, today and tomorrow' })).toBeVisible()
})

test('everyone, a team and people host a type beside each other, in a set order', async ({ page }) => {
  await signInAs(page, 'Ines Valadares')
  await page.goto('/types')
  await ofType(page, 'Urgent lamp failure', 'Hosts')
  const pool = page.getByRole('list', { name: 'Pool' }).getByRole('listitem')
  await expect(pool).toHaveCount(3)
  const add = page.getByLabel('Add somebody to the pool')
  await add.selectOption('Team North')
  await expect(page.getByText('Team North, whoever joins it too')).toBeVisible()
  await expect(pool.filter({ hasText: 'of Team North' })).not.toHaveCount(0)
  await add.selectOption('Everyone')
  await expect(pool.filter({ hasText: 'Siew Lin Dao' })).toHaveCount(1)
  await expect(pool.filter({ hasText: 'Ines Valadares' })).toContainText('with everyone')
  await page.getByRole('button', { name: 'Move Ines Valadares', exact: true }).press('ArrowUp')
  await expectAccessible(page)
  await page.getByRole('button', { name: /^Save/ }).click()
  await expect(page.getByRole('button', { name: /^Save/ })).toHaveCount(0)
  const everyone = await pool.count()
  await page.reload()
  await expect(pool).toHaveCount(everyone)
  await page.getByRole('button', { name: 'Take out: Everyone who takes bookings, newcomers too' }).click()
  await page.getByRole('button', { name: 'Take out: Team North, whoever joins it too' }).click()
  await expect(pool).toHaveCount(3)
  await page.getByRole('button', { name: /^Save/ }).click()
  await expect(page.getByRole('button', { name: /^Save/ })).toHaveCount(0)
})

test('who may book is kept: anyone, the workspace’s people, nobody', async ({ page, context }) => {
  await signInAs(page, 'Ines Valadares')
  await page.goto('/types')
  await ofType(page, 'Reading of measurements', 'Hosts')
  const who = page.getByLabel('Who may book it')
  await who.selectOption('people of the workspace who are signed in')
  await page.getByRole('button', { name: /^Save/ }).click()
  await expect(page.getByRole('button', { name: /^Save/ })).toHaveCount(0)
  const outside = await (await context.browser()?.newContext())?.newPage()
  if (!outside) throw new Error('no browser')
  await outside.goto('/p/quillmere/readings')
  await expect(outside.getByText(/Only people of Quillmere Light Advisers can book this/)).toBeVisible()
  await openPage(page, 'readings') // signed in
  await page.goto('/types')
  await ofType(page, 'Reading of measurements', 'Hosts')
  await who.selectOption('anyone with the link')
  await page.getByRole('button', { name: /^Save/ }).click()
  await expect(page.getByRole('button', { name: /^Save/ })).toHaveCount(0)
  await outside.reload()
  await expect(outside.getByRole('group', { name: 'Days' })).toBeVisible()
})

test('a coordinator books by hand for a team: by the type’s rule, or with somebody they name', async ({ page, request }) => {
  await signInAs(page, 'Ines Valadares')
  await page.getByRole('link', { name: 'Board' }).click()
  await expect(page.getByRole('group', { name: 'Whose days' })).toBeVisible() // Today has a Monday too, on weekends
  await page.keyboard.press('n')
  const sheet = page.getByRole('dialog')
  const monday = daysAfter(comingMonday(), 21) // where nobody else’s journey leads
  const enter = async (name: string, mail: string, clock: string, host: string) => {
    await sheet.getByLabel('Meeting type').selectOption({ label: 'Light advice call, 30 minutes' })
    await sheet.getByLabel('With', { exact: true }).selectOption({ label: host })
    await sheet.getByLabel('Day', { exact: true }).fill(monday)
    await sheet.getByLabel('From', { exact: true }).fill(clock)
    await sheet.getByLabel('Client', { exact: true }).fill(name)
    await sheet.getByLabel('Mail', { exact: true }).fill(mail)
    await expectAccessible(page)
    await sheet.getByRole('button', { name: `Book ${clock}` }).click()
    await expect(sheet).toHaveCount(0)
  }
  await enter('Ystad Fort', 'fort@ystad.example', '13:00', 'whoever its rule gives it to')
  const [first] = await mailTo(request, 'fort@ystad.example', 1)
  expect(first?.subject).toMatch(/^Light advice call with (Torvald Brekke|Maren Achterberg)$/)
  await page.keyboard.press('n')
  await enter('Ystad Mill', 'mill@ystad.example', '14:00', 'Maren Achterberg')
  expect((await mailTo(request, 'mill@ystad.example', 1))[0]?.subject).toBe('Light advice call with Maren Achterberg')

  // Of a meeting held together, everybody is named.
  await page.keyboard.press('n')
  await sheet.getByLabel('Meeting type').selectOption({ label: 'Two-adviser case review, 60 minutes' })
  await sheet.getByLabel('Day', { exact: true }).fill(daysAfter(monday, 1))
  await sheet.getByLabel('From', { exact: true }).fill('13:00')
  await sheet.getByLabel('Client', { exact: true }).fill('Ystad Tower')
  await sheet.getByLabel('Mail', { exact: true }).fill('tower@ystad.example')
  await sheet.getByRole('button', { name: 'Book 13:00' }).click()
  const again = sheet.getByRole('button', { name: 'Book 13:00 anyway' })
  await expect(sheet.or(page.getByRole('heading', { name: 'Board' })).first()).toBeVisible()
  if (await again.isVisible().catch(() => false)) await again.click()
  expect((await mailTo(request, 'tower@ystad.example', 1))[0]?.subject).toBe('Two-adviser case review with Torvald Brekke and Maren Achterberg')
})
