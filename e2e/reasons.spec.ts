import { readFileSync, writeFileSync } from 'node:fs'
import { execFileSync } from 'node:child_process'
import { expect } from '@playwright/test'
import { calendars } from './ports.ts'
import { agree, comingMonday, daysAfter, expectAccessible, openPage, otherWindow, readAll, signInAs, times } from './steps.ts'
import { test } from './turned.ts'

test('within three actions a host finds out why a time is not open', async ({ page, context }) => {
  const monday = daysAfter(comingMonday(), 14) // beyond what the demo has booked, whatever day it was planted on
  const calendar = await otherWindow(context)
  await calendar.goto(`${calendars}/page/maren`)
  await calendar.getByLabel('Title').fill('Glass delivery')
  await calendar.getByLabel('Day').first().fill(monday)
  await calendar.getByLabel('From').first().fill('10:00')
  await calendar.getByLabel('To').first().fill('11:00')
  await calendar.getByRole('button', { name: 'Add event' }).click()

  await signInAs(page, 'Maren Achterberg')
  await page.getByRole('link', { name: 'Calendars' }).click()
  await readAll(page)
  await page.goto('/')
  await expect(page.getByRole('button', { name: 'Why is a time open or not?' })).toBeVisible()
  await page.keyboard.press('e')
  await expect(page.getByRole('slider', { name: 'The time to explain' })).toBeVisible()
  await expectAccessible(page)

  const { types }: { types: { id: number; slug: string }[] } = await (await page.request.get('/api/types')).json()
  const id = types.find(({ slug }) => slug === 'case-review')?.id
  await page.goto(`/types/${id}/why/${monday}?at=600`)
  const answer = page.getByRole('region', { name: 'The answer, rule by rule' })
  await expect(page.getByRole('heading', { name: 'Why is 10:00 not open?' })).toBeVisible()
  await expect(answer).toContainText('“Glass delivery” (Work) 10:00–11:00.')
  await expect(answer).toContainText('Hours holds')
  // The cursor by keys: a quarter past is not on the half-hour grid either; at eleven it is open.
  await page.getByRole('slider', { name: 'The time to explain' }).focus()
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight')
  await expect(answer).toContainText('Start step fails')
  await page.keyboard.press('Shift+ArrowRight')
  await expect(page.getByRole('heading', { name: 'Why is 11:15 not open?' })).toBeVisible()
  await answer.getByRole('button', { name: /11:00/ }).click()
  await expect(page.getByRole('heading', { name: '11:00 is open' })).toBeVisible()

  // Saved as a scenario, the command line finds the same day, and no private title is in it.
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Save as scenario' }).click()])
  const text = readFileSync(await download.path(), 'utf8')
  expect(text).not.toContain('Glass delivery')
  writeFileSync('test-results/scenario.json', text)
  const found = JSON.parse(execFileSync('../bin/corrim', ['slots', 'test-results/scenario.json'], { encoding: 'utf8' }))
  const onMonday = found.starts.filter((s: { start: string; minutes: number }) => s.start.startsWith(monday) && s.minutes === 60)
  await openPage(page, 'case-review')
  await page.getByLabel('Your time zone').selectOption('Europe/Amsterdam')
  await page.locator(`[data-date="${monday}"]`).click()
  await expect(times(page)).toHaveCount(onMonday.length)

})

test('a limit is tried first: what it takes, and which bookings could not have been made', async ({ page }) => {
  await signInAs(page, 'Ines Valadares')
  await page.goto('/types/2')
  await page.getByRole('button', { name: 'Add a limit' }).click()
  await page.getByLabel('What is limited').selectOption('minutes')
  await page.getByLabel('Limit', { exact: true }).fill('30')
  await page.getByLabel('Per').selectOption('a week')
  await expect(page.getByText(/−\d+ lost/)).toBeVisible()
  await page.getByLabel('How starts are laid out').selectOption('packed without gaps')
  await expect(page.getByText('Only starts that leave nothing')).toBeVisible()
  await page.getByLabel('Booking window', { exact: true }).selectOption('between two dates')
  await page.getByLabel('Last day').fill('2020-01-01')
  await expect(page.getByText('Give the first and the last day')).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Discard changes' }).click()
  await page.getByLabel('Notice', { exact: true }).fill('700')
  await page.getByLabel('Unit of the notice').selectOption('whole days')
  await expect(page.getByText('mostly blocked by notice')).toBeVisible()
  await expect(page.getByText(/of the last 90 days’ \d+ bookings could not have been made/)).toBeVisible()
})

test('the last change of settings is undone', async ({ page }) => {
  await signInAs(page, 'Callum Whitlock')
  await page.getByRole('link', { name: 'Meeting types' }).click()
  await page.getByRole('button', { name: 'Loan condition call, Americas', exact: true }).click()
  await page.getByLabel('Buffer before in minutes').fill('5')
  await page.getByRole('button', { name: 'Save changes' }).click()
  await expect(page.getByText('not saved')).toHaveCount(0)
  await page.getByRole('button', { name: /^Undo: / }).click() // the focus is in the field again, where u would be a letter
  await expect(page.getByRole('dialog')).toContainText('buffers 0 min before, 15 after kept → 5 min before, 15 after kept')
  await expectAccessible(page)
  await agree(page, 'Undo it')
  await expect(page.getByRole('dialog')).toHaveCount(0)
  await expect(page.getByLabel('Buffer before in minutes')).toHaveValue('0')
})

test('the ribbons under Hours lead to the reasons too', async ({ page }) => {
  await signInAs(page, 'Torvald Brekke')
  await page.keyboard.press('4')
  await page.getByRole('button', { name: /^Why\?/ }).nth(2).click()
  await expect(page.getByRole('slider', { name: 'The time to explain' })).toBeVisible()
  await page.keyboard.press('Escape')
  await expect(page.getByRole('heading', { name: 'Daylight walk-through' })).toBeVisible()
})
