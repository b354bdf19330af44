import { expect, type Locator } from '@playwright/test'
import { emptyPorts } from './ports.ts'
import { chooseDay, expectAccessible, fillDetails, otherWindow, setupCode } from './steps.ts'
import { test } from './turned.ts'

const base = `http://localhost:${emptyPorts.corrim}`

test('from an empty installation to a live page in at most 15 presses, left once and gone on with', async ({ page, context }) => {
  const began = Date.now()
  let presses = 0
  const press = async (target: Locator) => {
    presses++
    await target.click()
  }
  const button = (name: string) => page.getByRole('button', { name, exact: true })
  const type = async (field: string, text: string) => {
    await press(page.getByLabel(field, { exact: true }))
    await page.keyboard.type(text)
  }
  await page.goto(`${base}/`)
  await expect(page.getByRole('heading', { name: 'Set up your workspace' })).toBeVisible()
  await expectAccessible(page)
  await button('Make the workspace').click()
  await expect(page.getByText('This is not the code.')).toBeVisible()
  await page.goto(`${base}/begin?code=${setupCode()}`)
  await type('What clients call you', 'Lamp House')
  await type('Your own name', 'Ada Monteiro')
  await type('Your mail address', 'ada@lamphouse.example')
  await type('A password', 'a lamp in the hall')
  await press(button('Make the workspace'))

  await expect(button('These are my hours')).toBeVisible()
  await expectAccessible(page)
  await press(button('These are my hours'))
  await expect(page.getByRole('heading', { name: 'What this does to the coming days' })).toBeVisible()
  await press(button('Continue later'))
  await expect(page.getByText('Setting up is not finished yet.')).toBeVisible()
  await press(button('Continue setting up'))
  await page.getByLabel('How you meet').selectOption('by phone; we call the client')
  await press(button('Offer this'))
  await page.getByLabel('Name', { exact: true }).fill('Half Typed')
  await expect(page.getByText('The invitation of Half Typed is not sent yet.')).toBeVisible()
  await press(button('Continue without colleagues'))
  const stranger = await otherWindow(context)
  for (const hidden of ['', '/first-conversation']) {
    await stranger.goto(`${base}/p/lamp-house${hidden}`)
    await expect(stranger.getByRole('heading', { name: 'Page not found' }), 'not published yet').toBeVisible()
  }
  await stranger.context().close()
  await page.goto(`${base}/begin`)
  await expect(page.getByText('“First conversation”, 30 minutes, at')).toContainText('with your name, Ada Monteiro')
  await expectAccessible(page)
  await press(button('Publish the page'))
  await expect(page.getByRole('heading', { name: 'Your page is live' })).toBeVisible()
  expect(presses).toBeLessThanOrEqual(15)
  await expectAccessible(page)
  const path = (await page.getByRole('link', { name: /\/p\/lamp-house$/ }).getAttribute('href')) ?? ''
  await button('Done').click()
  await expect(page).toHaveURL(`${base}/`) // it is done, and leads on
  await expect(page.getByText('Setting up is not finished yet.')).toHaveCount(0)
  await page.getByRole('link', { name: 'People' }).click()
  await expect(page.getByLabel('Name', { exact: true }), 'it waits').toHaveValue('Half Typed')

  // A server of one’s own network is found without its scheme; what was tried is said.
  await page.getByRole('link', { name: 'Calendars' }).click()
  const account = page.getByRole('form', { name: 'Connect calendars' })
  await account.getByLabel('Server address').fill(`localhost:${emptyPorts.calendar}`)
  await account.getByLabel('User name').fill('newcomer')
  await account.getByLabel('Password').fill('wrong')
  await account.getByRole('button', { name: 'Connect' }).click()
  await expect(account.getByRole('alert')).toContainText(`Tried: https://localhost:${emptyPorts.calendar} and http://localhost:${emptyPorts.calendar}.`)
  await account.getByLabel('Password').fill('light')
  await account.getByRole('button', { name: 'Connect' }).click()
  await expect(page.getByRole('heading', { name: 'Diary' }).or(page.getByText('Diary', { exact: true })).first()).toBeVisible()

  await page.goto(base + path)
  await page.getByRole('link', { name: 'First conversation' }).click()
  await (await chooseDay(page, 1)).first().click()
  await fillDetails(page, 'First Client', 'first@client.example')
  await page.getByLabel('Your phone number').fill('+351 210 000 000')
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  test.info().annotations.push({ type: 'from nothing to the first booking', description: `${Date.now() - began} ms` })
})
