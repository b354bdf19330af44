import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { type APIRequestContext, type BrowserContext, expect, type Locator, type Page } from '@playwright/test'
import ICAL from 'ical.js'
import { inbox, worker } from './ports.ts'

/** Signs in with one click as somebody of the demo. */
export async function signInAs(page: Page, name: string): Promise<void> {
  await page.goto('/')
  await page.getByRole('button', { name }).click()
  await expect(page.getByRole('navigation', { name: 'Views' })).toBeVisible()
}

/** Signs out, and waits until it is done. */
export async function signOut(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Sign out' }).click()
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()
}

/** Answers what a dialog asks, and waits until it is done, which is when the dialog goes. While it is open, what is behind it is
 *  hidden: to wait for something there to go tells nothing. */
export async function agree(page: Page, words: string): Promise<void> {
  const answer = page.getByRole('dialog').getByRole('button', { name: words, exact: true })
  await answer.click()
  await expect(answer).toHaveCount(0)
}

/** Types words into the search, once it listens. */
export async function find(page: Page, words: string): Promise<void> {
  await page.keyboard.press('/')
  await expect(page.getByRole('combobox', { name: 'Find anything' })).toBeFocused()
  await page.keyboard.type(words)
}

/** Has all calendars read, and waits until they are. */
export async function readAll(page: Page): Promise<void> {
  const read = page.waitForResponse('**/api/calendars/read')
  await page.getByRole('button', { name: 'Read all now' }).click()
  await read
}

const axe = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8')

/** What axe finds on the page, as it stands, must be nothing. Axe is brought to each document once, frames show pages that are looked
 *  at on their own, style sheets are not fetched again, and only violations are gathered, to save time. Views are loaded when
 *  they are used: one is there with its heading. */
export async function expectAccessible(page: Page, without: string[] = []): Promise<void> {
  await page.locator('h1').first().waitFor({ state: 'attached' }) // behind a dialog it is hidden
  await expect(page.locator('main[aria-busy=true]')).toHaveCount(0)
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe)
  const violations = await page.evaluate(async (exclude) => {
    const { axe } = window as unknown as { axe: typeof import('axe-core') }
    const found = await axe.run({ include: [['html']], exclude: exclude.map((one) => [one]) }, { resultTypes: ['violations'], preload: false, iframes: false })
    return found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join('  ')}`)
  }, without)
  expect(violations).toEqual([])
}

/** Opens the menu of a meeting type in the list, and does one of its entries. */
export async function ofType(page: Page, type: string, entry: string): Promise<void> {
  await page.getByRole('button', { name: `More of ${type}`, exact: true }).click()
  await page.getByRole('menuitem', { name: entry, exact: true }).click()
}

/** Opens a client's page and waits for its times. */
export async function openPage(page: Page, type: string): Promise<void> {
  await page.goto(`/p/quillmere/${type}`)
  await expect(page.getByRole('group', { name: 'Days' })).toBeVisible()
}

/** Chooses the nth day (from 0) that has several open times, and returns them as buttons. */
export async function chooseDay(page: Page, nth: number) {
  await page.getByRole('group', { name: 'Days' }).getByRole('button', { name: /\b([2-9]|\d\d+) open$/ }).nth(nth).click()
  return times(page)
}

/** The buttons of the chosen day's open times. */
export function times(page: Page) {
  return page.getByRole('region', { name: /^(Night|Morning|Afternoon|Evening)$/ }).getByRole('button')
}

export async function fillDetails(page: Page, name: string, mail: string, remark = ''): Promise<void> {
  await page.getByLabel('Name', { exact: true }).fill(name)
  await page.getByLabel('Mail', { exact: true }).fill(mail)
  await page.getByLabel(/should know/).fill(remark)
}

/** Books the nth time of the nth open day and returns the booking's path. */
export async function book(page: Page, type: string, who: { name: string; mail: string; remark?: string }, day: number, time: number): Promise<string> {
  await openPage(page, type)
  await (await chooseDay(page, day)).nth(time).click()
  await fillDetails(page, who.name, who.mail, who.remark)
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  return new URL(page.url()).pathname
}

/** The subjects of all mail to somebody, newest first, with their paths, once there are so many. */
/** An entry of a calendar, as ical.js reads it. */
export function eventOf(text: string): ICAL.Event {
  const component = new ICAL.Component(ICAL.parse(text)).getFirstSubcomponent('vevent')
  if (!component) throw new Error('no event')
  return new ICAL.Event(component)
}

/** The calendar files that a mail brings. */
export async function filesOf(request: APIRequestContext, path: string): Promise<string[]> {
  const found: string[] = []
  for (let n = 0; ; n++) {
    const answer = await request.get(`${inbox}${path}/file/${n}`)
    if (!answer.ok()) return found
    found.push(await answer.text())
  }
}

/** The invitations among them. */
export async function invitationsOf(request: APIRequestContext, path: string): Promise<{ text: string; event: ICAL.Event }[]> {
  const files = await filesOf(request, path)
  return files.filter((text) => text.includes('METHOD:REQUEST')).map((text) => ({ text, event: eventOf(text) }))
}

export async function mailTo(request: APIRequestContext, address: string, count: number): Promise<{ path: string; subject: string }[]> {
  const found: { path: string; subject: string }[] = []
  await expect
    .poll(async () => {
      found.length = 0
      const html = await (await request.get(`${inbox}/`)).text()
      for (const [, path, subject, to] of html.matchAll(/<a href="(\/m\/\d+)">(.*?)<\/a><br><span class="faint">to (.*?) ·/g)) {
        if (to?.includes(address)) found.push({ path: path ?? '', subject: subject ?? '' })
      }
      return found.length
    })
    .toBeGreaterThanOrEqual(count)
  return found
}

/** A Monday at least a week from now, within the next two weeks, as YYYY-MM-DD. */
export function comingMonday(): string {
  const date = new Date()
  date.setUTCDate(date.getUTCDate() + 7 + ((8 - date.getUTCDay()) % 7))
  return date.toISOString().slice(0, 10)
}

/** The date so many days later. */
export function daysAfter(date: string, days: number): string {
  const at = new Date(`${date}T12:00:00Z`)
  at.setUTCDate(at.getUTCDate() + days)
  return at.toISOString().slice(0, 10)
}

/** "Mon 7 Dec", as days are called beside ribbons. */
export function shortDate(date: string): string {
  const at = new Date(`${date}T12:00:00Z`)
  const part = (options: Intl.DateTimeFormatOptions) => at.toLocaleString('en-GB', { ...options, timeZone: 'UTC' })
  return `${part({ weekday: 'short' })} ${at.getUTCDate()} ${part({ month: 'short' })}`
}

/** Drags over a ribbon from one share of its length to another. */
export async function dragOver(page: Page, ribbon: Locator, from: number, to: number): Promise<void> {
  await ribbon.scrollIntoViewIfNeeded()
  const box = await ribbon.boundingBox()
  if (!box) throw new Error('no ribbon')
  const y = box.y + box.height / 2
  await page.mouse.move(box.x + box.width * from, y)
  await page.mouse.down()
  await page.mouse.move(box.x + (box.width * (from + to)) / 2, y)
  await page.mouse.move(box.x + box.width * to, y)
  await page.mouse.up()
}

/** A page in a window of its own: one behind another in the same window draws no frames, and waiting for it would hang. */
export async function otherWindow(context: BrowserContext, phone = false): Promise<Page> {
  const browser = context.browser()
  if (!browser) throw new Error('no browser')
  return (await browser.newContext(phone ? { viewport: { width: 390, height: 844 } } : {})).newPage()
}

/** The code of the first run, as the program wrote it where it was started. */
export function setupCode(): string {
  const written = readFileSync(`test-results/empty-${worker}.out`, 'utf8')
  return /code=(\S+)/.exec(written)?.[1] ?? ''
}

/** A date so many days from now, as ISO and as it is listed. */
export function dayAhead(days: number): { iso: string; listed: RegExp } {
  const at = new Date(Date.now() + days * 86_400_000)
  const month = at.toLocaleString('en', { month: 'long', timeZone: 'UTC' })
  return { iso: at.toISOString().slice(0, 10), listed: new RegExp(`${at.getUTCDate()} ${month}`) }
}

/** The sessions of a meeting type. */
export async function openSessionsOf(page: Page, type: string): Promise<void> {
  await page.goto('/types')
  await page.getByRole('button', { name: type, exact: true }).click()
  await page.getByRole('navigation', { name: `Parts of ${type}` }).getByRole('link', { name: 'Sessions' }).click()
  await expect(page.getByRole('heading', { name: 'Coming sessions' })).toBeVisible()
}
