import { expect, type Page } from '@playwright/test'
import { agree, comingMonday, expectAccessible, signInAs } from './steps.ts'
import { test } from './turned.ts'

const views: [path: string, heading: string][] = [
  ['/', '(Montag|Dienstag|Mittwoch|Donnerstag|Freitag|Samstag|Sonntag), \\d+\\. \\p{L}+'],
  ['/board', 'Tafel'],
  ['/types', 'Terminarten'],
  ['/types/new', 'Neue Terminart'],
  ['/hours', 'Ihre Woche'],
  ['/calendars', 'Kalender'],
  ['/people', 'Personen'],
  ['/clients', 'Kunden'],
  ['/messages', 'Nachrichten'],
  ['/workspace', 'Arbeitsbereich'],
  ['/workspace/looks', 'Aussehen'],
  ['/share/workspace/0', 'Quillmere Light Advisers teilen'],
]

const languageBox = (page: Page) => page.getByLabel(/^(Sprache|Language)$/)

/** Somebody of the demo reads German for a while. */
async function inGerman(page: Page, journey: () => Promise<void>): Promise<void> {
  await page.goto('/account')
  await languageBox(page).selectOption('Deutsch')
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Ihr Konto')
  await journey()
  await page.goto('/account')
  await languageBox(page).selectOption('English')
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Your account')
}

test('a browser that asks for German is let in in German; then people read their own language, in every view', async ({ browser }) => {
  test.slow() // eleven views, each looked at with axe
  const context = await browser.newContext({ locale: 'de-DE', timezoneId: 'Europe/Lisbon' })
  const page = await context.newPage()
  await page.goto('/')
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('Anmelden')
  await page.getByLabel('E-Mail').fill('ines@quillmere.example')
  await page.getByLabel('Passwort', { exact: true }).fill('not hers at all')
  await page.getByRole('button', { name: 'Anmelden', exact: true }).click()
  await expect(page.getByText(/E-Mail und Passwort gehören nicht zusammen/)).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Ines Valadares' }).click()
  await expect(page.getByRole('navigation', { name: 'Views' }), 'she reads English').toBeVisible()
  await inGerman(page, async () => {
    for (const [path, heading] of views) {
      await page.goto(path)
      await expect(page.getByRole('heading', { level: 1 })).toHaveText(new RegExp(`^${heading}$`, 'u'))
      await expect(page.locator('html')).toHaveAttribute('lang', 'de')
      await expectAccessible(page, ['iframe'])
    }
  })
  await context.close()
})

test('people are refused, told why, and understood in German', async ({ page }) => {
  await signInAs(page, 'Ines Valadares')
  await inGerman(page, async () => {
    await ruleRefused(page)
    await reasonsRead(page)
    await exceptionWritten(page)
  })
})

/** What the server refuses, it says in German too. */
async function ruleRefused(page: Page): Promise<void> {
  await page.goto('/types')
  await page.getByRole('button', { name: 'Gallery light survey', exact: true }).click()
  const step = page.getByLabel('Startraster in Minuten')
  await step.fill('0')
  await expect(page.getByText('Zwischen zwei Startzeiten liegen 1 bis 1440 Minuten.')).toBeVisible()
  await page.getByRole('button', { name: 'Änderungen verwerfen' }).click()
  await page.getByRole('link', { name: 'Buchungsseite' }).click()
  await expect(page.getByRole('region', { name: /Formular/ }).getByRole('heading', { name: 'Ihre Angaben' })).toBeVisible()
}

async function reasonsRead(page: Page): Promise<void> {
  await page.goto(`${page.url().replace(/\/booking-page$/, '')}/why/${comingMonday()}?at=600`)
  await expect(page.getByText('Für Kunden frei')).toBeVisible()
  await expect(page.getByText('Arbeitszeiten', { exact: true }).last()).toBeVisible()
  await expectAccessible(page)
}

async function exceptionWritten(page: Page): Promise<void> {
  await page.goto('/hours')
  const box = page.getByLabel('Ein Datum und was anders ist')
  await box.fill('32. Juni geschlossen')
  await expect(page.getByText(/es gibt keinen/)).toBeVisible()
  await box.fill('14. Mai geschlossen')
  await expect(page.getByText(/^Gelesen als: .*14\. Mai.*geschlossen/)).toBeVisible()
  await page.getByRole('button', { name: 'Hinzufügen' }).click()
  const undo = page.getByRole('button', { name: /^Rückgängig: / })
  await expect(undo).toContainText('14. Mai')
  await undo.click()
  await agree(page, 'Rückgängig machen')
  await expect(page.getByRole('button', { name: /14\. Mai.* entfernen$/ })).toHaveCount(0)
}
