import { expect } from '@playwright/test'
import { inbox } from './ports.ts'
import { expectAccessible, mailTo, signInAs, signOut } from './steps.ts'
import { test } from './turned.ts'

test('a forgotten password is chosen anew by mail, and sessions are seen', async ({ page, browser, request }) => {
  const address = 'noor@quillmere.example'
  const linkIn = async (count: number, pattern: RegExp) => {
    const [mail] = await mailTo(request, address, count)
    return pattern.exec(await (await request.get(`${inbox}${mail?.path}`)).text())?.[0] ?? ''
  }
  await signInAs(page, 'Ines Valadares')
  await page.goto('/people')
  await page.getByLabel('Name', { exact: true }).fill('Noor Haddad')
  await page.getByLabel('Mail', { exact: true }).fill(address)
  await page.getByRole('button', { name: 'Send the invitation' }).click()
  await expect(page.getByText(address)).toBeVisible()
  const theirs = await browser.newContext({ timezoneId: 'Europe/Lisbon' })
  const noor = await theirs.newPage()
  await noor.goto(await linkIn(1, /\/join\/[\w-]+/))
  await noor.getByLabel('A password').fill('password1234')
  await noor.getByRole('button', { name: 'Begin' }).click()
  await expect(noor.getByText(/easily guessed/)).toBeVisible()
  await noor.getByLabel('A password').fill('a lamp in the hall')
  await noor.getByRole('button', { name: 'Begin' }).click()
  await expect(noor.getByRole('navigation', { name: 'Views' })).toBeVisible()
  await signOut(noor)

  await noor.getByLabel('Mail').fill(address)
  await noor.getByRole('button', { name: 'Forgot your password?' }).click()
  await expect(noor.getByText(/is on its way/)).toBeVisible()
  await noor.goto(await linkIn(2, /\/reset\/[\w-]+/))
  await expectAccessible(noor)
  await noor.getByLabel('New password').fill('some quite new words')
  await noor.getByRole('button', { name: 'Change password' }).click()
  await noor.getByRole('link', { name: 'Sign in' }).click()
  await noor.getByLabel('Mail').fill(address)
  await noor.getByLabel('Password').fill('a lamp in the hall')
  await noor.getByRole('button', { name: 'Sign in', exact: true }).click()
  await expect(noor.getByText(/don't belong together/)).toBeVisible()
  await noor.getByLabel('Password').fill('some quite new words')
  await noor.getByRole('button', { name: 'Sign in', exact: true }).click()
  await noor.getByRole('link', { name: 'Noor Haddad' }).click()
  await expect(noor.getByText('Here', { exact: true })).toBeVisible()
  await expectAccessible(noor)
  await noor.getByLabel('Present password').fill('wrong')
  await noor.getByLabel('New password').fill('other words again')
  await noor.getByRole('button', { name: 'Change password' }).click()
  await expect(noor.getByText('This is not your password.')).toBeVisible()
  await noor.getByLabel('Language', { exact: true }).selectOption('Deutsch')
  await noor.getByLabel('Jetziges Passwort').fill('some quite new words')
  await noor.getByLabel('Neues Passwort').fill('other words again')
  await noor.getByRole('button', { name: 'Passwort ändern' }).click()
  await expect(noor.getByText('Ihr Passwort ist geändert.')).toBeVisible()
  await expect.poll(async () => (await mailTo(request, address, 3)).map((mail) => mail.subject)).toContain('Ihr Passwort wurde geändert')
  await theirs.close()
})
