import { type ChildProcess, spawn } from 'node:child_process'
import { rmSync } from 'node:fs'
import { type APIRequestContext, type Browser, expect, type Page } from '@playwright/test'
import { startDemo, turnedPorts } from './ports.ts'
import { book, chooseDay, dayAhead, expectAccessible, fillDetails, openPage, openSessionsOf, signInAs } from './steps.ts'
import { test } from './turned.ts'

// A demo of its own, which is started again and again with its clock at a later time: so messages of the clock are really sent.

const corrim = `http://localhost:${turnedPorts.corrim}`
const inbox = `http://localhost:${turnedPorts.inbox}`
const data = 'turned'
const phones = `http://localhost:${turnedPorts.phones}`
let running: ChildProcess | null = null

test.use({ baseURL: corrim })
test.afterAll(stop)

async function stop() {
  const ended = running && new Promise((resolve) => running?.once('exit', resolve))
  running?.kill('SIGINT')
  await ended
  running = null
}

/** Starts the demo with its clock at a time. */
async function startAt(time: Date, request: APIRequestContext) {
  await stop()
  const [program = '', ...args] = startDemo(data, turnedPorts, ['--now', `${time.toISOString().slice(0, 19)}Z`])
  running = spawn(program, args, { stdio: 'ignore' })
  await expect.poll(async () => (await request.get(`${corrim}/readyz`).catch(() => null))?.status(), { timeout: 20_000 }).toBe(200)
}

/** A page whose clock stands at a time. */
async function pageAt(time: Date, browser: Browser): Promise<Page> {
  const page = await (await browser.newContext({ baseURL: corrim })).newPage()
  await page.clock.setFixedTime(time)
  return page
}

/** The text of the mails to somebody, once there are so many; newest first. */
async function mails(request: APIRequestContext, to: string, count: number): Promise<string[]> {
  let texts: string[] = []
  await expect
    .poll(
      async () => {
        const list = await (await request.get(`${inbox}/`)).text()
        const paths = [...list.matchAll(/<a href="(\/m\/\d+)">.*?<\/a><br><span class="faint">to (.*?) ·/g)].filter(([, , who]) => who?.includes(to))
        texts = await Promise.all(paths.map(async ([, path]) => (await request.get(inbox + path)).text()))
        return texts.length
      },
      { timeout: 20_000 },
    )
    .toBe(count)
  return texts
}

/** Where a link of a mail leads. */
function linkIn(mail: string | undefined, answer: string): string {
  return new RegExp(`${corrim}(/b/[\\w-]+\\?answer=${answer})`).exec(mail ?? '')?.[1] ?? ''
}

/** Half past nine where the client is, on the day after. */
function nextMorning(start: Date): Date {
  const clock = (at: Date) => at.toLocaleString('sv', { timeZone: 'America/Halifax' })
  const day = clock(new Date(start.getTime() + 24 * hour)).slice(0, 10)
  const utc = new Date(`${day}T09:30:00Z`)
  const offset = Date.parse(`${clock(utc).replace(' ', 'T')}Z`) - utc.getTime()
  return new Date(utc.getTime() - offset)
}

/** Books as somebody who wants text messages. */
async function bookWithPhone(page: Page): Promise<string> {
  await openPage(page, 'first-conversation')
  await (await chooseDay(page, 4)).nth(-1).click() // in the client's daytime: there are quiet hours
  await fillDetails(page, 'Loom Hall', 'loom@clock.example')
  await page.getByLabel('Mobile number for text messages').fill('+44 7700 900789')
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByText('Tick that you agree to text messages, or leave the number out.')).toBeVisible()
  await page.getByRole('checkbox', { name: /may send me text messages/ }).check()
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  return new URL(page.url()).pathname
}

const hour = 3_600_000
const before = (time: Date, hours: number) => new Date(time.getTime() - hours * hour)

test('a reminder asks whether one comes, a press answers it, the second goes only to who didn’t; afterwards one is asked how it was', async ({
  browser,
  request,
}) => {
  test.setTimeout(150_000)
  rmSync(`test-results/${data}`, { recursive: true, force: true })
  const now = new Date()
  await startAt(now, request)
  let page = await pageAt(now, browser)
  const first = await book(page, 'first-conversation', { name: 'Tile Rooms', mail: 'tiles@clock.example' }, 4, -2)
  const loom = await bookWithPhone(page)
  const booking = await (await request.get(`${corrim}/api/bookings/${first.slice('/b/'.length)}`)).json()
  const start = new Date(booking.start)
  await mails(request, 'tiles@clock.example', 1)

  // A day before, everybody is reminded. Opening a link says nothing yet: programs that look after mail follow them.
  const dayBefore = before(start, 23.4)
  await startAt(dayBefore, request)
  const [reminder] = await mails(request, 'tiles@clock.example', 2)
  expect(reminder).toContain('Your meeting begins')
  page = await pageAt(dayBefore, browser)
  await page.goto(linkIn(reminder, 'come'))
  await page.reload()
  const come = page.getByRole('button', { name: 'I will be there' })
  await expect(come).toBeVisible()
  await expectAccessible(page)
  await page.goto(linkIn(reminder, 'move'))
  await expect(page.getByRole('region', { name: 'Move this meeting' })).toBeVisible()
  await page.goto(linkIn(reminder, 'cancel'))
  await expect(page.getByRole('heading', { name: 'Cancel this meeting?' })).toBeVisible()
  await page.goto(linkIn(reminder, 'come'))
  await come.click()
  await expect(page.getByText('You have said that you will be there.')).toBeVisible()

  // Two hours before, only who has not said so is asked again, in the workspace's own words.
  await startAt(before(start, 1.2), request)
  const [second] = await mails(request, 'loom@clock.example', 3)
  expect(second).toContain('will you be there?')
  await mails(request, 'tiles@clock.example', 2)

  // An hour before, who agreed to text messages gets one; an answer from the phone ends them, and the page begins them again.
  const soon = before(start, 0.5)
  await startAt(soon, request)
  await expect.poll(async () => (await request.get(phones)).text()).toContain('First conversation in an hour, at')
  page = await pageAt(soon, browser)
  await page.goto(phones)
  await page.getByLabel('Answer from +447700900789').fill('Stop')
  await page.getByRole('button', { name: 'Answer', exact: true }).last().click()
  await expect(page.getByText('Answered:')).toBeVisible()
  await page.goto(loom)
  await expect(page.getByText('+447700900789 gets no text messages.')).toBeVisible()
  await page.getByRole('button', { name: 'Send them again' }).click()
  await expect(page.getByText('Text messages about this meeting go to +447700900789.')).toBeVisible()
  await expectAccessible(page)
  await signInAs(page, 'Ines Valadares')
  await page.goto(`/clients/${encodeURIComponent('loom@clock.example')}`)
  await expect(page.getByText(/may send me text messages about this meeting/)).toBeVisible()

  // Afterwards its host says that they were there, and the next morning the client is asked how it was, on their clock.
  const after = before(start, -1)
  await startAt(after, request)
  page = await pageAt(after, browser)
  await signInAs(page, 'Ines Valadares')
  await page.goto(`/clients/${encodeURIComponent('tiles@clock.example')}`)
  await page.getByRole('button', { name: 'Attended', exact: true }).click()
  await expect(page.getByText(/Attended \w+ \d+/)).toBeVisible()
  const asked = nextMorning(start)
  await startAt(asked, request)
  const [thanks] = await mails(request, 'tiles@clock.example', 3)
  page = await pageAt(asked, browser)
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(linkIn(thanks, 'rate'))
  await page.getByRole('button', { name: 'Send' }).click()
  await expect(page.getByRole('alert')).toHaveText('Choose a number from 1 to 5.')
  await page.getByText('4', { exact: true }).click()
  await expect(page.getByRole('radio', { name: '4 of 5' })).toBeChecked()
  await page.getByLabel(/What we should know/).fill('The blinds were the best part.')
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Send' }).click()
  await expect(page.getByText('Thank you. You gave 4 of 5.')).toBeVisible()
  await page.reload()
  await expect(page.getByText('Thank you. You gave 4 of 5.')).toBeVisible()

  page = await pageAt(asked, browser)
  await signInAs(page, 'Ines Valadares')
  await page.goto('/types')
  await expect(page.getByText(/rated 4\.0 of 5 by 1/)).toBeVisible()
  await page.goto(`/clients/${encodeURIComponent('tiles@clock.example')}`)
  await expect(page.getByText('Rated 4 of 5: “The blinds were the best part.”')).toBeVisible()
})

/** When a clock in Amsterdam shows a time of a date. */
function inAmsterdam(date: string, clock: string): Date {
  const utc = new Date(`${date}T${clock}:00Z`)
  const there = `${utc.toLocaleString('sv', { timeZone: 'Europe/Amsterdam' }).replace(' ', 'T')}Z`
  return new Date(2 * utc.getTime() - Date.parse(there))
}

/** Maren's sessions of the workshop, at a time. */
async function workshopAt(time: Date, browser: Browser): Promise<Page> {
  const page = await pageAt(time, browser)
  await signInAs(page, 'Maren Achterberg')
  await openSessionsOf(page, 'Dimming workshop')
  return page
}

test('the host decides about a session to which few have signed up, and marks by a key who came', async ({ browser, request }) => {
  test.setTimeout(150_000)
  await stop()
  rmSync(`test-results/${data}`, { recursive: true, force: true })
  const day = dayAhead(12)
  const start = inAmsterdam(day.iso, '20:05')
  await startAt(new Date(), request)
  let page = await workshopAt(new Date(), browser)
  const sheet = () => page.getByRole('dialog', { name: 'Dimming workshop' })
  await page.getByRole('link', { name: 'Booking page' }).click()
  await page.getByLabel('What happens if there are fewer').selectOption('ask')
  await page.getByRole('button', { name: 'Save changes' }).click()
  await expect(page.getByText('not saved')).toHaveCount(0)
  await openSessionsOf(page, 'Dimming workshop')
  await page.getByLabel('When they are, on your clock').fill(`${day.iso} 20:05`)
  await page.getByRole('button', { name: /^Set 1 session/ }).click()
  await page.getByRole('link', { name: /20:05–/ }).click()
  await sheet().getByRole('button', { name: 'Add somebody' }).click()
  const add = sheet().getByRole('form', { name: 'Add somebody' })
  await add.getByLabel('Client').fill('Rue')
  await add.getByLabel('Mail').fill('rue@clock.example')
  await add.getByRole('button', { name: 'Give a seat' }).click()
  await expect(sheet().getByRole('list', { name: 'Who comes' })).toContainText('Rue')

  // Two were wanted: two days before, it is hers to decide.
  await startAt(before(start, 47), request)
  page = await pageAt(before(start, 47), browser)
  await signInAs(page, 'Maren Achterberg')
  const doubt = page.getByText(/One person has signed up; it was meant for 2 or more/)
  await expect(doubt).toBeVisible({ timeout: 20_000 })
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Call it off' }).click()
  await expect(page.getByRole('dialog')).toContainText('Rue is told.')
  await page.getByRole('button', { name: 'Close' }).click()
  await page.getByRole('button', { name: 'It takes place' }).click()
  await expect(doubt).toHaveCount(0)

  // It has begun, and Rue is there.
  const begun = before(start, -0.2)
  await startAt(begun, request)
  page = await workshopAt(begun, browser)
  await page.getByRole('link', { name: /20:05–/ }).click()
  const rue = sheet().getByRole('list', { name: 'Who comes' }).getByRole('listitem').filter({ hasText: 'Rue' })
  await rue.getByRole('button', { name: 'Rue' }).press('c')
  await expect(rue).toContainText('attended')
  await expect(sheet()).toContainText('Takes place, though few come')
  await expectAccessible(page)
})
