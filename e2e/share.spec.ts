import { HtmlValidate } from 'html-validate'
import { expect, type Page } from '@playwright/test'
import { museum, ports } from './ports.ts'
import { comingMonday, daysAfter, expectAccessible, fillDetails, mailTo, ofType, otherWindow, signInAs } from './steps.ts'
import { test } from './turned.ts'

/** Opens what a type is shared with. */
async function share(page: Page, type: string): Promise<void> {
  await page.goto('/types')
  await ofType(page, type, 'Share')
  await expect(page.getByLabel('Address to share')).toBeVisible()
}

/** What is wrong with a document as HTML (html-validate). */
async function faultsOf(html: string): Promise<string[]> {
  const report = await new HtmlValidate({ extends: ['html-validate:standard'], rules: { 'no-trailing-whitespace': 'off', 'no-inline-style': 'off' } }).validateString(html)
  return report.results.flatMap(({ messages }) => messages.map(({ line, message }) => `${line}: ${message}`))
}

test('a link is prepared with answers and a name, and its bookings carry the name', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await signInAs(page, 'Ines Valadares')
  await share(page, 'Gallery light survey')
  await page.getByLabel('How many rooms?').fill('7')
  await page.getByLabel('Textiles').check()
  await page.getByLabel('Client’s name').fill('Silo Museum')
  await page.getByLabel('Language of the page').selectOption('Deutsch')
  await expect(page.getByLabel('Address to share')).toContainText('q.')
  await page.getByRole('button', { name: 'Keep what is chosen as a link' }).click()
  await expect(page.getByText('Say in 1 to 80 letters what the link is for')).toBeVisible()
  await page.getByLabel('What the link is for').fill('Autumn <b>newsletter</b>')
  await page.getByRole('button', { name: 'Keep what is chosen as a link' }).click()
  const link = page.getByRole('list', { name: 'Named links' }).getByRole('listitem')
  await expect(link).toContainText('Autumn <b>newsletter</b>')
  await expect(link).toContainText('opened 0 times, 0 booked')
  await expectAccessible(page, ['iframe'])
  await link.getByRole('button', { name: 'Copy' }).click()
  await expect(link.getByText('Copied')).toBeVisible()
  const address = await page.evaluate(() => navigator.clipboard.readText())
  expect(address).toMatch(/\/p\/quillmere\/survey\?via=[a-z2-7]{8}$/)

  const client = await otherWindow(context, true)
  await client.goto(address)
  await expect(client.getByLabel('How many rooms?')).toHaveValue('7')
  await expect(client.locator('html')).toHaveAttribute('lang', 'de')
  await expect(client.getByLabel('Textiles')).toBeChecked()
  await expect(client.getByLabel('Oil paintings')).not.toBeChecked()
  await client.getByRole('button', { name: /\b([2-9]|\d\d+) frei/ }).nth(3).click()
  await client.getByRole('region', { name: /^(Morgens|Vormittag|Nachmittag|Abend|Nacht|Am Morgen)/i }).getByRole('button').first().click()
  await client.getByLabel('Name', { exact: true }).fill('Silo Museum')
  await client.getByLabel('E-Mail', { exact: true }).fill('post@silo-link.example')
  await client.getByRole('button', { name: /buchen$/ }).click()
  await expect(client.getByRole('heading', { level: 1 })).toContainText(/gebucht|Termin/)
  await page.reload()
  await expect(link).toContainText('opened once, 1 booked')
  // Its address stays, whatever it is to say from now on.
  await link.getByRole('button', { name: /^Take up/ }).click()
  await expect(page.getByLabel('How many rooms?')).toHaveValue('7')
  await page.getByLabel('How many rooms?').fill('9')
  const changed = page.waitForResponse((response) => response.request().method() === 'PUT')
  await link.getByRole('button', { name: /^Change/ }).click()
  await changed
  await expect.poll(async () => (await (await page.request.get(`/api/public/quillmere/survey/prepared?says=${new URL(address).search.slice(1)}`)).json()).said.rooms).toEqual(['9'])

  await page.keyboard.press('/')
  await page.getByRole('combobox').fill('silo-link')
  await page.getByRole('option', { name: /Gallery light survey/ }).click()
  await expect(page.getByRole('dialog')).toContainText('Autumn <b>newsletter</b>')
})

test('times for a letter are links to the page; one that is gone offers the nearest', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await signInAs(page, 'Siew Lin Dao')
  await share(page, 'Lux meter lesson')
  await page.getByRole('button', { name: 'The next five' }).click()
  const letter = page.getByRole('note', { name: 'The text' })
  await expect(letter.getByRole('listitem')).toHaveCount(5)
  await page.getByLabel('Language of the letter').selectOption('Nederlands')
  await page.getByLabel('On whose clock').selectOption('Europe/Amsterdam')
  await expect(letter).toContainText('tijd in Amsterdam')
  await expectAccessible(page, ['iframe'])
  await page.getByRole('button', { name: 'Copy the text' }).click()

  // Picked ones can be kept for one client.
  await page.getByLabel('Day', { exact: true }).fill(daysAfter(comingMonday(), 1))
  await page.getByLabel('Time', { exact: true }).fill('18:40')
  await page.getByRole('button', { name: 'Add this time' }).click()
  await page.getByRole('button', { name: 'Keep them for one client …' }).click()
  const offer = page.getByRole('dialog')
  await expect(offer.getByLabel('Keep these times for them until then; nobody else can book them.')).toBeChecked()
  await expect(offer.getByRole('list', { name: 'Picked times' }).getByRole('listitem')).toHaveCount(1)
  await offer.getByLabel('Client', { exact: true }).fill('Hull Rope Museum')
  await offer.getByRole('button', { name: /^Offer/ }).click()
  await expect(offer.getByText('Whoever has this link can take one of the times, once:')).toBeVisible()
  await page.keyboard.press('Escape')

  // Into something that takes HTML, as mail programs do, it pastes as links.
  const mail = await context.newPage()
  await mail.setContent('<div contenteditable aria-label="Letter"></div>')
  await mail.getByLabel('Letter').click()
  await mail.keyboard.press('Control+V')
  await expect(mail.getByLabel('Letter').getByRole('link')).toHaveCount(6)
  const address = (await mail.getByLabel('Letter').getByRole('listitem').nth(1).getByRole('link').getAttribute('href')) ?? ''
  expect(await faultsOf(await mail.getByLabel('Letter').innerHTML())).toEqual([])

  const first = await otherWindow(context, true)
  const second = await otherWindow(context, true)
  await first.goto(address)
  await expect(first.getByRole('button', { name: /^Book \d/ })).toBeEnabled()
  await fillDetails(first, 'Hull Rope Museum', 'desk@hullrope.example')
  await first.getByRole('button', { name: /^Book \d/ }).click()
  await expect(first.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  await second.goto(address)
  await expect(second.getByText(/is no longer open\.$/)).toBeVisible()
  await expectAccessible(second)
  await second.getByRole('alert').getByRole('button').first().click()
  await expect(second.getByRole('button', { name: /^Book \d/ })).toBeEnabled()
})

test('what is shared is pasted into a signature, printed and scanned; old short names lead on', async ({ page, context, request }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write'])
  await signInAs(page, 'Ines Valadares')
  await page.goto('/people')
  await page.getByRole('link', { name: 'Share the page of Torvald Brekke' }).click()
  await expect(page.getByLabel('Address to share')).toContainText('/p/quillmere/with/torvald-brekke')
  await page.getByLabel('In which language').selectOption('Français')
  await expect(page.getByRole('note', { name: 'The line' })).toContainText('Choisir un horaire avec Torvald Brekke')
  await page.getByRole('button', { name: 'Copy the line' }).click()
  const mail = await context.newPage()
  await mail.setContent('<div contenteditable aria-label="Signature"></div>')
  await mail.getByLabel('Signature').click()
  await mail.keyboard.press('Control+V')
  await expect(mail.getByRole('link', { name: 'Choisir un horaire avec Torvald Brekke' })).toHaveAttribute('href', /with\/torvald-brekke/)

  for (const [size, width, height] of [['a4', 595, 842], ['a6', 298, 420], ['card', 241, 156]] as const) {
    const sheet = await page.request.get(`/api/share/sheet?kind=person&id=2&size=${size}&language=fr`)
    expect(await faultsOf(await sheet.text()), size).toEqual([])
    const printed = await context.newPage()
    await printed.goto(`/api/share/sheet?kind=person&id=2&size=${size}&language=fr`)
    await expectAccessible(printed)
    const pdf = (await printed.pdf({ preferCSSPageSize: true })).toString('latin1')
    expect(pdf.match(/\/Type\s*\/Page\b/g), `${size}: one page`).toHaveLength(1)
    const [, w, h] = /\/MediaBox\s*\[\s*0 0 ([\d.]+) ([\d.]+)/.exec(pdf) ?? []
    expect(Math.abs(Number(w) - width) + Math.abs(Number(h) - height), `${size} in points`).toBeLessThan(4)
    await printed.close()
  }

  // A team has a page; its short name of before leads to it.
  await page.goto('/people')
  await page.getByRole('button', { name: 'Change Team North' }).click()
  const form = page.getByRole('form', { name: 'Team North' })
  await form.getByLabel(/^Short name/).fill('northern-lights')
  await form.getByRole('button', { name: /^Save/ }).click()
  await expect(form).toHaveCount(0)
  await page.goto('/p/quillmere/team/team-north')
  await expect(page).toHaveURL(/\/team\/northern-lights$/)
  await expect(page.getByRole('heading', { name: 'Team North' })).toBeVisible()
  await expect(page.getByRole('link', { name: 'Light advice call' })).toBeVisible()
  await expectAccessible(page)

  // Where a link is pasted, its page's card stands; robots are told nothing of pages that are not listed.
  const listed = await request.get('/p/quillmere/survey?language=de')
  const html = await listed.text()
  expect(html).toContain('<html lang="de"')
  expect(html).toContain('<meta property="og:title" content="Gallery light survey">')
  const picture = await request.get(new URL(/og:image" content="([^"]+)"/.exec(html)?.[1] ?? '').pathname)
  expect(picture.headers()['content-type']).toBe('image/png')
  const byLink = await request.get('/p/quillmere/urgent')
  expect(byLink.headers()['x-robots-tag']).toBe('noindex, nofollow')
  expect(await byLink.text()).not.toContain('og:title')
})

test('a museum has the page inside its own, behind a button, and as a link; it hears what happens', async ({ page, request }) => {
  await page.goto(museum)
  const inside = page.frameLocator('corrim-page iframe')
  await expect(inside.getByRole('group', { name: 'Days' })).toBeVisible()
  await expect(page.getByRole('log')).toContainText('opened')
  const frame = page.locator('corrim-page iframe')
  await expect.poll(async () => (await frame.boundingBox())?.height ?? 0, 'as tall as its content').toBeGreaterThan(900)
  expect(await inside.locator('html').evaluate((html) => html.scrollHeight - html.clientHeight), 'nothing scrolls inside').toBeLessThanOrEqual(1)
  await expectAccessible(page)
  await inside.getByRole('group', { name: 'Days' }).getByRole('button', { name: /\b([2-9]|\d\d+) open$/ }).nth(6).click()
  await inside.getByRole('region', { name: /^(Night|Morning|Afternoon|Evening)$/ }).getByRole('button').first().click()
  await inside.getByLabel('Name', { exact: true }).fill('Orbec Visitor')
  await inside.getByLabel('Mail', { exact: true }).fill('visitor@orbec.example')
  await inside.getByRole('button', { name: /^Book \d/ }).click()
  await expect(inside.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  await expect(page.getByRole('log')).toHaveText(/^opened chosen booked\s*$/)
  await mailTo(request, 'visitor@orbec.example', 1)

  // By keys alone: the button opens a dialog that keeps the focus, Escape shuts it, and the focus is where it was.
  await page.goto(`${museum}/button`)
  const button = page.getByRole('button', { name: 'Choose a time for a call' })
  await button.focus()
  await page.keyboard.press('Enter')
  const dialog = page.getByRole('dialog')
  await expect(dialog.frameLocator('iframe').getByRole('group', { name: 'Days' })).toBeVisible()
  await expect(async () => { // what is focused before the page lives is drawn anew
    await page.keyboard.press('Tab')
    await expect(dialog.frameLocator('iframe').locator(':focus')).toBeVisible({ timeout: 500 })
  }).toPass()
  await page.keyboard.press('Escape')
  await expect(dialog).toBeHidden()
  await expect(button).toBeFocused()
  await expectAccessible(page)

  // Another one on the same page, which says by attributes what is wanted.
  await page.getByRole('button', { name: 'Räume ansehen lassen' }).click()
  const second = page.getByRole('dialog', { name: 'Räume ansehen lassen' }).frameLocator('iframe')
  await expect(second.getByRole('heading', { level: 1 })).toContainText('Gallery light survey')
  await expect(second.locator('html')).toHaveAttribute('lang', 'de')
  await expect(second.getByLabel('How many rooms?')).toHaveValue('3')
  await page.getByRole('button', { name: 'Schließen' }).click()
  await expect(page.getByRole('dialog')).toHaveCount(0)

  // The page of the workspace inside leads to its types inside.
  await page.evaluate(() => {
    const first = document.querySelector('corrim-page')
    first?.removeAttribute('type')
    for (const link of document.querySelectorAll<HTMLAnchorElement>('corrim-page a')) link.href = link.href.replace('/loan-call', '')
    first?.setAttribute('as', 'inside')
  })
  const shown = page.frameLocator('corrim-page[as=inside] iframe')
  await shown.getByRole('link', { name: 'Daylight walk-through' }).click()
  await expect(shown.getByRole('group', { name: 'Days' })).toBeVisible()
  await expect(shown.getByRole('banner')).toHaveCount(0)

  await page.goto(`${museum}/link`)
  await page.getByRole('link', { name: 'Choose a time for a call' }).click()
  await expect(page).toHaveURL(new RegExp(`:${ports.corrim}/p/quillmere/loan-call`))
})

test('only sites that may show the page inside theirs; elsewhere a link stands', async ({ page, context, browser }) => {
  const warnings: string[] = []
  page.on('console', (message) => warnings.push(message.text()))
  await page.goto(`${museum}/strict`) // its own policy lets no frame in
  await expect(page.getByRole('link', { name: 'Choose a time for a call' })).toBeVisible()
  expect(warnings.join()).toContain(`add http://localhost:${ports.corrim} to frame-src`)

  const owner = await otherWindow(context)
  await signInAs(owner, 'Ines Valadares')
  await owner.goto('/workspace#embedding')
  const who = owner.getByLabel('Who may show your pages inside theirs')
  await who.selectOption('these sites')
  await owner.getByLabel('The sites, one in each line').fill('museum of orbec')
  await owner.getByRole('button', { name: /^Save/ }).click()
  await expect(owner.getByText(/is not the beginning of a web address/).first()).toBeVisible()
  await owner.getByLabel('The sites, one in each line').fill(`https://elsewhere.example/with/a/path`)
  await owner.getByRole('button', { name: /^Save/ }).click()
  await expect(owner.getByRole('button', { name: /^Save/ })).toHaveCount(0)
  await page.goto(museum)
  const inside = page.frameLocator('corrim-page iframe')
  await expect(inside.getByRole('link', { name: 'Open it on its own' })).toBeVisible()

  // A browser that doesn't say where it is is held to the policy.
  const silent = await (await browser.newContext({ extraHTTPHeaders: { Referer: '' } })).newPage()
  await silent.goto(museum)
  await expect(silent.frameLocator('corrim-page iframe').getByRole('group', { name: 'Days' })).toHaveCount(0)

  await owner.getByLabel('The sites, one in each line').fill(`https://elsewhere.example\n${museum}`)
  await owner.getByRole('button', { name: /^Save/ }).click()
  await expect(owner.getByRole('button', { name: /^Save/ })).toHaveCount(0)
  await page.goto(museum)
  await expect(inside.getByRole('group', { name: 'Days' })).toBeVisible()
  await who.selectOption('anybody')
  await owner.getByRole('button', { name: /^Save/ }).click()
  await expect(owner.getByRole('button', { name: /^Save/ })).toHaveCount(0)
})
