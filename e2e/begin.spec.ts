import { expect, test } from '@playwright/test'
import { emptyPorts } from './ports.ts'
import { chooseDay, expectAccessible, fillDetails, setupCode } from './steps.ts'

const base = `http://localhost:${emptyPorts.corrim}`

test('from an empty installation to a live page, left once and gone on with', async ({ page }) => {
  const began = Date.now()
  await page.goto(`${base}/`)
  await expect(page.getByRole('heading', { name: 'Set up your workspace' })).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Make the workspace' }).click()
  await expect(page.getByText('This is not the code.')).toBeVisible()
  await page.goto(`${base}/begin?code=${setupCode()}`)
  await page.getByLabel('What clients call you').fill('Lamp House')
  await page.getByLabel('Your own name').fill('Ada Monteiro')
  await page.getByLabel('Your mail address').fill('ada@lamphouse.example')
  await page.getByLabel('A password').fill('a lamp in the hall')
  await page.getByRole('button', { name: 'Make the workspace' }).click()

  await expect(page.getByRole('button', { name: 'These are my hours' })).toBeVisible()
  await expectAccessible(page)
  await page.getByRole('button', { name: 'These are my hours' }).click()
  await expect(page.getByRole('heading', { name: 'What this does to the coming days' })).toBeVisible()
  await page.getByRole('button', { name: 'Continue later' }).click()
  await expect(page.getByText('Setting up is not finished yet.')).toBeVisible()
  await page.getByRole('button', { name: 'Continue setting up' }).click()
  await page.getByLabel('How you meet').selectOption('by phone; we call the client')
  await page.getByRole('button', { name: 'Offer this' }).click()
  await page.getByRole('button', { name: 'Continue without colleagues' }).click()
  await page.goto(`${base}/p/lamp-house`)
  await expect(page.getByRole('heading', { name: 'Page not found' })).toBeVisible() // not published yet
  await page.goto(`${base}/begin`)
  await page.getByRole('button', { name: 'Publish the page' }).click()
  await expect(page.getByRole('heading', { name: 'Your page is live' })).toBeVisible()
  await expectAccessible(page)
  const path = (await page.getByRole('link', { name: /\/p\/lamp-house$/ }).getAttribute('href')) ?? ''
  await page.getByRole('button', { name: 'Done' }).click()
  await expect(page.getByText('Setting up is not finished yet.')).toHaveCount(0)

  await page.goto(base + path)
  await page.getByRole('link', { name: 'First conversation' }).click()
  await (await chooseDay(page, 1)).first().click()
  await fillDetails(page, 'First Client', 'first@client.example')
  await page.getByLabel('Your phone number').fill('+351 210 000 000')
  await page.getByRole('button', { name: /^Book \d/ }).click()
  await expect(page.getByRole('heading', { name: 'Your meeting is booked.' })).toBeVisible()
  test.info().annotations.push({ type: 'from nothing to the first booking', description: `${Date.now() - began} ms` })
})
