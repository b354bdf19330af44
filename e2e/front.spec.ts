import { expect } from '@playwright/test'
import { inbox } from './ports.ts'
import { chooseDay, daysAfter, comingMonday, expectAccessible, mailTo, openPage, times } from './steps.ts'
import { test } from './turned.ts'

for (const [device, width, height] of [['desktop', 1280, 800], ['phone', 390, 844]] as const) {
  test.describe(device, () => {
    test.use({ viewport: { width, height } })

    test(`from the workspace’s page to a person’s, and to a type with them (${device})`, async ({ page }) => {
      await page.goto('/p/quillmere')
      await expect(page.getByRole('heading', { name: 'Objects and loans' })).toBeVisible()
      await expect(page.getByRole('link', { name: 'Urgent lamp failure' })).toHaveCount(0) // by its link only
      await expectAccessible(page)
      await page.getByRole('link', { name: 'Maren Achterberg' }).click()
      await expect(page.getByRole('heading', { level: 1 })).toHaveText('Maren Achterberg')
      await expectAccessible(page)
      await page.getByRole('link', { name: 'Conservator' }).click()
      await expect(page.getByLabel('With whom').locator('option:checked')).toHaveText('Maren Achterberg')
      await expect(page.getByRole('group', { name: 'Days' })).toBeVisible()
      const runsOut = await page.evaluate(() => document.documentElement.scrollWidth > innerWidth)
      expect(runsOut, 'nothing runs out of the page').toBe(false)
      await page.goBack()
      await expect(page.getByRole('heading', { level: 1 })).toHaveText('Maren Achterberg')
    })

    test(`a link fills in answers; back takes the time back; loading again keeps everything (${device})`, async ({ page }) => {
      await page.goto('/p/quillmere/survey?name=Tide+Museum&mail=tide%40museum.example&q.rooms=3&q.hangs=Textiles')
      await expect(page.getByRole('group', { name: 'Days' })).toBeVisible()
      await expect(page.getByLabel('Name')).toHaveValue('Tide Museum')
      await expect(page.getByLabel('How many rooms?')).toHaveValue('3')
      await expect(page.getByLabel('Textiles')).toBeChecked()
      await (await chooseDay(page, 1)).first().click()
      await expect(page.getByRole('button', { name: /^Book \d/ })).toBeVisible()
      await page.goBack()
      await expect(page.getByRole('button', { name: 'Choose a time first' })).toBeVisible()
      await page.goForward()
      await page.getByLabel(/should know/).fill('Fog most mornings')
      await page.reload()
      await expect(page.getByRole('button', { name: /^Book \d/ })).toBeVisible()
      await expect(page.getByLabel(/should know/)).toHaveValue('Fog most mornings')
    })

    test(`the page in another language, as the browser asks or the client chooses (${device})`, async ({ browser }) => {
      const page = await (await browser.newContext({ viewport: { width, height }, locale: 'de-CH', timezoneId: 'Europe/Zurich' })).newPage()
      await page.goto('/p/quillmere/plan-review')
      const sentence = page.getByRole('heading', { level: 1 })
      await expect(sentence).toContainText(/mit Torvald Brekke und jemandem aus unserem Team, per Video, am .*, zu einer Zeit Ihrer Wahl\.$/)
      await page.goto('/p/quillmere/loan-call')
      await expect(page.getByRole('heading', { name: 'Ihre Angaben' })).toBeVisible()
      await expect(page.locator('html')).toHaveAttribute('lang', 'de')
      await page.getByRole('group', { name: 'Tage' }).getByRole('button', { name: /\d frei$/ }).nth(2).click()
      await page.getByRole('region', { name: /^(Nacht|Vormittag|Nachmittag|Abend)$/ }).getByRole('button').first().click()
      await expect(sentence).toContainText(/, am \w+, \d+\. \S+ um \d\d:\d\d in Ihrer Zeitzone\.$/)
      await page.getByRole('button', { name: /buchen$/ }).click()
      await expect(page.getByText('Geben Sie Ihren Namen an')).toBeVisible()
      await expectAccessible(page)
      for (const [language, word] of [['fr', 'Vos coordonnées'], ['nl', 'Uw gegevens'], ['pt', 'Os seus dados'], ['en', 'Your details']] as const) {
        await page.getByRole('contentinfo').getByRole('combobox').selectOption(language)
        await expect(page.getByRole('heading', { name: word })).toBeVisible()
      }
      await page.reload()
      await expect(page.getByRole('heading', { name: 'Your details' })).toBeVisible()
      await page.context().close()
    })
  })
}

test('who books in German gets German mail', async ({ browser, request }) => {
  const client = await (await browser.newContext({ locale: 'de-DE', timezoneId: 'Europe/Berlin' })).newPage()
  await client.goto('/p/quillmere/first-conversation')
  await client.getByRole('group', { name: 'Tage' }).getByRole('button', { name: /\d frei$/ }).nth(3).click()
  await client.getByRole('region', { name: /^(Nacht|Vormittag|Nachmittag|Abend)$/ }).getByRole('button').first().click()
  await client.getByLabel('Name').fill('Heimatmuseum Wehlen')
  await client.getByLabel('E-Mail', { exact: true }).fill('haus@wehlen.example')
  await client.getByRole('button', { name: /buchen$/ }).click()
  await expect(client.getByRole('heading', { name: 'Ihr Termin ist gebucht.' })).toBeVisible()
  const [mail] = await mailTo(request, 'haus@wehlen.example', 1)
  expect(mail?.subject).toMatch(/ mit Ines Valadares$/)
  await client.goto(`${inbox}${mail?.path}`)
  await expect(client.getByText('Ihr Termin ist gebucht.').first()).toBeAttached()
  await client.context().close()
})

test('links of bookings and offers are kept from search engines', async ({ request }) => {
  const robots = await (await request.get('/robots.txt')).text()
  for (const path of ['/b/', '/o/', '/api/']) expect(robots).toContain(`Disallow: ${path}`)
})

test('one’s own calendar lies over the open times, and nothing of it is sent', async ({ page }) => {
  const monday = comingMonday()
  const stamp = (date: string, clock: string) => `${date.replaceAll('-', '')}T${clock}`
  // The whole morning, since some of it may be booked. A zone of the file's own, a repeated event with one moved occurrence, and one that blocks nothing.
  const ics = [
    'BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//made up//EN',
    'BEGIN:VEVENT', 'UID:a', `DTSTAMP:${stamp(monday, '000000')}Z`, `DTSTART:${stamp(monday, '090000')}Z`, `DTEND:${stamp(monday, '120000')}Z`, 'RRULE:FREQ=DAILY;COUNT=3', 'SUMMARY:Very private', 'END:VEVENT',
    'BEGIN:VEVENT', 'UID:a', `DTSTAMP:${stamp(monday, '000000')}Z`, `RECURRENCE-ID:${stamp(daysAfter(monday, 1), '090000')}Z`, `DTSTART:${stamp(daysAfter(monday, 1), '130000')}Z`, `DTEND:${stamp(daysAfter(monday, 1), '140000')}Z`, 'SUMMARY:Moved', 'END:VEVENT',
    'BEGIN:VEVENT', 'UID:b', `DTSTAMP:${stamp(monday, '000000')}Z`, `DTSTART:${stamp(monday, '130000')}Z`, `DTEND:${stamp(monday, '170000')}Z`, 'TRANSP:TRANSPARENT', 'SUMMARY:Free', 'END:VEVENT',
    'END:VCALENDAR',
  ].join('\r\n')
  const bodies: string[] = []
  page.on('request', (request) => bodies.push(request.url() + (request.postData() ?? '')))
  await openPage(page, 'first-conversation')
  await page.getByLabel('Your time zone').selectOption('UTC')
  await page.locator(`[data-date="${monday}"]`).click()
  await expect(times(page).first()).toBeVisible()
  await page.getByLabel('Compare with your calendar').setInputFiles({ name: 'not.ics', mimeType: 'text/calendar', buffer: Buffer.from('no calendar') })
  await expect(page.getByText('This is not a calendar file.')).toBeVisible()
  await page.getByLabel('Compare with your calendar').setInputFiles({ name: 'mine.ics', mimeType: 'text/calendar', buffer: Buffer.from(ics) })
  await expect(page.getByText('3 busy times of yours are hatched.')).toBeVisible()
  const hatched = () => times(page).and(page.getByRole('button', { name: /you are busy$/ }))
  const clocks = async () => (await hatched().allTextContents()).map((text) => text.slice(0, 5))
  await expect(hatched().first()).toBeVisible()
  for (const clock of await clocks()) expect(clock >= '08:46' && clock < '12:00', clock).toBe(true)
  await expectAccessible(page)
  await page.locator(`[data-date="${daysAfter(monday, 1)}"]`).click()
  for (const clock of await clocks()) expect(clock >= '12:46' && clock < '14:00', clock).toBe(true)
  expect(bodies.join(' ')).not.toContain('private')
  await page.getByRole('button', { name: /^Remove/ }).click()
  await expect(hatched()).toHaveCount(0)
})

// WCAG 2.2, 1.4.4 and 1.4.10: text at twice its size, and a width of 320, without scrolling sideways.
for (const [name, width] of [['at 200 % zoom', 640], ['320 wide', 320]] as const)
  test(`nothing of the client’s page runs out of the window, ${name}`, async ({ page }) => {
    await page.setViewportSize({ width, height: 560 })
    for (const path of ['/p/quillmere', '/p/quillmere/site-visit', '/p/quillmere/conservators-hour']) {
      await page.goto(path)
      await expect(page.getByRole('heading', { level: 1 })).toBeVisible()
      if (path !== '/p/quillmere') {
        await expect(page.getByRole('heading', { name: 'Your details' })).toBeVisible()
        await (await chooseDay(page, 0)).first().click()
      }
      expect(await page.evaluate(() => document.documentElement.scrollWidth - innerWidth), path).toBeLessThanOrEqual(0)
    }
    await expectAccessible(page)
  })

test('what is not there says so to programs too; without scripts a page tells its next times', async ({ browser, request }) => {
  for (const path of ['/p/nowhere', '/p/quillmere/nothing', '/p/quillmere/with/nobody', '/b/nothing', '/o/nothing', '/nothing', '/assets/'])
    expect((await request.get(path)).status(), path).toBe(404)
  expect((await request.get('/p/quillmere/daylight')).status()).toBe(200)
  const plain = await browser.newContext({ javaScriptEnabled: false })
  const page = await plain.newPage()
  await page.goto('/p/quillmere/daylight')
  await expect(page.getByRole('heading', { name: 'Daylight walk-through' })).toBeVisible()
  await expect(page.getByRole('listitem').first()).toContainText(/^\w+day \d+ \w+ \d{4}: \d\d:\d\d/)
  await expect(page.getByRole('link')).toHaveAttribute('href', /^mailto:/)
  await plain.close()
})
