import { expect, test } from '@playwright/test'
import { expectAccessible, signInAs } from './steps.ts'

test('what is mailed before and after meetings is set up as sentences, and seen before it goes out', async ({ page }) => {
  await signInAs(page, 'Ines Valadares')
  await page.keyboard.press('8')
  await expect(page.getByRole('heading', { name: 'Messages', level: 1 })).toBeVisible()
  const ahead = page.getByRole('region', { name: 'What will be sent' })
  await expect(ahead.getByRole('listitem').first()).toContainText(/Reminder: /)
  await expectAccessible(page)

  // A change says what it brings and takes back before it is saved.
  await page.getByLabel('Message 1: how long').fill('30')
  await expect(ahead.getByRole('status')).toHaveText(/^Your change brings \d+ messages and takes \d+ messages? back\.$/)
  await expect(ahead.getByRole('listitem').filter({ hasText: 'new: ' }).first()).toBeVisible()
  await page.getByRole('button', { name: 'Add a message' }).click()
  await page.getByLabel('Message 5: before or after').selectOption('after')
  await page.getByLabel('Message 5: when not always').selectOption('attended')
  await page.getByLabel('Message 5: how long').fill('0')
  await expect(page.getByRole('alert').filter({ hasText: 'between a minute and 30 days' })).toBeVisible()
  await page.getByRole('button', { name: 'Save changes' }).click()
  await expect(page.getByLabel('Message 5: how long'), 'nothing typed is lost').toHaveValue('0')
  await page.getByLabel('Message 5: how long').fill('1')
  await page.getByLabel('Message 5: unit').selectOption('days')
  await expectAccessible(page)
  await page.getByRole('button', { name: 'Save changes' }).click()
  await expect(page.getByText('not saved')).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('list', { name: 'What is mailed by the clock' }).getByRole('listitem')).toHaveCount(5)
  await page.getByRole('button', { name: /^Undo: Messages/ }).click()
  await page.getByRole('button', { name: 'Undo it' }).click()
  await expect(page.getByRole('list', { name: 'What is mailed by the clock' }).getByRole('listitem')).toHaveCount(4)
})

test('who may not change them reads them, and sees only what is sent about their own meetings', async ({ page }) => {
  await signInAs(page, 'Siew Lin Dao')
  await page.goto('/messages')
  await expect(page.getByLabel('Message 1: how long')).toBeDisabled()
  await expect(page.getByRole('button', { name: 'Add a message' })).toHaveCount(0)
  await expect(page.getByRole('region', { name: 'What will be sent' })).not.toContainText('Museu da Ria')
  await expectAccessible(page)
})
