import { createServer } from 'node:http'
import { expect } from '@playwright/test'
import ICAL from 'ical.js'
import { calendars } from './ports.ts'
import { book, comingMonday, expectAccessible, mailTo, openPage, otherWindow, readAll, signInAs, times } from './steps.ts'
import { test } from './turned.ts'

const calendarText = (events: string) => `BEGIN:VCALENDAR\r\nVERSION:2.0\r\n${events}END:VCALENDAR\r\n`
const event = (uid: string, date: string, from: string, to: string, more = '') =>
  `BEGIN:VEVENT\r\nUID:${uid}\r\nDTSTART;TZID=Asia/Singapore:${date.replaceAll('-', '')}T${from}00\r\nDTEND;TZID=Asia/Singapore:${date.replaceAll('-', '')}T${to}00\r\nSUMMARY:${uid}\r\n${more}END:VEVENT\r\n`

test('an address and a file block time; events with an agreed title open it', async ({ page, context }) => {
  const monday = comingMonday()
  let text = calendarText(event('Workshop', monday, '0900', '1200'))
  const server = createServer((_, response) => response.end(text))
  await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready))
  const address = server.address()
  const port = typeof address === 'object' && address ? address.port : 0

  await signInAs(page, 'Siew Lin Dao')
  await page.getByRole('link', { name: 'Calendars' }).click()
  const add = page.getByRole('form', { name: "Add a calendar's address" })
  await add.getByLabel('Address of the calendar').fill('nowhere')
  await add.getByRole('button', { name: 'Add this calendar' }).click()
  await expect(page.getByText('Enter the address of an iCalendar file')).toBeVisible()
  await add.getByLabel('Address of the calendar').fill(`http://127.0.0.1:${port}/plan.ics`)
  await add.getByLabel('Its name here').fill('Workshop plan')
  await add.getByRole('button', { name: 'Add this calendar' }).click()
  await expect(page.getByRole('region', { name: /Workshop plan fetched from/ })).toContainText('1 event · takes 3 hours')
  await expectAccessible(page)

  const client = await otherWindow(context)
  const monday10 = async () => {
    await openPage(client, 'lux-lesson')
    await client.getByLabel('Your time zone').selectOption('Asia/Singapore')
    await client.locator(`[data-date="${monday}"]`).click()
  }
  await monday10()
  await expect(times(client).filter({ hasText: /^09:/ })).toHaveCount(0)

  await page.getByLabel('Calendar file', { exact: true }).setInputFiles({ name: 'retreat.ics', mimeType: 'text/calendar', buffer: Buffer.from(calendarText(event('Retreat', monday, '1400', '1800'))) })
  await expect(page.getByRole('region', { name: /retreat from a file/ })).toContainText('1 event · takes 4 hours')
  await monday10()
  await expect(client.getByText('No open times on this day.')).toBeVisible()
  const kept = page.waitForResponse((response) => response.request().method() === 'PUT' && response.url().includes('/api/calendars/'))
  await page.getByLabel('What retreat does').selectOption('is ignored')
  await kept // what was chosen shows before
  await expect(page.getByRole('region', { name: /retreat from a file/ })).toContainText('Not read')
  await monday10()
  await expect(times(client).filter({ hasText: /^14:00/ })).toHaveCount(1)

  // Instead of the week, only what is marked in the calendar is open.
  text = calendarText(event('open for clients', monday, '2000', '2100', 'TRANSP:TRANSPARENT\r\n'))
  await page.getByLabel('Where your hours come from').selectOption('events with a title')
  await page.getByLabel('Which meeting types the title is for').selectOption('Lux meter lesson')
  await page.getByRole('button', { name: 'Save this' }).click()
  await expect(page.getByRole('button', { name: 'Save this' })).toHaveCount(0)
  await readAll(page)
  await expect(page.getByRole('region', { name: /Workshop plan/ })).toContainText('takes nothing')
  await monday10()
  await expect(times(client)).toHaveText([/^20:00/, /^20:20/])
  await page.keyboard.press('4')
  await expect(page.getByText('Your hours come from events called “Open for clients”')).toBeVisible()

  // The address goes away: the last copy counts, until the host wants nothing offered then.
  server.close()
  server.closeAllConnections()
  await page.goto('/calendars')
  await readAll(page)
  await expect(page.getByText(/can't be reached.*Asked again by itself at/)).toBeVisible()
  await monday10()
  await expect(times(client)).toHaveCount(2)
  await page.getByLabel("While a calendar can't be read").selectOption('offer nothing')
  await page.getByRole('button', { name: 'Save this' }).click()
  await expect(page.getByRole('button', { name: 'Save this' })).toHaveCount(0)
  await monday10()
  await expect(client.getByText('No open times on this day.')).toBeVisible()
  await page.goto('/')
  await expect(page.getByText(/Until it can be read, nothing is offered/)).toBeVisible()

  await page.goto('/calendars')
  await page.getByRole('region', { name: /Workshop plan/ }).getByRole('button', { name: /^Remove/ }).click()
  await page.getByLabel('Where your hours come from').selectOption('your week')
  await page.getByLabel("While a calendar can't be read").selectOption('use the last copy')
  await page.getByRole('button', { name: 'Save this' }).click()
  await expect(page.getByRole('button', { name: 'Save this' })).toHaveCount(0)
})

test('a first reading shows how far it has come', async ({ page, request }) => {
  await signInAs(page, 'Callum Whitlock')
  await page.getByRole('link', { name: 'Calendars' }).click()
  await expect(page.getByRole('heading', { name: 'Connect calendars' })).toBeVisible()
  await request.post(`${calendars}/page/studio/mood`, { form: { mood: 'slow' } })
  const connect = page.getByRole('form', { name: 'Connect calendars' })
  await connect.getByLabel('Server address').fill(calendars)
  await connect.getByLabel('User name').fill('studio')
  await connect.getByLabel('Password').fill('light')
  await connect.getByRole('button', { name: 'Connect' }).click()
  const row = page.getByRole('region', { name: /studio at/ })
  await expect(row.getByRole('status')).toContainText('Reading it for the first time', { timeout: 25_000 })
  await expectAccessible(page)
  await request.post(`${calendars}/page/studio/mood`, { form: { mood: '' } })
  await expect(row).toContainText('2 events', { timeout: 15_000 })

  // How it is drawn, and who sees what its events are about.
  await row.getByLabel('Hatch of Test room').selectOption('paired')
  await row.getByLabel('Tone of Test room').selectOption('plum')
  const seen = page.waitForResponse(async (answer) => answer.request().method() === 'PUT' && (await answer.text()).includes('"details":"colleagues"'))
  await row.getByLabel('Who sees details of Test room').selectOption('you and colleagues')
  await seen
  await expect(row.locator('.hatch-paired.tone-plum')).toBeVisible()
  await page.reload()
  await expect(row.getByLabel('Who sees details of Test room')).toHaveValue('colleagues')
  await row.getByRole('button', { name: 'Disconnect' }).click()
  await expect(row).toHaveCount(0)
})

test('an event over a booking: the client is asked to choose again, and does', async ({ page, context, request }) => {
  const client = await otherWindow(context)
  const path = await book(client, 'daylight', { name: 'Ålesund Glass Hall', mail: 'glass@alesund.example' }, 4, 0)
  const when = new Date((await (await request.get(`/api/bookings/${path.slice(3)}`)).json()).start)
  const oslo = (part: Intl.DateTimeFormatOptions) => when.toLocaleString('sv-SE', { timeZone: 'Europe/Oslo', ...part })
  const calendar = await otherWindow(context)
  await calendar.goto(`${calendars}/page/torvald`)
  await calendar.getByLabel('Title').fill('Fire drill')
  await calendar.getByLabel('Day').first().fill(oslo({ dateStyle: 'short' }))
  await calendar.getByLabel('From').first().fill(oslo({ timeStyle: 'short' }))
  await calendar.getByLabel('To').first().fill('23:30')
  await calendar.getByRole('button', { name: 'Add event' }).click()

  await signInAs(page, 'Torvald Brekke')
  await page.getByRole('link', { name: 'Calendars' }).click()
  await readAll(page)
  await page.goto('/')
  const clash = page.getByRole('alert').filter({ hasText: 'Ålesund Glass Hall' })
  await expect(clash).toContainText('“Fire drill” (Work)')
  await expectAccessible(page)
  await clash.getByRole('button', { name: 'Hand over …' }).click()
  await expect(page.getByRole('list', { name: 'Colleagues' }).getByRole('radio', { name: /^Siew Lin Dao/ })).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Close' }).click()
  await clash.getByRole('button', { name: 'Ask for another time' }).click()
  await page.getByLabel('Message to them').fill('The bell will ring.')
  await page.getByRole('dialog').getByRole('button', { name: 'Ask for another time' }).click()
  await expect(clash).toContainText('The client was asked to choose another time.')
  const mails = await mailTo(request, 'glass@alesund.example', 2)
  expect(mails[0]?.subject).toContain('Please choose another time')

  await client.goto(path)
  await client.getByRole('button', { name: /^Move/ }).first().click()
  await client.getByRole('group', { name: 'Days' }).getByRole('button', { name: /\d open$/ }).nth(6).click()
  await times(client).first().click()
  await client.getByRole('button', { name: /^Move to/ }).click()
  await expect(client.getByRole('button', { name: /^Move to/ })).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('button', { name: 'Why is a time open or not?' })).toBeVisible()
  await expect(clash).toHaveCount(0)
})

test('moving a booking’s event in the calendar moves the meeting, if the host says so', async ({ page, context, request }) => {
  const client = await otherWindow(context)
  const path = await book(client, 'first-conversation', { name: 'Faro Sail Loft', mail: 'loft@faro.example' }, 6, 0)
  const booking = async () => (await request.get(`/api/bookings/${path.slice(3)}`)).json()
  const before = new Date((await booking()).start)
  await signInAs(page, 'Ines Valadares')
  await page.getByRole('link', { name: 'Calendars' }).click()
  await client.close()
  const there = async () => {
    await page.goto(`${calendars}/page/ines`)
    const row = page.getByRole('listitem').filter({ hasText: 'Faro Sail Loft' })
    await row.getByText('Move or remove').click()
    return row
  }
  const readAgain = async () => {
    await page.goto('/calendars')
    await readAll(page)
  }
  await expect.poll(async () => (await (await request.get(`${calendars}/page/ines`)).text()).includes('Faro Sail Loft')).toBe(true)
  await readAgain()
  const row = await there()
  await row.getByLabel('From').fill('18:00')
  await row.getByLabel('To').fill('18:15')
  await row.getByRole('button', { name: 'Move event' }).click()
  await readAgain()
  await page.goto('/')
  const clash = page.getByRole('alert').filter({ hasText: 'Faro Sail Loft' })
  await expect(clash).toContainText('You moved its event in your calendar')
  await clash.getByRole('button', { name: 'Move the meeting to 18:00' }).click()
  await expect(clash).toHaveCount(0)
  const after = new Date((await booking()).start)
  expect(after.getTime()).not.toBe(before.getTime())
  const mails = await mailTo(request, 'loft@faro.example', 2)
  expect(mails[0]?.subject).toMatch(/^Moved: First conversation/)

  // If the host wants that, the booking follows by itself.
  await page.goto('/calendars')
  await page.getByLabel("If you change a booking's event").selectOption('the booking follows and the client is told')
  await page.getByRole('button', { name: 'Save this' }).click()
  await expect(page.getByRole('button', { name: 'Save this' })).toHaveCount(0)
  await expect(async () => expect(await (await there()).textContent()).toContain('SEQUENCE:1')).toPass() // our own write has come there
  await readAgain()
  await (await there()).getByRole('button', { name: /^Remove / }).click()
  await expect(page.getByRole('listitem').filter({ hasText: 'Faro Sail Loft' })).toHaveCount(0)
  await readAgain()
  expect((await mailTo(request, 'loft@faro.example', 3))[0]?.subject).toMatch(/^Cancelled: First conversation/)
  expect((await booking()).state).toBe('cancelled')
  await page.getByLabel("If you change a booking's event").selectOption('you are asked on Today')
  await page.getByRole('button', { name: 'Save this' }).click()
  await expect(page.getByRole('button', { name: 'Save this' })).toHaveCount(0)
})

test('other programs subscribe to bookings and busy times, until the addresses end', async ({ page, request }) => {
  await signInAs(page, 'Maren Achterberg')
  await page.getByRole('link', { name: 'Calendars' }).click()
  await page.getByRole('button', { name: 'Create links' }).click()
  const bookings = await page.getByLabel(/Your bookings, with all/).inputValue()
  const busy = await page.getByLabel(/Only when you are busy/).inputValue()
  await expectAccessible(page)
  const read = async (address: string) => new ICAL.Component(ICAL.parse(await (await request.get(new URL(address).pathname)).text()))
  const feed = await read(bookings)
  expect(feed.getAllSubcomponents('vevent').map((e) => e.getFirstPropertyValue('summary')).join()).toContain('Het Kleine Kabinet')
  const free = await read(busy)
  const periods = free.getFirstSubcomponent('vfreebusy')?.getAllProperties('freebusy') ?? []
  expect(periods.length).toBeGreaterThan(2)
  expect(free.toString()).not.toContain('Registrar')
  await page.getByRole('button', { name: 'End both' }).click()
  await expect(page.getByRole('button', { name: 'Create links' })).toBeVisible()
  expect((await request.get(new URL(busy).pathname)).status()).toBe(404)
})
